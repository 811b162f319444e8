# Cases drawn by a design: weights, strata, clusters, or replicate weights; with or without controlled variables.

#' A sampling design
#' @noRd
scheme_design <- function() {
  new_scheme("design",
    place = 2, described = "a sampling design",
    suits = function(sample) !is.null(sample_design(sample)), evidence = evidence_design, tests = "analytic",
    intervals = c("analytic", "jackknife")
  )
}

evidence_design <- function(sample, record, options) {
  check_pair(sample$x, sample$y, sample$names)
  design <- sample_design(sample)
  controls <- if (!is.null(sample$given)) held_columns(sample, record)
  part <- part_side(sample, options$part)
  measured <- measure_design(sample$x, sample$y, design, record$resistant, controls, part)
  n <- sample_size(sample)
  effect <- measured$variance * (n - 3 - measured$controls)
  new_evidence(
    "design", sample, new_estimate(record$name, sample$x, sample$y, measured$r, measured$unexplained), measured$r,
    measured$unexplained, n,
    z_variance = measured$variance,
    test = test_from_z(
      measured$r, measured$unexplained, measured$variance, measured$df, options$expect, "design"
    ),
    interval = c(
      interval_from_z(
        measured$r, measured$unexplained, measured$variance, options$confidence, measured$df
      ),
      ci_method = if (is.null(design$replicates)) "unit jackknife" else "replicate weights"
    ),
    design = design$names, n_effective = n / effect, design_effect = effect, units = measured$units,
    strata = measured$strata, design_df = measured$df, given = sample$given$names, given_labels = sample$given$labels,
    unheld = if (!is.null(controls)) measure_design(sample$x, sample$y, design, record$resistant)$r,
    residual_sample = if (!is.null(controls)) residuals_by_design(sample, controls, design$weight, part),
    part = if (!is.null(part)) sample$names[part]
  )
}

#' What is left of both sides when weighted columns are taken out, for figures
#' @noRd
residuals_by_design <- function(sample, controls, weight, part) {
  root <- sqrt(weight)
  basis <- qr(cbind(1, controls) * root, tol = 1e-9)
  residuals <- lapply(list(sample$x, sample$y), function(v) {
    terms <- qr.coef(basis, v * root)
    v - as.vector(cbind(1, controls) %*% ifelse(is.na(terms), 0, terms))
  })
  if (!is.null(part)) residuals[[3 - part]] <- list(sample$x, sample$y)[[3 - part]]
  sample_of_residuals(sample, list(x = residuals[[1]], y = residuals[[2]]))
}
