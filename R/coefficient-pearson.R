#' Pearson's r: the straight relation of two numeric variables
#' @references Pearson (1895), Proceedings of the Royal Society of London 58, 240-242; Student (1908), Biometrika 6; Fisher
#'   (1921), Metron 1.
#' @noRd
record_pearson <- function() {
  new_coefficient(
    name = "pearson", place = 1, symbol = c("r", "r"), adjective = "Pearson's",
    suits = function(levels) all(levels == "numeric"), why = "both variables are numeric", linear = TRUE,
    moments = TRUE,
    estimate = function(sample) estimate_products(sample, "pearson"),
    spread = spread_by_products, robust = robust_by_spread,
    tests = list(
      analytic = function(e, expect, draws) test_student(e$r, e$unexplained, e$n, expect),
      exact = function(e, expect, draws) test_exact_orders(e$x, e$y, e$r, "r", expect),
      permutation = function(e, expect, draws) test_shuffled(e$x, e$y, e$r, "r", expect, draws),
      jackknife = test_jackknife,
      bootstrap = function(e, expect, draws) test_bootstrap(e, expect, draws, ranked = FALSE)
    ),
    intervals = list(
      analytic = function(e, confidence, draws) interval_fisher(e$r, e$unexplained, e$n, confidence),
      bootstrap = function(e, confidence, draws) {
        interval_bootstrap(e$x, e$y, FALSE, e$r, e$unexplained, confidence, draws)
      },
      jackknife = limits_jackknife
    ),
    matrix = list(
      kernel = product_kernel,
      log_p = function(pairs, expect) {
        direct_log_p(log_two_sided(pairs$r, pairs$unexplained, pairs$n - 2), sign(pairs$r), expect)
      },
      limits = function(pairs, confidence) {
        interval_from_z(pairs$r, pairs$unexplained, 1 / (pairs$n - 3), confidence)
      }
    ),
    statistic = student_statistic, z_variance = function(r, n) 1 / (n - 3),
    words = list(
      r_squared = "the variance of each", mixture = "Pearson elsewhere",
      look_also = c(
        "Inspect the scatter plot first: r describes only the linear part of a relationship.",
        "If the relationship is curved but keeps rising or falling, or if there are outliers, compare Spearman's rs."
      )
    ),
    method = paste(
      "Pearson's r, computed in two passes with compensated sums; Student's t with n \u2212 2 degrees of freedom;",
      "interval by Fisher's z."
    ),
    sources = c(
      "Pearson (1895), Proceedings of the Royal Society of London 58", "Student (1908), Biometrika 6",
      "Fisher (1921), Metron 1"
    )
  )
}

student_statistic <- function(r, unexplained, n) {
  value <- r * sqrt((n - 2) / unexplained)
  value[unexplained %in% 0] <- NA
  list(statistic = "t", value = value, df = n - 2)
}
