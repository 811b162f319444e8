# Groups without an order: how much of a variable lies between them, and how far two sets of groups hang together.

#' The division of numbers among groups
#'
#' @param v Doubles; `group` whole numbers from 1 to the number of groups, each with a case.
#' @return A list: `v` (about its mean), `between` and `within` (sums of squares), `n`, `kinds`, `df`, `df_residual`.
#' @references Fisher (1925), Statistical Methods for Research Workers; Pearson (1905), Drapers' Company Research Memoirs.
#' @noRd
divide_among <- function(v, group) {
  v <- v / fitting_unit(v)
  v <- v - mean(v)
  v <- v - mean(v)
  sizes <- tabulate(group)
  means <- rowsum(v, group, reorder = TRUE)[, 1] / sizes
  residuals <- v - means[group]
  # What rounding left of the groups' means.
  rest <- rowsum(residuals, group, reorder = TRUE)[, 1] / sizes
  residuals <- residuals - rest[group]
  list(
    v = v, between = sum(sizes * (means + rest)^2), within = sum(residuals^2), n = length(v), kinds = length(sizes),
    df = length(sizes) - 1, df_residual = length(v) - length(sizes)
  )
}

#' The test of no differences among groups: F, by the incomplete beta function of what is within them
#' @noRd
test_f <- function(unexplained, df, df_residual) {
  if (unexplained <= 0 || df_residual < 1) return(c(new_test("F", NA_real_, df, NA_real_), df_residual = df_residual))
  value <- (1 - unexplained) / unexplained * df_residual / df
  log_p <- stats::pbeta(unexplained, df_residual / 2, df / 2, log.p = TRUE)
  c(new_test("F", value, df, log_p), df_residual = df_residual)
}

#' Epsilon squared: the share between the groups, freed from what chance alone puts there
#' @references Kelley (1935), Proceedings of the National Academy of Sciences 21, 554-559.
#' @noRd
epsilon_squared <- function(unexplained, df, df_residual) {
  if (df_residual < 1) NA_real_ else 1 - unexplained * (df + df_residual) / df_residual
}

#' Chi-squared of two sets of groups
#'
#' @param x,y Whole numbers from 1 on, each group with a case.
#' @return A list: `counts` (a matrix), `expected`, `value`, `df`, `n`, `steps` (the smaller number of groups less one).
#' @references Pearson (1900), Philosophical Magazine 50, 157-175; Cramer (1946), Mathematical Methods of Statistics.
#' @noRd
compare_counts <- function(x, y) {
  counts <- matrix(tabulate(x + max(x) * (y - 1L), max(x) * max(y)), max(x))
  n <- length(x)
  expected <- outer(rowSums(counts), colSums(counts)) / n
  list(
    counts = counts, expected = expected, value = sum((counts - expected)^2 / expected), n = n,
    df = prod(dim(counts) - 1), steps = min(dim(counts)) - 1
  )
}

#' Whether the expected counts are too small for the distribution of chi-squared
#' @references Cochran (1954), Biometrics 10, 417-451.
#' @noRd
are_counts_small <- function(expected) min(expected) < 1 || mean(expected < 5) > 0.2

#' Cramer's V without the bias that chance gives it
#' @references Bergsma (2013), Journal of the Korean Statistical Society 42, 323-328.
#' @noRd
corrected_v <- function(table) {
  free <- dim(table$counts) - 1
  square <- max(0, table$value / table$n - prod(free) / (table$n - 1))
  reduced <- dim(table$counts) - free^2 / (table$n - 1)
  if (min(reduced) <= 1) NA_real_ else min(1, sqrt(square / (min(reduced) - 1)))
}

#' Welch's test of several means, without presuming equal spreads
#' @param parts Double vectors, each of two values or more that vary.
#' @return A list: `value` (F), `df`, `df_residual`, `p`.
#' @references Welch (1951), Biometrika 38, 330-336.
#' @noRd
test_welch_groups <- function(parts) {
  k <- length(parts)
  sizes <- lengths(parts)
  means <- vapply(parts, mean, 0)
  weights <- sizes / vapply(parts, stats::var, 0)
  share <- weights / sum(weights)
  middle <- sum(share * means)
  spread <- sum((1 - share)^2 / (sizes - 1))
  value <- sum(weights * (means - middle)^2) / (k - 1) / (1 + 2 * (k - 2) / (k^2 - 1) * spread)
  df_residual <- (k^2 - 1) / (3 * spread)
  p <- stats::pf(value, k - 1, df_residual, lower.tail = FALSE)
  list(value = value, df = k - 1, df_residual = df_residual, p = p)
}

#' A column as groups: those that have a case, numbered anew
#' @param coding What its numbers stand for: `kinds`, in their order from 1 on, or `zero` and `one`.
#' @return A list: `code` (whole numbers from 1 on), `kinds` (words).
#' @section Errors: `unsere_error_undefined` where there is one group alone.
#' @noRd
groups_of_column <- function(values, coding, name) {
  at <- sort(unique(values))
  words <- if (!is.null(coding$kinds)) {
    coding$kinds[at]
  } else if (!is.null(coding$one)) {
    c(coding$zero, coding$one)[at + 1]
  } else {
    format(at, trim = TRUE, digits = 15)
  }
  if (length(at) < 2L) {
    abort_undefined(
      problem("%s is \"%s\" in all %d complete pairs: the other groups are empty.", name, words, length(values)),
      "Check whether missing values exclude whole groups."
    )
  }
  list(code = match(values, at), kinds = words)
}
