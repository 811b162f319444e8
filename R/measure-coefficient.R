# From a coefficient's name to its value, its test and its interval: the one place where they are matched.

coefficient_names <- c("pearson", "spearman", "point-biserial", "phi")

#' @return A list: `r`, `unexplained`, `exact`, and `x`, `y`, the scores that were correlated.
#' @noRd
measure_coefficient <- function(x, y, coefficient, names) {
  if (coefficient == "spearman") return(measure_spearman(x, y, names))
  c(measure_pearson(x, y, names), list(x = x, y = y))
}

test_coefficient <- function(found, coefficient, test, expect, draws) {
  n <- length(found$x)
  if (test == "exact") return(test_exact(found$x, found$y, coefficient, found$r, expect))
  if (test == "permutation") return(test_permutation(found$x, found$y, coefficient, found$r, expect, draws))
  switch(coefficient,
    spearman = test_spearman(found, n, expect),
    phi = test_phi(found$r, n, expect),
    c(test_student(found$r, found$unexplained, n, expect), p_method = "analytic")
  )
}

interval_coefficient <- function(found, coefficient, interval, confidence, draws) {
  n <- length(found$x)
  if (interval == "bootstrap") {
    return(interval_bootstrap(found$x, found$y, coefficient, found$r, found$unexplained, confidence, draws))
  }
  switch(coefficient,
    pearson = interval_fisher(found$r, found$unexplained, n, confidence),
    spearman = interval_spearman(found$r, found$unexplained, n, confidence),
    "point-biserial" = interval_point_biserial(found$r, found$unexplained, n, confidence),
    phi = interval_phi(found$x, found$y, found$r, found$unexplained, confidence)
  )
}
