#' Declare plausible values
#'
#' Combines the plausible values of one score, as large-scale assessments provide them, into one variable.
#' Each analysis is carried out for every plausible value and the results are pooled (Rubin 1987). The
#' plausible values themselves, and their mean, are excluded from matrices; figures show the mean.
#'
#' @param study A study, or a data frame.
#' @param name The name of the score; one string.
#' @param values Its plausible values: two names or more, or a tidyselect expression.
#' @param label A readable name; one string.
#' @return The study with the score.
#' @section Errors: `unsere_error_usage` for fewer than two values; `unsere_error_input` if the name is
#'   taken or a value contains text.
#' @references Rubin, D. B. (1987). *Multiple imputation for nonresponse in surveys*. Wiley. Barnard, J., &
#'   Rubin, D. B. (1999). Small-sample degrees of freedom with multiple imputation. *Biometrika*, 86,
#'   948-955.
#' @examples
#' learners <- demo_study("learners")
#' set.seed(5)
#' score <- as.data.frame(learners)$speaking_score
#' data <- as.data.frame(learners)["practice_hours"]
#' data$pv1 <- score + rnorm(240, 0, 4)
#' data$pv2 <- score + rnorm(240, 0, 4)
#' study <- set_plausible(data, "speaking", c(pv1, pv2))
#' relate(study, practice_hours, speaking)
#' @export
set_plausible <- function(study, name, values, label = NULL) {
  study <- check_study(study)
  with_plausible(study, name, pick_several(study, list(rlang::enquo(values))), label)
}

#' Some variables as often as they have plausible values, each time with another value in the place of its
#' score
#'
#' @return A list of character vectors as long as `names`; one alone where none has plausible values.
#' @section Errors: `unsere_error_usage` where two of them have different numbers of values.
#' @noRd
plausible_versions <- function(study, names) {
  values <- lapply(names, function(name) or_default(study_plausible(study)[[name]], name))
  several <- lengths(values)[lengths(values) > 1L]
  if (length(unique(several)) > 1L) {
    odd <- names[lengths(values) > 1L][match(unique(several), several)]
    abort_usage(
      problem("%s and %s have different numbers of plausible values.", odd[1], odd[2]), "Give both the same number."
    )
  }
  lapply(seq_len(max(lengths(values))), function(k) {
    vapply(values, function(of) of[min(k, length(of))], "")
  })
}
