#' A simple random sample: independent cases that count alike
#' @noRd
scheme_simple <- function() {
  new_scheme("simple",
    place = 9, described = "independent cases", suits = function(sample) TRUE,
    evidence = evidence_simple, products = FALSE, corrected = TRUE
  )
}

evidence_simple <- function(sample, record, options) {
  route <- settle_route(record, record$estimate(sample), options)
  estimate <- route$estimate
  resampled <- any(c(route$test, route$interval) %in% c("bootstrap", "permutation"))
  draws <- if (resampled) resampling_plan(options$resamples, options$seed, options$threads)
  level <- interval_level(record, options$confidence)
  test <- test_estimate(estimate, route$test, options$expect, draws)
  interval <- interval_estimate(estimate, route$interval, level, draws)
  # One of the two was asked for, and has no kin among the other: of zero they still say the same.
  if (route$one_asked && options$interval == "auto" && route$test != route$interval && options$expect == "either") {
    interval <- agree_about_zero(interval, test$p, options$confidence)
  }
  robust <- route$interval == "jackknife"
  variance <- if (robust) spread_of_estimate(estimate)$variance else if (!is.null(record$z_variance)) {
    record$z_variance(estimate$r, estimate$n)
  }
  dependence <- dependence_of_sample(sample, estimate)
  fewer <- if (route$chosen && record$products) {
    by_effective_size(estimate, dependence, interval, options$expect, level)
  }
  evidence <- do.call(new_evidence, c(list(
    "simple", sample, estimate, estimate$r, estimate$unexplained, estimate$n,
    z_variance = or_default(fewer$z_variance, variance), test = or_default(fewer$test, test),
    interval = or_default(fewer$interval, interval), groups = groups_of(sample, record),
    largest = largest_of(sample, record, estimate$r),
    seed = or_default(draws$seed, test$seed), resamples = or_default(draws$resamples, test$resamples),
    textbook = if (route$chosen && robust || !is.null(fewer)) textbook_pair(record, estimate, options$expect, level),
    n_effective = if (!is.null(fewer)) dependence$effective
  ), record$details(estimate)))
  c(evidence, list(dependence = dependence))
}

#' What the textbook says where the data speak against it, for the details of a result
#' @noRd
textbook_pair <- function(record, estimate, expect, confidence) {
  c(
    record$intervals[[1]](estimate, confidence, NULL)[c("ci_low", "ci_high", "ci_method")],
    record$tests[[1]](estimate, expect, NULL)[c("statistic", "value", "df", "p")]
  )
}
