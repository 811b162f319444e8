#' Declare plausible values
#'
#' A score that is known as several plausible values, as large-scale assessments give it, becomes one variable. [relate()]
#' then asks its question of each value and combines the answers (Rubin 1987). The plausible values themselves, and their
#' mean, stay out of matrices; the mean is what figures show.
#'
#' @param study A study, or a data frame.
#' @param name The name of the score; one string.
#' @param values Its plausible values: two names or more, or what tidyselect understands.
#' @param label A readable name; one string.
#' @return The study with the score.
#' @section Errors: `unsere_error_usage` for fewer than two values; `unsere_error_input` where the name is taken or a value
#'   holds text.
#' @references Rubin, D. B. (1987). *Multiple imputation for nonresponse in surveys*. Wiley. Barnard, J., & Rubin, D.
#'   B. (1999).
#'   Small-sample degrees of freedom with multiple imputation. *Biometrika*, 86, 948-955.
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

#' The plausible values of a variable, or the variable itself
#' @noRd
plausible_of <- function(study, name) or_default(study_plausible(study)[[name]], name)
