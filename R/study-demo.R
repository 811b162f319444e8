#' Demo data: an evening language school for adults
#'
#' Made-up data of a school with five centres, used in the examples.
#'
#' @param name One of `"learners"` (240 learners), `"town_years"` (yearly series of the town), `"pulse_week_14"` and
#'   `"pulse_week_15"` (a short tutor survey in two weeks), `"dial"` (dial settings and measured levels),
#'   `"feedback"` (an unedited export of the end-of-term form: two rows of headings, text answers, several answers in
#'   one cell), `"test_items"` (a multiple-choice placement test of twelve items), `"survey_2024"` (learners in classes
#'   in districts, with weights, replicate weights and plausible values of one score), `"three_terms"` (130 learners in
#'   three terms).
#' @return `demo_study()`: a study with its codebook. `demo_file()`: the path of the file, one string.
#' @section Errors: `unsere_error_usage` if there is no such demo file.
#' @examples
#' demo_study("learners")
#' basename(demo_file("learners.csv"))
#' @export
demo_study <- function(name = "learners") read_study(demo_file(paste0(name, ".csv")))

#' @rdname demo_study
#' @export
demo_file <- function(name = "learners.csv") {
  files <- list.files(demo_folder())
  if (!is.character(name) || length(name) != 1L || !name %in% files) {
    abort_usage(
      problem("There is no demo file \"%s\".", paste(name, collapse = " ")),
      suggest_names(paste(name, collapse = " "), files, "demo files")
    )
  }
  file.path(demo_folder(), name)
}

demo_folder <- function() system.file("extdata", package = "unsere")
