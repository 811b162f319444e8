# Intervals shared by several coefficients, on plain numbers. Each gives `ci_low`, `ci_high`, `ci_method`.

no_interval <- function() list(ci_low = NA_real_, ci_high = NA_real_, ci_method = NA_character_)

#' Whether an interval of r holds nearly all that r can be
#' @noRd
is_uninformative <- function(low, high) !is.na(low) & high - low > 1.95

#' Fisher's z of r, exact where 1 - r^2 is far below what subtraction can hold
#' @noRd
fisher_z <- function(r, unexplained) {
  far <- suppressWarnings(sign(r) * (log1p(abs(r)) - log(unexplained) / 2))
  ifelse(abs(r) < 0.5, suppressWarnings(atanh(r)), far)
}

#' Limits of r: z with Student's t, or the normal deviate, times its standard error on both sides, taken back
#'
#' @param variance Of z; `df` of Student's t, infinite for the normal.
#' @return A list: `ci_low`, `ci_high`; `NA` where points on a line, no variance or no degrees of freedom leave none.
#' @noRd
interval_from_z <- function(r, unexplained, variance, confidence, df = Inf) {
  known <- !is.na(r) & (unexplained > 0 & variance > 0 & is.finite(variance) & df >= 1) %in% TRUE
  half <- stats::qt((1 + confidence) / 2, ifelse(known, df, NA)) * sqrt(ifelse(known, variance, NA))
  z <- ifelse(known, fisher_z(r, unexplained), NA_real_)
  list(ci_low = tanh(z - half), ci_high = tanh(z + half))
}

#' The test that goes with it
#' @return As from `new_test()`, of several r at once.
#' @noRd
test_from_z <- function(r, unexplained, variance, df, expect, method) {
  value <- fisher_z(r, unexplained) / sqrt(variance)
  value[!is.finite(value) | !(df >= 1) %in% TRUE] <- NA
  new_test("t", value, df, direct_log_p(log_p_two_sided(value, df), sign(value), expect), method)
}

interval_by_z <- function(r, unexplained, variance, confidence, method) {
  limits <- interval_from_z(r, unexplained, variance, confidence)
  if (is.na(limits$ci_low)) no_interval() else c(limits, ci_method = method)
}

#' Interval of r by Fisher's z
#'
#' @return An interval; `NA` when n < 4 or the points lie on a line.
#' @references Fisher (1921).
#' @noRd
interval_fisher <- function(r, unexplained, n, confidence = 0.95) {
  interval_by_z(r, unexplained, 1 / (n - 3), confidence, "fisher z")
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

#' Interval of phi by its likelihood, the margins being whatever suits each phi best
#'
#' Phi of the population is within the limits when the counts are not much less likely under it than under the phi that
#' suits them best. Margins are not held, as those observed are themselves a sample. A quarter of a case is added to each
#' of the four counts: without it the limits of few cases are too narrow, with half a case too wide (`bench/phi.R`). Few
#' cases that agree throughout are no proof that all do, so that a phi of 1 has limits, too.
#' @param x,y Zeros and ones.
#' @references Wilks (1938), Annals of Mathematical Statistics, 9, 60-62.
#' @noRd
interval_phi <- function(x, y, r, confidence = 0.95) {
  n <- length(x)
  if (n < 4) return(no_interval())
  both <- sum(x * y)
  counts <- c(both, sum(x) - both, sum(y) - both, n - sum(x) - sum(y) + both)
  limits <- core_phi_limits(counts + 0.25, stats::qchisq(confidence, 1))
  list(ci_low = min(limits[1], r), ci_high = max(limits[2], r), ci_method = "likelihood")
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
