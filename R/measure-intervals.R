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

#' Interval of a point-biserial r whose groups are as large as chance made them
#'
#' Tate's variance of z, 1 + (1 / (4 p q) - 1.5) rho^2 in units of 1 / (n - 3), with the shares p and q of the two groups,
#' taken at the limit itself: at zero it is Fisher's. With equal groups it is the variance for groups of fixed sizes too.
#' @param share Of either group, between 0 and 1.
#' @references Tate (1954), Annals of Mathematical Statistics 25, 603-607.
#' @noRd
interval_tate <- function(r, unexplained, n, share, confidence = 0.95) {
  if (n < 4 || unexplained == 0) return(no_interval())
  z <- fisher_z(r, unexplained)
  excess <- 1 / (4 * share * (1 - share)) - 1.5
  half <- stats::qnorm((1 + confidence) / 2) / sqrt(n - 3)
  beyond <- function(limit) abs(z - limit) - half * sqrt(1 + excess * tanh(limit)^2)
  limit <- function(side) {
    far <- z + side * half * sqrt(max(1, 1 + excess)) * (1 + 1e-9)
    tanh(stats::uniroot(beyond, sort(c(z, far)), tol = 1e-12)$root)
  }
  list(ci_low = limit(-1), ci_high = limit(1), ci_method = "tate z")
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
