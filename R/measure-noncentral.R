# Limits of effects that cannot be negative, by the noncentral F and chi-squared distributions.
#
# Both are mixtures: of as many central distributions as a Poisson variable of mean lambda / 2 has values. Summed about its
# middle, in equal steps where there are very many, the sum is exact to the digits of a double at any lambda; R's own
# functions lose digits, or do not end, from some thousands on.

#' The mixture of a tail over the Poisson weights of a noncentrality
#' @param tail From whole numbers j to the central tail with 2 j degrees of freedom more.
#' @noRd
mixed_tail <- function(lambda, tail) {
  if (lambda == 0) return(tail(0))
  least <- stats::qpois(1e-18, lambda / 2)
  most <- stats::qpois(1e-18, lambda / 2, lower.tail = FALSE)
  step <- max(1, floor((most - least) / 2000))
  j <- seq(least, most, by = step)
  sum(stats::dpois(j, lambda / 2) * tail(j)) * step
}

#' The noncentralities between which a statistic is not surprising
#'
#' @param above,below From j to the tails of the central distribution at the statistic seen, with 2 j degrees more.
#' @param start A noncentrality of the right size.
#' @return Two numbers; each is 0 where even that leaves the statistic in its tail.
#' @references Steiger (2004), Psychological Methods 9, 164-182.
#' @noRd
noncentral_limits <- function(above, below, start, confidence) {
  alpha <- (1 - confidence) / 2
  reach <- function(tail, rising) {
    excess <- function(root) (mixed_tail(root^2, tail) - alpha) * (if (rising) 1 else -1)
    if (excess(0) >= 0) return(0)
    far <- sqrt(max(start, 1))
    while (excess(far) < 0) far <- far * 2
    stats::uniroot(excess, c(0, far), tol = far * 1e-13, maxiter = 200)$root^2
  }
  c(reach(above, TRUE), reach(below, FALSE))
}

#' Limits of eta: of the share of the variance that lies between groups, its root taken
#'
#' @param df,df_residual Degrees of freedom between and within the groups.
#' @return An interval of eta.
#' @noRd
interval_noncentral_f <- function(unexplained, df, df_residual, confidence) {
  if (unexplained <= 0 || df_residual < 1) return(no_interval())
  n <- df + df_residual + 1
  lambda <- noncentral_limits(
    function(j) stats::pbeta(unexplained, df_residual / 2, df / 2 + j),
    function(j) stats::pbeta(unexplained, df_residual / 2, df / 2 + j, lower.tail = FALSE),
    n * (1 - unexplained) / unexplained, confidence
  )
  limits <- sqrt(lambda / (lambda + n))
  list(ci_low = limits[1], ci_high = limits[2], ci_method = "noncentral f")
}

#' Limits of Cramer's V
#' @param steps The smaller number of categories, less one.
#' @noRd
interval_noncentral_chi <- function(chi_squared, df, n, steps, confidence) {
  lambda <- noncentral_limits(
    function(j) stats::pchisq(chi_squared, df + 2 * j, lower.tail = FALSE),
    function(j) stats::pchisq(chi_squared, df + 2 * j), chi_squared, confidence
  )
  limits <- pmin(1, sqrt(lambda / (n * steps)))
  list(ci_low = limits[1], ci_high = limits[2], ci_method = "noncentral chi-squared")
}
