# Exact tests: every pairing, or every way to choose a group, counted.

# Beyond, the number of orders is no double any more.
most_counted <- 160L

counted_test <- function(tally, statistic, r, n, expect) {
  p <- tally[[tail_name(expect)]]
  list(statistic = statistic, value = r, df = n - 2, p = p, log10_p = log10(p), p_method = "exact")
}

tail_name <- function(expect) c(either = "outside", positive = "above", negative = "below")[[expect]]

#' All n! pairings of the values, up to n = 10
#' @references Fisher (1935), The Design of Experiments; Pitman (1937).
#' @noRd
test_exact_orders <- function(x, y, r, statistic, expect) {
  n <- length(x)
  tally <- if (n <= 10) core_exact_orders(x, y)
  counted_test(check_counted(tally, n, "10 pairs"), statistic, r, n, expect)
}

#' The same of ranks by counting, up to n = 14, and more with ties
#' @noRd
test_exact_ranks <- function(x, y, r, statistic, expect) {
  n <- length(x)
  tally <- if (n <= most_counted) core_exact_ranks(x, y, 2e7)
  counted_test(check_counted(tally, n, "14 pairs, and more where many are tied"), statistic, r, n, expect)
}

#' All ways to choose the group, up to twenty million
#' @param group Zeros and ones.
#' @noRd
test_exact_groups <- function(group, y, r, statistic, expect) {
  n <- length(group)
  tally <- if (choose(n, sum(group)) <= 2e7) core_exact_groups(group, y)
  counted_test(check_counted(tally, n, "20 million ways to choose the group"), statistic, r, n, expect)
}

check_counted <- function(tally, n, limit) {
  if (!is.null(tally) && !is.nan(tally$outside)) return(tally)
  abort_usage(
    problem("An exact test of %d pairs would have to count too many pairings; it takes at most %s.", n, limit),
    "Use test = \"permutation\", which samples them, or \"analytic\"."
  )
}

#' The hypergeometric distribution of a table of two by two, any n
#' @param x,y Zeros and ones.
#' @references Fisher (1935), The Design of Experiments.
#' @noRd
test_exact_table <- function(x, y, r, statistic, expect) {
  n <- length(x)
  ones <- c(sum(x), sum(y))
  both <- max(0, sum(ones) - n):min(ones)
  weight <- stats::dhyper(both, ones[1], n - ones[1], ones[2])
  observed <- sum(x * y)
  tally <- list(
    above = min(1, sum(weight[both >= observed])), below = min(1, sum(weight[both <= observed])),
    # Tables as improbable as this one, or more (Fisher 1935; Freeman & Halton 1951).
    outside = min(1, sum(weight[weight <= weight[both == observed] * (1 + 1e-7)]))
  )
  counted_test(tally, statistic, r, n, expect)
}
