# Tests of what a line leaves: a bend, and an uneven spread.

#' The t of one more power of x, from the residuals of a line with `terms` terms
#'
#' The further power is freed of the lower ones by orthogonalisation; the share of the residual sum of squares that it
#' takes gives its t.
#' @noRd
bend_test <- function(score, residuals, terms) {
  n <- length(score)
  df <- n - terms - 1
  none <- list(statistic = "t", value = NA_real_, df = df, p = NA_real_, direction = NA_character_)
  if (length(unique(score)) <= terms || df < 1) return(none)
  z <- (score - mean(score)) / max(abs(score - mean(score)))
  further <- z^terms
  base <- list(rep(1, n))
  for (k in seq_len(terms - 1)) base[[k + 1]] <- free_of(z^k, base)
  further <- free_of(further, base)
  squares <- sum(further^2)
  if (!(squares > 1e-20 * n)) return(none)
  # The test has no unit: squares of very small or large residuals would leave what a double holds.
  residuals <- residuals / fitting_unit(residuals)
  taken <- sum(further * residuals)
  all <- sum(residuals^2)
  left <- all - taken^2 / squares
  # Nothing but rounding left: the points lie on the curve.
  if (!(all > 0)) return(none)
  value <- if (left > 1e-20 * all) taken / sqrt(squares * left / df) else sign(taken) * Inf
  list(
    statistic = "t", value = value, df = df, p = p_two_sided(value, df),
    direction = if (value < 0) "down" else "up"
  )
}

free_of <- function(column, base) {
  for (again in 1:2) for (other in base) column <- column - other * sum(column * other) / sum(other^2)
  column
}

#' Koenker's test of uneven spread: n r^2 of the squared residuals with x, on one degree of freedom
#' @noRd
spread_test <- function(score, residuals) {
  squared <- residuals^2
  n <- length(score)
  found <- core_pearson(as.double(score), as.double(squared))
  value <- n * (1 - found$unexplained)
  thirds <- stats::quantile(score, c(1, 2) / 3, names = FALSE)
  upper <- score >= thirds[2]
  lower <- score <= thirds[1]
  list(
    statistic = "chi-squared", value = value, df = 1, p = stats::pchisq(value, 1, lower.tail = FALSE),
    ratio = sqrt(mean(squared[upper]) / mean(squared[lower])), direction = if (found$r > 0) "grows" else "shrinks"
  )
}
