#' Write a report on one pair
#'
#' Writes a self-contained HTML page with the question, the answer in one sentence, the figure, the data and exclusions, the
#' tables, the line and the methods. It loads nothing from elsewhere, so it can be sent as a single file.
#'
#' @param study A study, or a data frame.
#' @param path The file to write; a name that ends in `.html`. A page written by Unsere is replaced, any other file is left
#'   unchanged.
#' @param x,y The explanatory variable and the response: bare names or strings.
#' @param title The title of the page; one string.
#' @param question The question that the page answers; one string.
#' @param confidence The confidence level of intervals, between 0 and 1. Default: .95.
#' @param expect The direction specified in advance, as for [relate()].
#' @param strength The scale of verbal labels for size, as for [relate()].
#' @param names How cases are named on the page: `"numbers"` (row numbers in the file), `"own"` (also as the tooltip of each
#'   dot), `"none"`. See [run_brief()] for what a brief passes on.
#' @return The path, invisibly.
#' @section Errors: As for [relate()]; `unsere_error_usage` if the name does not end in `.html`; `unsere_error_input`
#'   when the folder does not exist, or when the file was not written by Unsere.
#' @examples
#' page <- tempfile(fileext = ".html")
#' write_report(demo_study("learners"), page, practice_hours, speaking_score,
#'   question = "Is weekly practice related to the speaking score?"
#' )
#' @export
write_report <- function(study, path, x, y, title = NULL, question = NULL, confidence = 0.95, expect = "either",
                         strength = "cohen", names = "numbers") {
  study <- with_shared_names(check_study(study), one_of(names, c("own", "numbers", "none"), "names"))
  check_page_target(path)
  x <- pick_one(study, rlang::enquo(x), "x")
  y <- pick_one(study, rlang::enquo(y), "y")
  book <- study_book(study)
  labels <- inside_of(book, c(x, y))
  brief <- list(
    title = or_default(title, say("%s and %s", label_of(book, x), labels[2])),
    question = or_default(question, say("Are %s and %s correlated?", labels[1], labels[2])),
    pairs = list(list(x = x, y = y, expect = expect, shape = if (has_line(study, x, y)) "linear")),
    share = list(names = names), settings = list(confidence = confidence, strength = as_scale(strength))
  )
  results <- brief_results(list(brief = brief, path = path, single = TRUE), study)
  report <- lay_out_figures(new_report(results))
  replace_file(html_page(report), path)
  invisible(path)
}

# A straight line is told of wherever both variables can be drawn as numbers.
has_line <- function(study, x, y) all(level_of(study, c(x, y)) %in% c("numeric", "ordinal", "binary"))

as_scale <- function(strength) if (is.numeric(strength)) as.list(strength) else strength

check_page_target <- function(path) {
  if (!is_word(path) || !grepl("[.]html?$", path, ignore.case = TRUE)) {
    abort_usage("A page needs a name that ends in .html.", "For example write_report(study, \"report.html\", x, y).")
  }
  check_folder_of(path)
  if (file.exists(path) && !is_own_page(path)) {
    abort_input(problem("%s was not written by Unsere and is left alone.", path), "Give the page another name.")
  }
}
