#' Kendall's tau-b: of two cases taken at random, how much more often both variables order them alike than not
#' @references Kendall (1938, 1945), Biometrika 30 and 33; Bonett & Wright (2000), Psychometrika 65, 23-28.
#' @noRd
record_kendall <- function() {
  new_coefficient(
    name = "tau-b", place = 5, symbol = c("\u03c4b", "tau-b"), adjective = "Kendall's",
    suits = function(levels) FALSE, why = "", resistant = TRUE, without_each = NULL,
    estimate = estimate_kendall,
    spread = function(e) spread_of_left(core_bootstrap_kendall(e$x, e$y, 1, 1, 2L)$left), robust = robust_with_ties,
    tests = list(
      analytic = function(e, expect, draws) test_kendall(e, expect),
      exact = function(e, expect, draws) {
        limit <- "60 pairs without ties and 9 with them"
        counted_kendall(check_counted(core_exact_kendall(e$x, e$y), e$n, limit), e, expect)
      },
      permutation = function(e, expect, draws) {
        tally <- core_shuffle_kendall(e$x, e$y, draws$resamples, draws$seed, draws$threads)
        without_df(shuffled_test(tally, "tau-b", e$r, e$n, expect, draws$resamples))
      },
      jackknife = test_jackknife,
      bootstrap = test_bca_kendall
    ),
    intervals = list(
      analytic = function(e, confidence, draws) {
        interval_by_z(e$r, e$unexplained, kendall_z_variance(e$r, e$n), confidence, "bonett-wright z")
      },
      bootstrap = function(e, confidence, draws) {
        if (e$n < 4 || e$unexplained == 0) return(no_interval())
        drawn <- core_bootstrap_kendall(e$x, e$y, draws$resamples, draws$seed, draws$threads)
        interval_bca(drawn$values, drawn$left, e$r, confidence)
      },
      jackknife = limits_jackknife
    ),
    matrix = list(
      kernel = kendall_kernel,
      log_p = function(pairs, expect) {
        log_p <- log_p_kendall(pairs$r, pairs$n, pairs$x, pairs$y, expect)
        log_p[pairs$n <= most_kendall_counted] <- NaN # where counting may be possible, pair by pair
        log_p
      },
      limits = function(pairs, confidence) {
        interval_from_z(pairs$r, pairs$unexplained, kendall_z_variance(pairs$r, pairs$n), confidence)
      }
    ),
    statistic = function(r, unexplained, n) list(statistic = "tau-b", value = r, df = rep(NA_real_, length(r))),
    z_variance = kendall_z_variance, z_method = "bonett-wright z", planning = list(
      shape = kendall_shape,
      limit = kendall_limit
    ), products = FALSE,
    words = list(
      counts = TRUE,
      look_also = "For the same data tau-b is closer to zero than Spearman's rs; compare like with like."
    ),
    method = paste(
      "Kendall's tau-b, the difference between concordant and discordant pairs of cases, with allowance for ties;",
      "it is closer to zero than Spearman's rs. The test is exact up to 60 pairs without ties and up to 9 with",
      "ties; otherwise it uses the normal distribution with the variance for ties and a continuity correction.",
      "Interval by Bonett and Wright's z."
    ),
    sources = c("Kendall (1938, 1945), Biometrika 30 and 33", "Bonett and Wright (2000), Psychometrika 65")
  )
}

#' @return An estimate, with the sums of ties of `x` and `y` under `ties`.
#' @noRd
estimate_kendall <- function(sample) {
  check_pair(sample$x, sample$y, sample$names)
  x <- as.double(sample$x)
  y <- as.double(sample$y)
  estimate <- core_kendall(x, y)
  new_estimate("tau-b", x, y, estimate$r, (1 - estimate$r) * (1 + estimate$r), ties = estimate[c("x", "y")])
}

#' Mean, variance and skewness of tau in samples of a normal pair whose own is r
#'
#' Mean and variance are exact (Kendall & Gibbons 1990, Rank Correlation Methods, chapter 10); the skewness is a fit to
#' simulation (bench/planning.R).
#' @noRd
kendall_shape <- function(r, n) {
  half <- 2 / pi * asin(sin(pi * r / 2) / 2)
  variance <- 2 / (n * (n - 1)) * (1 - r^2 + 2 * (n - 2) * (1 / 9 - half^2))
  list(mean = r, variance = variance, skewness = -3.8 * r / sqrt(n))
}

#' The value of tau half a step below the first that the test calls clear, without ties
#' @noRd
kendall_limit <- function(n, sided) {
  pairs <- n * (n - 1) / 2
  # S has the parity of the number of pairs.
  s <- if (n <= most_kendall_counted) {
    above <- rev(cumsum(kendall_orders(n)))
    seq(-pairs, pairs, 2)[match(TRUE, above < sided)]
  } else {
    odd <- pairs %% 2
    ceiling((1 + stats::qnorm(1 - sided) * sqrt(n * (n - 1) * (2 * n + 5) / 18) - odd) / 2) * 2 + odd
  }
  if (is.na(s) || s > pairs) Inf else (s - 1) / pairs
}

most_kendall_counted <- 60L

#' The shares of all orders of n cases that have 0, 1, ... pairs out of order
#' @noRd
kendall_orders <- function(n) {
  share <- 1
  for (k in seq_len(n)[-1]) {
    sums <- cumsum(c(share, rep(0, k - 1)))
    share <- (sums - c(rep(0, k), utils::head(sums, -k))) / k
  }
  share
}

test_bca_kendall <- function(e, expect, draws) {
  drawn <- core_bootstrap_kendall(e$x, e$y, draws$resamples, draws$seed, draws$threads)
  test_bca(drawn$values, drawn$left, e, expect)
}

kendall_z_variance <- function(r, n) ifelse(n > 4, 0.437 / (n - 4), Inf)

test_kendall <- function(e, expect) {
  tally <- core_exact_kendall(e$x, e$y)
  if (!is.nan(tally$outside)) return(counted_kendall(tally, e, expect))
  z <- kendall_z(e$r, e$n, e$ties$x, e$ties$y)
  new_test("z", z$either, NA_real_, log_p_kendall(e$r, e$n, e$ties$x, e$ties$y, expect))
}

counted_kendall <- function(tally, e, expect) without_df(counted_test(tally, "tau-b", e$r, e$n, expect))

without_df <- function(test) utils::modifyList(test, list(df = NA_real_))

#' S over its standard error, with continuity correction: towards zero, and against either direction
#'
#' var S = (n(n - 1)(2n + 5) - sum t(t - 1)(2t + 5) - sum u(u - 1)(2u + 5)) / 18
#'   + sum t(t - 1)(t - 2) sum u(u - 1)(u - 2) / (9n(n - 1)(n - 2)) + sum t(t - 1) sum u(u - 1) / (2n(n - 1)).
#' @param x,y Sums over the ties of each variable; all may hold many pairs at once.
#' @noRd
kendall_z <- function(r, n, x, y) {
  ordered <- n * (n - 1)
  score <- round(r * sqrt(ordered - x$twos) * sqrt(ordered - y$twos) / 2)
  variance <- (ordered * (2 * n + 5) - x$spread - y$spread) / 18 +
    x$threes * y$threes / (9 * ordered * (n - 2)) +
    x$twos * y$twos / (2 * ordered)
  deviate <- function(moved) (score - moved) / sqrt(variance)
  list(either = deviate(sign(score)), positive = deviate(1), negative = deviate(-1))
}

log_p_kendall <- function(r, n, x, y, expect) {
  pmin(log_p_normal(kendall_z(r, n, x, y)[[expect]], expect), 0)
}

#' All pairs of columns, with the sums of ties of each column among the cases of each pair
#' @noRd
kendall_kernel <- function(columns, wanted, threads, tick) {
  estimate <- core_kendall_matrix(columns, wanted, threads)
  c(estimate["r"], list(unexplained = (1 - estimate$r) * (1 + estimate$r)), estimate[c("n", "twos", "threes", "spread")])
}
