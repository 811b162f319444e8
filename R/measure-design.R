# Cases drawn by a design: r, its spread, and lines.

#' r from sums of weights, scores, squares and products, a row each
#' @noRd
r_of_sums <- function(sums) {
  w <- sums[, 1]
  product <- sums[, 5] - sums[, 2] * sums[, 4] / w
  squares <- (sums[, 3] - sums[, 2]^2 / w) * (sums[, 6] - sums[, 4]^2 / w)
  unname(ifelse(squares > 0, product / sqrt(pmax(squares, 0)), NA_real_))
}

#' r of a design, with the variance of its z
#'
#' @param design As for [perturbed_sums()]; `ranked` whether scores are ranks.
#' @param controls A matrix of columns controlled for, or `NULL`; `part` the side, 1 or 2, that they are taken out of alone.
#' @return A list: `r`, `unexplained`, `variance` (of Fisher's z), `df`, `units`, `strata`, `n`, `controls` (how many
#'   columns).
#' @noRd
measure_design <- function(x, y, design, ranked, controls = NULL, part = NULL) {
  z <- function(r) atanh(clip(r))
  if (is.null(controls)) {
    perturbed <- perturbed_sums(cbind(x, y), design, ranked)
    r <- r_of_sums(matrix(perturbed$whole, 1L))
    variance <- sum(perturbed$scale * (z(r_of_sums(perturbed$parts)) - z(r))^2, na.rm = TRUE)
    columns <- NULL
  } else {
    columns <- free_columns(controls, design$weight)
    k <- ncol(columns) + 2L
    perturbed <- perturbed_sums(cbind(x, y, columns), design, ranked)
    figure <- function(of) z(r_of_products(of$products, 1:2, seq_len(k)[-(1:2)], part))
    estimates <- perturb_figures(perturbed, k, figure)
    r <- tanh(estimates$value)
    variance <- estimates$covariance[1, 1]
  }
  if (is.na(r)) abort_undefined("With these weights a variable does not vary.", "Check the weights.")
  list(
    r = r, unexplained = (1 - r) * (1 + r), variance = variance, df = perturbed$df, units = perturbed$units,
    strata = perturbed$strata, n = sum(design$weight > 0), controls = NCOL(columns) * !is.null(controls)
  )
}

#' What holding some columns does to r, and how clearly they are tied to both sides, under a design
#'
#' @return A list: `row` (as [change_by_holding()] gives it), `tied` (the larger p of the two sides' ties; of several columns
#'   the smallest times their number).
#' @noRd
change_by_design <- function(x, y, controls, design, ranked, confidence) {
  columns <- free_columns(controls, design$weight)
  k <- ncol(columns) + 2L
  if (k < 3L) abort_undefined("The control variable does not vary.", "Name another.")
  perturbed <- perturbed_sums(cbind(x, y, columns), design, ranked)
  at <- seq_len(k)[-(1:2)]
  ties <- c(lapply(at, function(c) list(c(1L, c), 2L)), lapply(at, function(c) list(c(2L, c), 1L)))
  estimates <- perturb_figures(perturbed, k, function(of) {
    z <- function(...) atanh(clip(r_of_products(of$products, ...)))
    c(z(1:2), z(1:2, at), vapply(ties, function(tie) z(tie[[1]], tie[[2]]), 0))
  })
  spread <- sqrt(pmax(0, diag(estimates$covariance)))
  # p_two_sided() of no spread is none: what does not vary is tied to nothing.
  p_of <- function(value, off) if (isTRUE(off > 0)) p_two_sided(value / off, perturbed$df) else 1
  p <- mapply(p_of, estimates$value, spread)
  sides <- matrix(p[-(1:2)], ncol = 2L)
  apart <- estimates$covariance[1, 1] + estimates$covariance[2, 2] - 2 * estimates$covariance[1, 2]
  difference <- estimates$value[1] - estimates$value[2]
  off <- sqrt(max(0, apart))
  around <- stats::qt((1 + confidence) / 2, perturbed$df) * c(spread[2], off)
  list(
    row = data.frame(
      r = tanh(estimates$value[1]), partial = tanh(estimates$value[2]), ci_low = tanh(estimates$value[2] - around[1]),
      ci_high = tanh(estimates$value[2] + around[1]), difference = difference, difference_low = difference - around[2],
      difference_high = difference + around[2], p = difference_by_jackknife(difference, off, perturbed$df, confidence)$p
    ),
    tied = max(pmin(1, apply(sides, 2, min) * nrow(sides)))
  )
}

#' Columns to hold constant without those that the others give, each in its own spread
#' @noRd
free_columns <- function(controls, weight) {
  scale <- apply(controls, 2, function(column) max(abs(column - mean(column)), 0))
  controls <- sweep(sweep(controls, 2, colMeans(controls)), 2, ifelse(scale > 0, scale, 1), "/")
  basis <- qr(cbind(1, controls) * sqrt(weight), tol = 1e-9)
  controls[, setdiff(basis$pivot[seq_len(basis$rank)], 1L) - 1L, drop = FALSE]
}

#' The line of y in x under a design: its terms about a centre, how far they may be off, and what is left
#'
#' @param powers How many powers of x the line has.
#' @return A list: `centre`, `unit` (of x and y), `centred` (the terms about the centre), `covariance` (of those), `df`,
#'   `residual_squares`, `total_squares`, `residual_sd`, `fitted`, `residuals`, `units`, `strata`.
#' @references Wolter (2007), Introduction to Variance Estimation, chapter 6.
#' @noRd
measure_line_by_design <- function(x, y, powers, design) {
  weight <- design$weight
  unit <- c(x = fitting_unit(x), y = fitting_unit(y))
  centre <- sum(weight * x / unit[["x"]]) / sum(weight)
  from <- x / unit[["x"]] - centre
  to <- y / unit[["y"]]
  columns <- cbind(outer(from, seq_len(powers), `^`), to)
  means <- colMeans(columns)
  perturbed <- perturbed_sums(columns, design)
  terms <- function(of) {
    slopes <- solve(of$products[-(powers + 1L), -(powers + 1L), drop = FALSE], of$products[-(powers + 1L), powers + 1L])
    at <- of$means + means
    c(at[powers + 1L] - sum(slopes * at[-(powers + 1L)]), slopes)
  }
  estimates <- perturb_figures(perturbed, powers + 1L, terms)
  fitted <- as.vector(cbind(1, columns[, seq_len(powers), drop = FALSE]) %*% estimates$value)
  share <- weight / mean(weight)
  squares <- sum(share * (to - fitted)^2)
  total <- sum(share * (to - sum(weight * to) / sum(weight))^2)
  n <- length(x)
  list(
    centre = centre, unit = unit, centred = unname(estimates$value), covariance = estimates$covariance, df = perturbed$df,
    residual_squares = squares, total_squares = total, residual_sd = sqrt(squares / (n - powers - 1)), fitted = fitted,
    residuals = to - fitted, units = perturbed$units, strata = perturbed$strata
  )
}

#' Weighted mean and standard deviation of the values there are
#' @noRd
spread_by_weight <- function(values, weight) {
  there <- !is.na(values)
  values <- values[there]
  weight <- weight[there]
  n <- length(values)
  mean <- sum(weight * values) / sum(weight)
  c(mean = mean, sd = sqrt(sum(weight * (values - mean)^2) / sum(weight) * n / (n - 1)))
}
