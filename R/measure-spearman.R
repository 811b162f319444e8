#' Spearman's r: Pearson's r of the mid-ranks
#'
#' @return As [measure_pearson()], with the ranks as `x` and `y`.
#' @references Spearman (1904); mid-ranks for ties: Kendall (1945).
#' @noRd
measure_spearman <- function(x, y, names = c("x", "y")) {
  check_pair(x, y, names)
  ranks <- list(x = mid_ranks(x), y = mid_ranks(y))
  c(.Call(unsere_pearson, ranks$x, ranks$y), ranks)
}

mid_ranks <- function(x) .Call(unsere_ranks, as.double(x))

#' The test of Spearman's r: exact where counting is quick, else by the moments of the permutation distribution
#'
#' Counting is quick up to 14 pairs without ties and up to about 60 with many.
#'
#' @param found From [measure_spearman()].
#' @return A list: `statistic`, `value`, `df`, `p`, `log10_p`, `p_method`.
#' @noRd
test_spearman <- function(found, n, expect) {
  if (n <= 60) {
    tally <- .Call(unsere_exact_spearman, found$x, found$y, 2e7)
    if (!is.nan(tally$outside)) return(counted_test(tally, "spearman", found$r, n, expect))
  }
  log_p <- log_p_by_moments(found$x, found$y, found$r, expect)
  list(statistic = "rs", value = found$r, df = n - 2, p = exp(log_p), log10_p = log_p / log(10), p_method = "analytic")
}

#' log P of r as extreme as this under random pairing of two sets of scores
#'
#' The permutation distribution of r has mean 0 and variance 1 / (n - 1), as has Student's; its third and fourth moments
#' (Pitman 1937) differ. The beta density of r is corrected by the Gegenbauer polynomials of degree 3 and 4 so that all
#' four agree, and r is moved half a step of its lattice towards zero. The correction is bounded, so that far in the tail,
#' where no expansion holds, p stays within half to twice Student's.
#' @references Pitman (1937), Supplement to the Journal of the Royal Statistical Society 4, 225-232.
#' @noRd
log_p_by_moments <- function(a, b, r, expect) {
  n <- length(a)
  third <- (n - 2) / (n * (n - 1)^2) * skewness_k(a) * skewness_k(b)
  fourth <- 3 / (n^2 - 1) * (n - 2) * (n - 3) / (3 * n * (n - 1)^2) * kurtosis_k(a) * kurtosis_k(b)
  lambda <- (n - 3) / 2
  weight <- list(
    third * gegenbauer_lead(3, lambda) / gegenbauer_norm(3, lambda),
    fourth * gegenbauer_lead(4, lambda) / gegenbauer_norm(4, lambda)
  )
  size <- min(max(abs(r) - lattice_step(a, b) / 2, 0), 1 - 1e-15)
  log_base <- log_two_sided(size, 1 - size^2, n - 2) - log(2)
  log_tail <- (lambda + 0.5) * log1p(-size^2) - lbeta(0.5, lambda + 0.5)
  tail_of <- function(k) {
    2 * lambda / (k * (k + 2 * lambda)) * gegenbauer(k - 1, lambda + 1, size) * exp(log_tail - log_base)
  }
  along <- expect != "either" && (sign(r) < 0) == (expect == "negative")
  skewed <- if (expect == "either") 0 else sign(r + (r == 0)) * weight[[1]] * tail_of(3)
  log_tail_p <- log_base + log1p(min(max(skewed + weight[[2]] * tail_of(4), -0.5), 1))
  if (expect == "either") return(min(log_tail_p + log(2), 0))
  if (along) log_tail_p else log1p(-exp(log_tail_p))
}

# Fisher's k-statistics of a set of scores, standardised: k3 / k2^1.5 and k4 / k2^2.
skewness_k <- function(a) {
  n <- length(a)
  d <- a - mean(a)
  n * sum(d^3) / ((n - 1) * (n - 2)) / (sum(d^2) / (n - 1))^1.5
}

kurtosis_k <- function(a) {
  n <- length(a)
  d <- a - mean(a)
  n^2 * ((n + 1) * mean(d^4) - 3 * (n - 1) * mean(d^2)^2) / ((n - 1) * (n - 2) * (n - 3)) / (sum(d^2) / (n - 1))^2
}

gegenbauer <- function(k, l, x) {
  switch(k + 1, 1, 2 * l * x, 2 * l * (l + 1) * x^2 - l, 4 / 3 * l * (l + 1) * (l + 2) * x^3 - 2 * l * (l + 1) * x)
}

gegenbauer_lead <- function(k, l) 2^k * prod(l + 0:(k - 1)) / factorial(k)

gegenbauer_norm <- function(k, l) l / (k + l) * prod(2 * l + 0:(k - 1)) / factorial(k)

# The smallest step by which r can change when two cases change places.
lattice_step <- function(a, b) {
  step_of <- function(v) {
    gaps <- unique(diff(sort(unique(2 * v))))
    Reduce(function(x, y) {
      while (y > 0) {
        rest <- x %% y
        x <- y
        y <- rest
      }
      x
    }, gaps) / 2
  }
  step_of(a) * step_of(b) / sqrt(sum((a - mean(a))^2) * sum((b - mean(b))^2))
}

#' Interval of Spearman's r on the z scale, se = sqrt((1 + r^2 / 2) / (n - 3))
#' @references Bonett & Wright (2000), Psychometrika 65, 23-28.
#' @noRd
interval_spearman <- function(r, unexplained, n, confidence = 0.95) {
  if (n < 4 || unexplained == 0) return(no_interval())
  half <- stats::qnorm((1 + confidence) / 2) * sqrt((1 + r^2 / 2) / (n - 3))
  z <- fisher_z(r, unexplained)
  list(ci_low = tanh(z - half), ci_high = tanh(z + half), ci_method = "bonett-wright z")
}
