#' Write the page of a pair
#'
#' One self-contained HTML page: the question, the answer in a sentence, the picture, the data and what was left out,
#' the tables, the line, and how it was done. Nothing in it comes from elsewhere, so it can be sent as it is.
#'
#' @param study A study, or a data frame.
#' @param path Where the page goes; a name that ends in `.html`. A page written by Unsere is replaced, any other file is
#'   left alone.
#' @param x,y The two variables: bare names or strings. `x` explains, `y` responds.
#' @param title The title of the page; one string.
#' @param question The question it answers; one string.
#' @param confidence The coverage of intervals, between 0 and 1.
#' @param expect The direction predicted beforehand, as for [relate()].
#' @param strength The scale behind words for size, as for [relate()].
#' @return The path, invisibly.
#' @section Errors: as for [relate()]; `unsere_error_usage` when the name does not end in `.html`; `unsere_error_input`
#'   when the folder does not exist, or when the file was not written by Unsere.
#' @examples
#' page <- tempfile(fileext = ".html")
#' write_report(demo_study("learners"), page, practice_hours, speaking_score,
#'   question = "Does weekly practice go with a higher speaking score?")
#' @export
write_report <- function(study, path, x, y, title = NULL, question = NULL, confidence = 0.95, expect = "either",
                         strength = "cohen") {
  study <- check_study(study)
  x <- pick_one(study, rlang::enquo(x), "x")
  y <- pick_one(study, rlang::enquo(y), "y")
  write_report_names(study, path, x, y, title, question, confidence, expect, strength)
}

write_report_names <- function(study, path, x, y, title = NULL, question = NULL, confidence = 0.95, expect = "either",
                               strength = "cohen") {
  check_page_target(path)
  relation <- relate_names(study, x, y, expect = expect, confidence = confidence, strength = strength)
  fitted <- fit_line_names(study, x, y, confidence = confidence)
  variables <- relation$pair$variables
  if (is.null(question)) {
    question <- sprintf("Do %s and %s go together?", inside_of(variables, x), inside_of(variables, y))
  }
  if (is.null(title)) title <- sprintf("%s and %s", label_of(variables, x), inside_of(variables, y))
  page <- html_page(title, question, pair_sections(study, relation, fitted))
  replace_file(page, path)
  invisible(path)
}

check_page_target <- function(path) {
  if (!is.character(path) || length(path) != 1L || !grepl("[.]html?$", path, ignore.case = TRUE)) {
    abort_usage("A page needs a name that ends in .html.", "For example write_report(study, \"report.html\", x, y).")
  }
  if (!dir.exists(dirname(path))) abort_input(sprintf("There is no folder %s.", dirname(path)), "Make it first.")
  if (file.exists(path) && !any(grepl("name=\"generator\" content=\"Unsere", readLines(path, 30L, warn = FALSE),
    fixed = TRUE))) {
    abort_input(sprintf("%s was not written by Unsere and is left alone.", path), "Give the page another name.")
  }
}
