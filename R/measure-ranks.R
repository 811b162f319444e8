# Ranks, and the distribution of their correlation when nothing ties the two variables.

mid_ranks <- function(x) core_ranks(as.double(x))

#' Test of a Spearman r
#'
#' Counted exactly where that is quick (up to 160 pairs, with heavy ties); else by a Gegenbauer series matched to the
#' third and fourth moment of the permutation distribution of these very ranks.
#' @param x,y The ranks.
#' @references Pitman (1937); Kendall & Stuart (1977), chapter 31.
#' @noRd
test_ranks <- function(x, y, r, expect) {
  n <- length(x)
  if (n <= most_counted) {
    tally <- core_exact_ranks(x, y, 2e7)
    if (!is.nan(tally$outside)) return(counted_test(tally, "rs", r, n, expect))
  }
  new_test("rs", r, n - 2, log_p_by_moments(score_shape(x), score_shape(y), n, r, expect))
}

#' What the permutation distribution of r depends on in one set of scores: sums of powers about the mean, and the
#' smallest step between two scores
#' @noRd
score_shape <- function(a) c(power_sums(a), step = common_step(a))

power_sums <- function(a) {
  d <- a - mean(a)
  squares <- d * d
  list(squares = sum(squares), cubes = sum(squares * d), fourths = sum(squares * squares))
}

common_step <- function(a) {
  gaps <- unique(diff(sort(unique(2 * a))))
  Reduce(function(x, y) {
    while (y > 0) {
      rest <- x %% y
      x <- y
      y <- rest
    }
    x
  }, gaps) / 2
}

#' log P of r as extreme as this under random pairing of two sets of scores
#'
#' The permutation distribution of r has mean 0 and variance 1 / (n - 1), as has Student's; its third and fourth moments
#' (Pitman 1937) differ. The beta density of r is corrected by the Gegenbauer polynomials of degree 3 and 4 so that all
#' four agree, and r is moved half a step of its lattice towards zero. The correction is bounded, so that far in the
#' tail, where no expansion holds, p stays within half to twice Student's.
#'
#' @param a,b Shapes as from [score_shape()]; their elements, `n` and `r` may hold many pairs at once.
#' @references Pitman (1937), Supplement to the Journal of the Royal Statistical Society 4, 225-232.
#' @noRd
log_p_by_moments <- function(a, b, n, r, expect) {
  third <- (n - 2) / (n * (n - 1)^2) * skewness_k(a, n) * skewness_k(b, n)
  fourth <- 3 / (n^2 - 1) * (n - 2) * (n - 3) / (3 * n * (n - 1)^2) * kurtosis_k(a, n) * kurtosis_k(b, n)
  lambda <- (n - 3) / 2
  weight <- list(
    third * gegenbauer_lead(3, lambda) / gegenbauer_norm(3, lambda),
    fourth * gegenbauer_lead(4, lambda) / gegenbauer_norm(4, lambda)
  )
  lattice <- a$step * b$step / sqrt(a$squares * b$squares)
  size <- pmin(pmax(abs(r) - lattice / 2, 0), 1 - 1e-15)
  log_base <- log_two_sided(size, 1 - size^2, n - 2) - log(2)
  log_tail <- (lambda + 0.5) * log1p(-size^2) - lbeta(0.5, lambda + 0.5)
  tail_of <- function(k) {
    2 * lambda / (k * (k + 2 * lambda)) * gegenbauer(k - 1, lambda + 1, size) * exp(log_tail - log_base)
  }
  skewed <- if (expect == "either") 0 else sign(r + (r == 0)) * weight[[1]] * tail_of(3)
  log_tail_p <- log_base + log1p(pmin(pmax(skewed + weight[[2]] * tail_of(4), -0.5), 1))
  # Never less than what one order of all has.
  log_tail_p <- pmax(log_tail_p, -lgamma(n + 1))
  if (expect == "either") return(pmin(log_tail_p + log(2), 0))
  ifelse((sign(r) < 0) == (expect == "negative"), log_tail_p, log1p(-exp(log_tail_p)))
}

# Fisher's k-statistics of a set of scores, standardised: k3 / k2^1.5 and k4 / k2^2.
skewness_k <- function(a, n) n * a$cubes / ((n - 1) * (n - 2)) / (a$squares / (n - 1))^1.5

kurtosis_k <- function(a, n) {
  n^2 * ((n + 1) * a$fourths / n - 3 * (n - 1) * (a$squares / n)^2) / ((n - 1) * (n - 2) * (n - 3)) / (a$squares / (n - 1))^2
}

gegenbauer <- function(k, l, x) {
  switch(k + 1,
    1,
    2 * l * x,
    2 * l * (l + 1) * x^2 - l,
    4 / 3 * l * (l + 1) * (l + 2) * x^3 - 2 * l * (l + 1) * x
  )
}

gegenbauer_lead <- function(k, l) 2^k * rising_product(l, k) / factorial(k)

gegenbauer_norm <- function(k, l) l / (k + l) * rising_product(2 * l, k) / factorial(k)

rising_product <- function(l, k) Reduce(`*`, lapply(0:(k - 1), function(step) l + step))
