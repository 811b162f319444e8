# The line of a pair of cases drawn by a design.

#' The line alone, weighted; its errors come from leaving out units, or from replicate weights
#' @noRd
fit_by_design <- function(sample, shape, confidence) {
  check_pair(sample$x, sample$y, sample$names)
  if (shape == "quadratic") check_curve(sample$x, sample$names[1])
  score <- if (shape == "log") log(sample$x) else sample$x
  powers <- if (shape == "quadratic") 2L else 1L
  design <- sample_design(sample)
  fit <- tryCatch(measure_line_by_design(score, sample$y, powers, design), error = function(e) NULL)
  if (is.null(fit) || fit$df < 1) {
    abort_undefined(
      "These units are too few, or too similar, for a line under the design.", "Check the weights and the units."
    )
  }
  exact <- fit$residual_squares <= 1e-24 * fit$total_squares
  n <- length(score)
  unexplained <- if (exact) 0 else fit$residual_squares / fit$total_squares
  spread <- if (exact) 0 else fit$residual_sd
  r <- if (powers == 1L) measure_design(score, sample$y, design, FALSE)$r else NA_real_
  unit <- fit$unit
  new_line(
    x = sample$names[1], y = sample$names[2], shape = shape, n = n, n_dropped = sum(sample$dropped), confidence = confidence,
    r = r, r_squared = 1 - unexplained, adj_r_squared = 1 - unexplained * (n - 1) / (n - powers - 1),
    residual_sd = spread * unit[["y"]],
    terms = terms_by_design(fit, confidence, exact), variance = variance_by_design(fit, n, exact),
    predictions = no_predictions(), solutions = no_solutions(), cautions = new_cautions(), sample = sample,
    fitted = fit$fitted * unit[["y"]], residuals = fit$residuals * unit[["y"]],
    basis = list(
      centre = fit$centre, centred = fit$centred,
      centred_covariance = if (exact) 0 * fit$covariance else fit$covariance / fit$residual_sd^2, unit = unit,
      residual_sd = spread, df = fit$df
    ),
    design = design$names, units = fit$units, strata = fit$strata, design_df = fit$df
  )
}

terms_by_design <- function(fit, confidence, exact) {
  k <- length(fit$centred)
  unit <- term_units(fit$unit, k)
  estimate <- as.vector(recentring(fit$centre, k) %*% fit$centred) * unit
  se <- if (exact) rep(NA_real_, k) else sqrt(diag(terms_covariance(fit$centre, fit$covariance))) * unit
  estimate[abs(estimate) < 1e-15 * se] <- 0
  t <- estimate / se
  half <- stats::qt((1 + confidence) / 2, fit$df) * se
  log_p <- log_p_two_sided(t, fit$df)
  data.frame(
    term = line_terms_names(k), estimate = estimate, se = se, t = t, df = fit$df, p = exp(log_p), ci_low = estimate - half,
    ci_high = estimate + half, log10_p = log_p / log(10)
  )
}

# F is Wald's, of all slopes together; its df are those of the design. Mean squares would give another one, and are left out.
variance_by_design <- function(fit, n, exact) {
  k <- length(fit$centred) - 1L
  slopes <- fit$centred[-1]
  f <- if (exact) {
    NA_real_
  } else {
    tryCatch(sum(slopes * solve(fit$covariance[-1, -1, drop = FALSE], slopes)) / k, error = function(e) NA_real_)
  }
  log_p <- if (is.na(f)) NA_real_ else stats::pf(f, k, fit$df, lower.tail = FALSE, log.p = TRUE)
  unit <- fit$unit[["y"]]^2
  explained <- fit$total_squares - fit$residual_squares
  data.frame(
    source = c("line", "residual", "total"), df = c(k, fit$df, n - 1),
    ss = unit * c(explained, fit$residual_squares, fit$total_squares),
    ms = NA_real_, f = c(f, NA, NA), p = c(exp(log_p), NA, NA),
    log10_p = c(log_p / log(10), NA, NA)
  )
}
