#' A simple random sample: independent cases that count alike
#' @noRd
scheme_simple <- function() {
  new_scheme("simple",
    place = 9, described = "independent cases", suits = function(sample) TRUE,
    evidence = evidence_simple, products = FALSE, corrected = TRUE
  )
}

evidence_simple <- function(sample, record, options) {
  resampled <- "bootstrap" == options$interval || "permutation" == options$test
  draws <- if (resampled) resampling_plan(options$resamples, options$seed, options$threads)
  estimate <- record$estimate(sample)
  test <- test_estimate(estimate, options$test, options$expect, draws)
  level <- interval_level(record, options$confidence)
  do.call(new_evidence, c(list(
    "simple", sample, estimate, estimate$r, estimate$unexplained, estimate$n,
    z_variance = if (!is.null(record$z_variance)) record$z_variance(estimate$r, estimate$n), test = test,
    interval = interval_estimate(estimate, options$interval, level, draws),
    groups = groups_of(sample, record), largest = largest_of(sample, record, estimate$r),
    seed = or_default(draws$seed, test$seed), resamples = or_default(draws$resamples, test$resamples)
  ), record$details(estimate)))
}
