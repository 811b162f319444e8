#' Point-biserial r: a binary variable, as 0 and 1, and a numeric one
#' @references Tate (1954), Annals of Mathematical Statistics 25, 603-607.
#' @noRd
record_point_biserial <- function() {
  new_coefficient(
    name = "point-biserial", place = 3, symbol = c("rpb", "rpb"), adjective = "point-biserial",
    suits = function(levels) setequal(levels, c("binary", "numeric")),
    why = "one variable is binary and the other numeric", two_valued = 1L,
    moments = TRUE,
    estimate = function(sample) estimate_products(sample, "point-biserial"),
    spread = spread_by_products, robust = robust_by_spread,
    tests = list(
      analytic = function(e, expect, draws) test_student(e$r, e$unexplained, e$n, expect),
      exact = function(e, expect, draws) {
        sides <- if (all(e$x %in% 0:1)) list(e$x, e$y) else list(e$y, e$x)
        test_exact_groups(sides[[1]], sides[[2]], e$r, "rpb", expect)
      },
      permutation = function(e, expect, draws) test_shuffled(e$x, e$y, e$r, "rpb", expect, draws),
      jackknife = test_jackknife,
      bootstrap = function(e, expect, draws) test_bootstrap(e, expect, draws, ranked = FALSE)
    ),
    intervals = list(
      analytic = function(e, confidence, draws) interval_tate(e$r, e$unexplained, e$n, share_of_one(e), confidence),
      bootstrap = function(e, confidence, draws) {
        interval_bootstrap(e$x, e$y, FALSE, e$r, e$unexplained, confidence, draws)
      },
      jackknife = limits_jackknife
    ),
    matrix = list(kernel = product_kernel, log_p = function(pairs, expect) {
      direct_log_p(log_two_sided(pairs$r, pairs$unexplained, pairs$n - 2), sign(pairs$r), expect)
    }),
    statistic = student_statistic, z_variance = function(r, n) 1 / (n - 3), interval_method = "tate z",
    words = list(
      r_squared = "the variance of each", mixture = "point-biserial for %s with numeric ones", mixture_level = "binary",
      look_also = c(
        "It is the same test as the pooled comparison of the two groups' means; report both means.",
        "A group under 10 % limits how large r can get."
      )
    ),
    method = paste(
      "Point-biserial r, Pearson's r with the binary variable coded 0 and 1; Student's t with n \u2212 2 degrees of",
      "freedom, equivalent to the t test for two means; interval on the z scale for random group sizes."
    ),
    sources = "Tate (1954), Annals of Mathematical Statistics 25"
  )
}

# The share of the group that is coded 1, whichever side it stands on.
share_of_one <- function(estimate) mean(if (all(estimate$x %in% 0:1)) estimate$x else estimate$y)
