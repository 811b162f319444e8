#' Phi: two binary variables, as 0 and 1
#' @references Yule (1912), Journal of the Royal Statistical Society 75; Pearson (1900), Philosophical Magazine 50;
#'   Wilks (1938), Annals of Mathematical Statistics 9.
#' @noRd
record_phi <- function() {
  new_coefficient(
    name = "phi", place = 4, symbol = c("\u03c6", "phi"), adjective = "phi",
    suits = function(levels) all(levels == "binary"), why = "both variables are binary",
    two_valued = 2L, one_scale = FALSE, without_each = NULL,
    estimate = function(sample) estimate_products(sample, "phi"),
    spread = spread_by_products,
    tests = list(
      analytic = function(e, expect, draws) test_counts(e, expect),
      exact = function(e, expect, draws) test_exact_table(e$x, e$y, e$r, "phi", expect),
      permutation = function(e, expect, draws) test_shuffled(e$x, e$y, e$r, "phi", expect, draws),
      jackknife = test_jackknife,
      bootstrap = function(e, expect, draws) test_bootstrap(e, expect, draws, ranked = FALSE)
    ),
    intervals = list(
      analytic = function(e, confidence, draws) {
        agree_about_zero(interval_phi(e$x, e$y, e$r, confidence), test_counts(e, "either")$p, confidence)
      },
      bootstrap = function(e, confidence, draws) {
        interval_bootstrap(e$x, e$y, FALSE, e$r, e$unexplained, confidence, draws)
      },
      jackknife = limits_jackknife
    ),
    matrix = list(kernel = product_kernel),
    statistic = function(r, unexplained, n) list(statistic = "chi-squared", value = n * r^2, df = rep(1, length(r))),
    z_variance = function(r, n) 1 / (n - 3), interval_method = "likelihood",
    words = list(
      r_squared = "the variance of each", mixture = "phi among %s", mixture_level = "binary", counts = TRUE,
      look_also = c(
        "Check the four counts; unequal margins limit the maximum phi.",
        "With an expected count under 5, p is counted exactly."
      )
    ),
    method = paste(
      "Phi, Pearson's r of two variables coded 0 and 1; chi-squared test with one degree of freedom, without",
      "continuity correction; if an expected count is below 5, Fisher's exact test; interval by profile likelihood",
      "of the four counts."
    ),
    sources = c(
      "Yule (1912), Journal of the Royal Statistical Society 75", "Pearson (1900), Philosophical Magazine 50",
      "Wilks (1938), Annals of Mathematical Statistics 9"
    )
  )
}

#' Chi-squared, or where an expected count is below 5 the count of all tables of these margins
#' @noRd
test_counts <- function(estimate, expect) {
  ones <- c(sum(estimate$x), sum(estimate$y))
  n <- estimate$n
  least <- min(outer(c(ones[1], n - ones[1]), c(ones[2], n - ones[2]))) / n
  if (least >= 5) return(test_phi(estimate$r, n, expect))
  test_exact_table(estimate$x, estimate$y, estimate$r, "phi", expect)
}
