#' Controlled variables: the partial, or semipartial, r of independent cases
#' @noRd
scheme_controlled <- function() {
  new_scheme("controlled",
    place = 3, described = "controlled variables",
    suits = function(sample) !is.null(sample$given), evidence = evidence_controlled, tests = "analytic",
    intervals = c("analytic", "jackknife")
  )
}

evidence_controlled <- function(sample, record, options) {
  part <- part_side(sample, options$part)
  partial <- partial_of_sample(sample, record, part = part)
  free <- length(partial$x) - partial$held
  variance <- record$z_variance(partial$r, free)
  interval <- if (options$interval == "jackknife" || !is.null(part)) {
    # Fisher's z presumes that both sides are residuals.
    interval_jackknife(
      partial_without_each(partial), partial$r, partial$unexplained, options$confidence, free - 2
    )
  } else {
    interval_by_z(partial$r, partial$unexplained, variance, options$confidence, record$z_method)
  }
  new_evidence(
    "controlled", sample, new_estimate(record$name, partial$x, partial$y, partial$r, partial$unexplained),
    partial$r, partial$unexplained, length(partial$x),
    z_variance = variance,
    test = test_student(partial$both$r, partial$both$unexplained, free, options$expect), interval = interval,
    given = sample$given$names, given_labels = sample$given$labels, unheld = partial$all,
    residual_sample = sample_of_residuals(sample, partial), part = if (!is.null(part)) sample$names[part]
  )
}

#' What is left of a sample's two columns, by the scores of a coefficient
#' @noRd
partial_of_sample <- function(sample, record, which = sample$given$names, part = NULL) {
  scores <- record$scores
  measure_partial(scores(sample$x), scores(sample$y), held_columns(sample, record, which), sample$names, part)
}
