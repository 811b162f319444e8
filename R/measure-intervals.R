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

#' Interval of phi by inverting its score test, the margins held
#'
#' Phi of the population is within the limits when the phi observed differs from it by no more than chance allows, with the
#' variance that phi has there; half a case is added to each side of both margins, so that a side of very few cases does
#' not rule out what it cannot know. At zero it is the chi-squared test. The limits stay within what those margins allow.
#' @param x,y Zeros and ones.
#' @references Wilson (1927), Journal of the American Statistical Association 22, for the idea; Bishop, Fienberg & Holland
#'   (1975), Discrete Multivariate Analysis, chapter 11, for the variance.
#' @noRd
interval_phi <- function(x, y, r, unexplained, confidence = 0.95) {
  n <- length(x)
  if (n < 4 || unexplained == 0) return(no_interval())
  p <- (c(sum(x), sum(y)) + 0.5) / (n + 1)
  q <- 1 - p
  root <- sqrt(prod(p, q))
  ends <- c(-min(prod(p), prod(q)), min(p[1] * q[2], q[1] * p[2])) / root
  z <- stats::qnorm((1 + confidence) / 2)
  beyond <- function(phi) n * (r - phi)^2 - z^2 * max(phi_variance(phi, p, q, root), 0)
  limit <- function(end) {
    inner <- min(max(r, ends[1]), ends[2])
    if (abs(end - inner) < 1e-12 || beyond(end) <= 0) return(end)
    if (beyond(inner) >= 0) return(inner)
    stats::uniroot(beyond, sort(c(inner, end)), tol = 1e-10)$root
  }
  list(ci_low = limit(ends[1]), ci_high = limit(ends[2]), ci_method = "score")
}

phi_variance <- function(phi, p, q, root) {
  skew <- q - p
  1 - phi^2 + phi * (1 + phi^2 / 2) * prod(skew) / root - 0.75 * phi^2 * sum(skew^2 / (p * q))
}

#' Limits that say of zero what the test says
#' @noRd
agree_about_zero <- function(limits, p, confidence) {
  if (is.na(limits$ci_low)) return(limits)
  clear <- is_below(p, confidence)
  within <- limits$ci_low <= 0 && limits$ci_high >= 0
  if (clear == within) {
    end <- if (abs(limits$ci_low) < abs(limits$ci_high)) "ci_low" else "ci_high"
    limits[[end]] <- 0
  }
  limits
}
