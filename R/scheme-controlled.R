#' Controlled variables: the partial, or semipartial, r of independent cases
#' @noRd
scheme_controlled <- function() {
  new_scheme("controlled",
    place = 3, described = "controlled variables",
    suits = function(sample) !is.null(sample$given), evidence = evidence_controlled, tests = c("analytic", "jackknife"),
    intervals = c("analytic", "jackknife")
  )
}

evidence_controlled <- function(sample, record, options) {
  part <- part_side(sample, options$part)
  partial <- partial_of_sample(sample, record, part = part)
  free <- length(partial$x) - partial$controls
  both <- partial$both
  requested <- c(options$test, options$interval)
  spread <- if (!is.null(part) || "jackknife" %in% requested || may_be_robust(record, requested, free)) {
    spread_of_left(partial_without_each(partial), free - 2)
  }
  chosen <- all(requested == "auto")
  robust <- "jackknife" %in% requested ||
    is.null(part) && may_be_robust(record, requested, free) && speaks_against(spread, free)
  by_z <- function(variance, df = Inf) interval_from_z(partial$r, partial$unexplained, variance, options$confidence, df)
  usual <- record$z_variance(partial$r, free)
  textbook <- test_student(both$r, both$unexplained, free, options$expect)
  interval <- if (robust) {
    c(by_z(spread$variance, spread$df), ci_method = "jackknife")
  } else if (!is.null(part)) {
    # Fisher's z presumes that both sides are residuals.
    limits <- c(by_z(spread$variance, spread$df), ci_method = "jackknife")
    if (options$expect == "either") agree_about_zero(limits, textbook$p, options$confidence) else limits
  } else {
    c(by_z(usual), ci_method = record$z_method)
  }
  estimate <- new_estimate(record$name, partial$x, partial$y, partial$r, partial$unexplained)
  left <- sample_of_residuals(sample, partial)
  dependence <- if (is.null(part)) dependence_of_sample(left, estimate) else list()
  sought <- chosen && is.null(part) && record$moments
  clusters <- if (sought) clusters_of_sample(left, list(
    record = record, estimate = estimate, r = estimate$r, alpha = alpha_of(options$confidence)
  ))
  fewer <- if (sought) dependent_residuals(estimate, clusters, dependence, interval, options, partial$controls)
  test <- if (robust) {
    test_from_z(partial$r, partial$unexplained, spread$variance, spread$df, options$expect, "jackknife")
  } else {
    textbook
  }
  evidence <- new_evidence(
    "controlled", sample, estimate, partial$r, partial$unexplained, length(partial$x),
    z_variance = or_default(fewer$z_variance, if (robust) spread$variance else usual), test = or_default(fewer$test, test),
    interval = or_default(fewer$interval, if (is.na(interval$ci_low)) no_interval() else interval),
    given = sample$given$names, given_labels = sample$given$labels, unheld = partial$all, residual_sample = left,
    part = if (!is.null(part)) sample$names[part], df_of_r = free - 2,
    textbook = if (chosen && robust || !is.null(fewer)) {
      c(by_z(usual), ci_method = record$z_method, textbook[c("statistic", "value", "df", "p")])
    },
    n_effective = fewer$n_effective
  )
  c(evidence, list(dependence = dependence), if (sought) list(clusters = clusters))
}

#' The test and interval of residuals that are alike over time, places or rows, or in classes that nobody declared
#' @param clusters,dependence Of the residuals; `interval` the one at hand.
#' @return As [by_effective_size()], with `n_effective`; or `NULL`.
#' @noRd
dependent_residuals <- function(estimate, clusters, dependence, interval, options, controls) {
  told <- told_over_classes(clusters, options$expect)
  if (!is.null(told)) {
    ends <- c("ci_low", "ci_high", "ci_method")
    return(list(
      interval = told[ends], z_variance = told$z_variance, test = told[setdiff(names(told), c(ends, "z_variance"))]
    ))
  }
  if (!length(dependence)) return(NULL)
  worth <- dependence$effective
  # What is controlled takes its degrees of freedom from these as well.
  dependence$effective <- max(worth - controls, 2.1)
  by_it <- by_effective_size(estimate, dependence, interval, options$expect, options$confidence)
  if (!is.null(by_it)) c(by_it, n_effective = worth)
}

may_be_robust <- function(record, requested, n) record$moments && all(requested == "auto") && n >= least_for_route

#' What is left of a sample's two columns, by the scores of a coefficient
#' @noRd
partial_of_sample <- function(sample, record, which = sample$given$names, part = NULL) {
  scores <- record$scores
  measure_partial(scores(sample$x), scores(sample$y), held_columns(sample, record, which), sample$names, part)
}
