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
  new_evidence(
    "controlled", sample, new_estimate(record$name, partial$x, partial$y, partial$r, partial$unexplained),
    partial$r, partial$unexplained, length(partial$x),
    z_variance = if (robust) spread$variance else usual,
    test = if (robust) {
      test_from_z(partial$r, partial$unexplained, spread$variance, spread$df, options$expect, "jackknife")
    } else {
      textbook
    },
    interval = if (is.na(interval$ci_low)) no_interval() else interval,
    given = sample$given$names, given_labels = sample$given$labels, unheld = partial$all,
    residual_sample = sample_of_residuals(sample, partial), part = if (!is.null(part)) sample$names[part],
    df_of_r = free - 2, textbook = if (chosen && robust) {
      c(by_z(usual), ci_method = record$z_method, textbook[c("statistic", "value", "df", "p")])
    }
  )
}

may_be_robust <- function(record, requested, n) record$moments && all(requested == "auto") && n >= least_for_route

#' What is left of a sample's two columns, by the scores of a coefficient
#' @noRd
partial_of_sample <- function(sample, record, which = sample$given$names, part = NULL) {
  scores <- record$scores
  measure_partial(scores(sample$x), scores(sample$y), held_columns(sample, record, which), sample$names, part)
}
