# A folder of results made anew, beside it: each of its files is then compared with its like.

#' The files of a run made anew in a folder of their own
#' @return The folder.
#' @noRd
remake_folder <- function(results) {
  folder <- tempfile("unsere-anew-")
  dir.create(folder)
  worker <- open_background()
  on.exit(worker$stop())
  forms_wanted <- as.character(unlist(or_default(results$brief$report$formats, list("html"))))
  forms <- suppressMessages(possible_forms(setdiff(forms_wanted, "pdf")))
  forms <- forms[names(forms) %in% forms_wanted]
  still <- function(text) NULL
  suppressMessages(write_results(new_report(results), results_document(results), forms, folder, NULL, still, worker))
  folder
}
