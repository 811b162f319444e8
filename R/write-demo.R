# The full example: one pair, then a whole brief, on the demo data.

#' Run the full example
#'
#' Relates two variables of the demo data, prints the result, and writes the report of the demo's brief with its data beside
#' it: a page, a document, slides, tables and figures, as far as the packages that write them are installed.
#'
#' @param out The folder to write into, one string. Default: `"unsere-demo"` in the working directory.
#' @param quiet `TRUE` prints no progress. Default: `FALSE`.
#' @return The path of the folder, invisibly: one string. Its `report.html` is the page, its `data` the demo files to try
#'   things on.
#' @section Errors: `unsere_error_usage` if the folder holds other files; `unsere_error_input` if it cannot be written.
#' @seealso [open_desk()] for the same with the mouse, [run_brief()] for your own data.
#' @examples
#' \donttest{
#' run_demo(file.path(tempdir(), "unsere-demo"), quiet = TRUE)
#' }
#' @export
run_demo <- function(out = "unsere-demo", quiet = FALSE) {
  with_files({
    show_demo(out, quiet, door_r())
    if (!quiet) tell(say("The page: %s", file.path(out, "report.html")))
  })
  invisible(out)
}

show_demo <- function(folder, quiet, door) {
  if (!quiet) tell(say("Relating weekly practice and speaking score of the demo file learners.csv ..."))
  relation <- question_relate()$answer(demo_study("learners"), list(x = "practice_hours", y = "speaking_score"))
  writeLines(enc2native(format(relation, door = door)))
  if (!quiet) tell(say("Running the demo brief learners.yml ..."))
  run_brief(demo_file("learners.yml"), out = folder, quiet = quiet)
  lay_out_demo(file.path(folder, "data"))
}

# The demo's files, to be tried and changed; one that is there already may have been.
lay_out_demo <- function(folder) {
  dir.create(folder, showWarnings = FALSE)
  for (name in list.files(demo_folder())) {
    path <- file.path(folder, name)
    if (!file.exists(path)) copy_file(demo_file(name), path)
  }
}
