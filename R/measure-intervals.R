# Intervals shared by several coefficients, on plain numbers. Each gives `ci_low`, `ci_high`, `ci_method`.

no_interval <- function() list(ci_low = NA_real_, ci_high = NA_real_, ci_method = NA_character_)

fisher_z <- function(r, unexplained) {
  far <- suppressWarnings(sign(r) * (log1p(abs(r)) - log(unexplained) / 2))
  ifelse(abs(r) < 0.5, suppressWarnings(atanh(r)), far)
}

#' Limits on the z scale, taken back: NA where fewer than four cases or points on a line leave none
#' @param variance Of z.
#' @noRd
limits_by_z <- function(r, unexplained, n, variance, confidence) {
  defined <- !is.na(r) & n >= 4 & unexplained > 0
  half <- stats::qnorm((1 + confidence) / 2) * suppressWarnings(sqrt(variance))
  z <- ifelse(defined, fisher_z(r, unexplained), NA_real_)
  list(ci_low = tanh(z - half), ci_high = tanh(z + half))
}

interval_by_z <- function(r, unexplained, n, variance, confidence, method) {
  limits <- limits_by_z(r, unexplained, n, variance, confidence)
  if (is.na(limits$ci_low)) no_interval() else c(limits, ci_method = method)
}

#' Interval of r by Fisher's z
#'
#' @return An interval; `NA` when n < 4 or the points lie on a line.
#' @references Fisher (1921).
#' @noRd
interval_fisher <- function(r, unexplained, n, confidence = 0.95) {
  interval_by_z(r, unexplained, n, 1 / (n - 3), confidence, "fisher z")
}

#' Interval of a point-biserial r by inverting the noncentral t
#'
#' The limits of the noncentrality lambda are those at which the observed t has probability alpha / 2 above and below;
#' rho = lambda / sqrt(n + lambda^2). Beyond |lambda| = 37 the noncentral t of R's library loses its digits, and
#' Fisher's z serves instead; `ci_method` says which.
#' @references Hedges & Olkin (1985), Statistical Methods for Meta-Analysis; Cohen (1988).
#' @noRd
interval_noncentral_t <- function(r, unexplained, n, confidence = 0.95) {
  if (n < 4 || unexplained == 0) return(no_interval())
  df <- n - 2
  t <- r * sqrt(df / unexplained)
  alpha <- (1 - confidence) / 2
  reach <- stats::qnorm(1 - alpha / 4) * sqrt(1 + t^2 / (2 * df)) + 3
  if (abs(t) + reach > 37) return(interval_fisher(r, unexplained, n, confidence))
  lambda <- c(noncentrality(t, df, 1 - alpha, reach), noncentrality(t, df, alpha, reach))
  if (anyNA(lambda)) return(interval_fisher(r, unexplained, n, confidence))
  rho <- lambda / sqrt(n + lambda^2)
  list(ci_low = rho[1], ci_high = rho[2], ci_method = "noncentral t")
}

#' The noncentrality at which t has this share of the distribution below it
#' @noRd
noncentrality <- function(t, df, share, reach) {
  excess <- function(lambda) suppressWarnings(stats::pt(t, df, lambda)) - share
  tryCatch(
    stats::uniroot(excess, t + c(-reach, reach), extendInt = "downX", tol = 1e-12)$root,
    error = function(e) NA_real_
  )
}

#' Interval of phi by the delta method on the z scale
#'
#' The variance is that of the influence of each of the four cells of the table on phi.
#' @param x,y Zeros and ones.
#' @references Bishop, Fienberg & Holland (1975), Discrete Multivariate Analysis, chapter 11.
#' @noRd
interval_phi <- function(x, y, r, unexplained, confidence = 0.95) {
  n <- length(x)
  if (n < 4 || unexplained == 0) return(no_interval())
  a <- (x - mean(x)) / sqrt(mean(x) * (1 - mean(x)))
  b <- (y - mean(y)) / sqrt(mean(y) * (1 - mean(y)))
  influence <- a * b - r * (a^2 + b^2) / 2
  interval_by_z(r, unexplained, n, mean(influence^2) / n / unexplained^2, confidence, "delta z")
}
