#' Spearman's rs: the rising or falling relation of two orders
#' @references Spearman (1904), American Journal of Psychology 15; mid-ranks for ties: Kendall (1945), Biometrika 33; Pitman
#'   (1937), Supplement to the Journal of the Royal Statistical Society 4; Bonett & Wright (2000), Psychometrika 65, 23-28.
#' @noRd
record_spearman <- function() {
  new_coefficient(
    name = "spearman", place = 2, symbol = c("rs", "rs"), adjective = "Spearman's",
    suits = function(levels) "ordinal" %in% levels && !"nominal" %in% levels,
    why = "a variable is ordinal, so ranks are correlated", resistant = TRUE,
    scores = mid_ranks, estimate = function(sample) estimate_products(sample, "spearman", mid_ranks),
    spread = function(e) spread_of_left(leave_one_out(e$x, e$y, TRUE, 2L)),
    tests = list(
      analytic = function(e, expect, draws) test_ranks(e$x, e$y, e$r, expect),
      exact = function(e, expect, draws) test_exact_ranks(e$x, e$y, e$r, "rs", expect),
      permutation = function(e, expect, draws) test_shuffled(e$x, e$y, e$r, "rs", expect, draws),
      jackknife = test_jackknife,
      bootstrap = function(e, expect, draws) test_bootstrap(e, expect, draws, ranked = TRUE)
    ),
    intervals = list(
      analytic = function(e, confidence, draws) {
        interval_by_z(e$r, e$unexplained, rank_z_variance(e$r, e$n), confidence, "bonett-wright z")
      },
      bootstrap = function(e, confidence, draws) {
        interval_bootstrap(e$x, e$y, TRUE, e$r, e$unexplained, confidence, draws)
      },
      jackknife = limits_jackknife
    ),
    matrix = list(
      kernel = rank_kernel,
      log_p = function(pairs, expect) {
        log_p <- log_p_by_moments(pairs$x, pairs$y, pairs$n, pairs$r, expect)
        log_p[pairs$n <= most_counted] <- NaN # where counting may be quick, pair by pair
        log_p
      },
      limits = function(pairs, confidence) {
        interval_from_z(pairs$r, pairs$unexplained, rank_z_variance(pairs$r, pairs$n), confidence)
      }
    ),
    without_each = function(e) leave_one_out(e$x, e$y, TRUE, 2L),
    statistic = function(r, unexplained, n) list(statistic = "rs", value = r, df = n - 2), z_variance = rank_z_variance,
    z_method = "bonett-wright z",
    planning = list(shape = spearman_shape, limit = spearman_limit, sample = spearman_sample),
    words = list(
      r_squared = "the variance of each one's ranks", mixture = "Spearman with %s", mixture_level = "ordinal",
      look_also = c(
        "Few values mean many ties; check the number of cases with each value.",
        "If the steps of the scale can be assumed to be equal, compare Pearson's r; say which was used."
      )
    ),
    method = paste(
      "Spearman's rs, Pearson's r of the mid-ranks; the test is exact where enumeration is fast, otherwise it uses",
      "a series fitted to the permutation distribution of the ranks; interval by Bonett and Wright's z."
    ),
    sources = c(
      "Spearman (1904), American Journal of Psychology 15", "Kendall (1945), Biometrika 33",
      "Pitman (1937), Supplement to the Journal of the Royal Statistical Society 4",
      "Bonett and Wright (2000), Psychometrika 65"
    )
  )
}

rank_z_variance <- function(r, n) (1 + r^2 / 2) / (n - 3)

#' Mean, variance and skewness of rs in samples of a normal pair whose own is r
#'
#' The mean is exact (Moran 1948, Biometrika 35, 203-206). The variance and the skewness are fits to simulation that
#' agree with the exact values at r = 0 (bench/planning.R).
#' @noRd
spearman_shape <- function(r, n) {
  rho <- 2 * sin(pi * r / 6)
  mean <- 6 / pi / (n + 1) * (asin(rho) + (n - 2) * asin(rho / 2))
  share <- (1 - r^2) * (1 + 0.3 * r^2) + 2.1 * r^2 / n
  list(mean = mean, variance = (1 - mean^2) * share / (n - 1), skewness = -(4.4 * r + 1.6 * r^3) / sqrt(n))
}

#' rs of few cases as drawn, where no shape comes near enough; `NULL` of more
#' @noRd
spearman_sample <- function(r, n) {
  if (n <= most_drawn) core_drawn_spearman(2 * sin(pi * r / 6), n, 60000, 1)
}

most_drawn <- 11

#' The value of rs half a step below the first that the test calls clear, without ties
#' @param sided The level on one side.
#' @noRd
spearman_limit <- function(n, sided) {
  shape <- list(
    squares = n * (n^2 - 1) / 12, cubes = 0, fourths = n * (n^2 - 1) * (3 * n^2 - 7) / 240, step = 1
  )
  beyond <- function(r) log_p_by_moments(shape, shape, n, r, "either") - log(2 * sided)
  if (beyond(1) >= 0) return(Inf)
  if (sided >= 0.5) return(0)
  step <- 12 / (n * (n^2 - 1))
  clear <- stats::uniroot(beyond, c(0, 1), tol = 1e-12)$root
  1 - floor((1 - clear) / step + 1e-9) * step - step / 2
}
