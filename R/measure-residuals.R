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
  if (df < 1 || length(unique(utils::head(score, 1000L))) <= terms && length(unique(score)) <= terms) return(none)
  z <- (score - mean(score)) / max(abs(score - mean(score)))
  powers <- Reduce(function(power, k) power * z, seq_len(terms), rep(1, n), accumulate = TRUE)
  further <- as.vector(freed(cbind(powers[[terms + 1]]), do.call(cbind, powers[seq_len(terms)])))
  squares <- sum(further^2)
  if (!(squares > 1e-20 * n)) return(none)
  # The test has no unit: squares of very small or large residuals would leave what a double holds.
  residuals <- residuals / fitting_unit(residuals)
  taken <- sum(further * residuals)
  all <- sum(residuals^2)
  remaining <- all - taken^2 / squares
  # Nothing but rounding left: the points lie on the curve.
  if (!(all > 0)) return(none)
  value <- if (remaining > 1e-20 * all) taken / sqrt(squares * remaining / df) else sign(taken) * Inf
  list(
    statistic = "t", value = value, df = df, p = p_two_sided(value, df),
    direction = if (value < 0) "down" else "up"
  )
}

#' Koenker's test of uneven spread: n r^2 of the squared residuals with x, on one degree of freedom
#' @noRd
spread_test <- function(score, residuals) {
  # Of the tiniest residuals the squares would be nothing.
  size <- max(abs(residuals))
  squared <- (if (size > 0) residuals / size else residuals)^2
  n <- length(score)
  free <- freed(cbind(score, squared), cbind(rep(1, n)))
  r <- sum(free[, 1] * free[, 2]) / sqrt(sum(free[, 1]^2)) / sqrt(sum(free[, 2]^2))
  if (!is.finite(r)) r <- 0
  value <- n * r^2
  thirds <- stats::quantile(score, c(1, 2) / 3, names = FALSE)
  upper <- score >= thirds[2]
  lower <- score <= thirds[1]
  list(
    statistic = "chi-squared", value = value, df = 1, p = stats::pchisq(value, 1, lower.tail = FALSE),
    ratio = sqrt(sum(squared * upper) / sum(upper) / (sum(squared * lower) / sum(lower))),
    direction = if (r > 0) "grows" else "shrinks"
  )
}
