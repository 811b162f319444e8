# A score that is known by several plausible values of each case: the evidence of each, combined.

#' Plausible values, under whichever scheme the cases have: it suits no sample, but joins what several show
#' @noRd
scheme_plausible <- function() {
  new_scheme("plausible",
    place = 1, described = "plausible values", suits = function(sample) FALSE,
    evidence = NULL, tests = "analytic", intervals = "analytic", products = FALSE
  )
}

#' The evidence of each plausible value combined into one
#'
#' @param evidence A list, one of each value; `sample` that of the values' means, which figures show.
#' @references Rubin (1987); Barnard & Rubin (1999), Biometrika 86, 948-955.
#' @noRd
combine_evidence <- function(evidence, sample, options) {
  first <- evidence[[1]]
  imputed <- sample$more$imputed
  of_each <- function(field) vapply(evidence, `[[`, 0, field)
  # Some of them may have gone the jackknife's route, and have fewer degrees of freedom.
  df <- stats::median(vapply(evidence, function(each) if (is.na(each$test$df)) each$n - 2 else each$test$df, 0))
  combined <- combine_values(fisher_z(of_each("r"), of_each("unexplained")), of_each("z_variance"), df)
  r <- tanh(combined$value)
  unexplained <- (1 - r) * (1 + r)
  further <- first$further[setdiff(names(first$further), c("groups", "largest"))]
  if (!is.null(sample$given)) further[c("given", "given_labels")] <- sample$given[c("names", "labels")]
  effects <- unlist(lapply(evidence, function(each) each$further$design_effect))
  if (length(effects)) further[c("n_effective", "design_effect")] <- list(first$n / mean(effects), mean(effects))
  do.call(new_evidence, c(
    list(
      "plausible", sample, first$estimate, r, unexplained, first$n,
      z_variance = combined$variance,
      test = test_from_z(
        r, unexplained, combined$variance, combined$df, options$expect, if (is.null(imputed)) "plausible" else "imputed"
      ),
      interval = c(
        interval_from_z(r, unexplained, combined$variance, options$confidence, combined$df),
        ci_method = if (is.null(imputed)) "plausible values" else "imputed data"
      ), plausible = length(evidence), share_between = combined$share
    ),
    if (!is.null(imputed)) list(imputed = imputed, missing_information = combined$missing), further
  ))
}
