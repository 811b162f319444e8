# Comparing two r: of the same cases, sharing one variable or none, and of different cases.

#' Williams' t: two r that share a variable, on the same cases
#' @param r_a,r_b The r of the shared variable with either; `r_ab` that of the two others.
#' @references Williams, E. J. (1959), Journal of the Royal Statistical Society B 21, 396-399; Steiger (1980),
#'   Psychological Bulletin 87, 245-251.
#' @noRd
test_williams <- function(r_a, r_b, r_ab, n) {
  # The determinant in a form that does not cancel near |r| = 1.
  determinant <- (1 - r_ab) * (1 + r_ab) - r_a^2 - r_b^2 + 2 * r_a * r_b * r_ab
  middle <- (r_a + r_b) / 2
  below <- 2 * determinant * (n - 1) / (n - 3) + middle^2 * (1 - r_ab)^3
  value <- (r_a - r_b) * sqrt((n - 1) * (1 + r_ab) / below)
  square <- below / ((n - 1) * (1 + r_ab))
  error <- if (isTRUE(square >= 0)) sqrt(square) else NA_real_
  list(statistic = "williams t", value = value, df = n - 3, p = p_two_sided(value, n - 3), error = error)
}

#' The difference of two r by how far it moves when each case in turn is left out, where that is clearly farther than the
#' usual error: the same route as that of one r
#'
#' @param moves The difference without each case; `error` the usual standard error.
#' @return `NULL` where the usual test stands; else `statistic`, `value`, `df`, `p`, `ci_low`, `ci_high`.
#' @noRd
robust_difference <- function(difference, moves, error, confidence) {
  n <- length(moves)
  moves <- moves[!is.na(moves)]
  if (length(moves) < least_for_route || all(moves == mean(moves))) return(NULL)
  spread <- sqrt(jackknife_variance(moves))
  if (!isTRUE(spread > route_limit(n) * error)) return(NULL)
  df <- df_of_moves(moves, n - 2)
  tested <- difference_by_jackknife(difference, spread, df, confidence)
  c(list(statistic = "jackknife t", value = difference / spread), tested[c("df", "p", "ci_low", "ci_high")])
}

#' Steiger's z: two r without a shared variable, on the same cases
#'
#' The covariance of the two z is that of Pearson and Filon (1898), at the mean of the two r.
#' @param r A 4 by 4 matrix of r: the variables of the first pair, then those of the second.
#' @references Steiger, J. H. (1980), Psychological Bulletin 87, 245-251, formula 15.
#' @noRd
test_steiger <- function(r, n) {
  r_a <- r[1, 2]
  r_b <- r[3, 4]
  middle <- (r_a + r_b) / 2
  psi <- 0.5 * (
    (r[1, 3] - middle * r[2, 3]) * (r[2, 4] - middle * r[2, 3]) +
      (r[1, 4] - middle * r[1, 3]) * (r[2, 3] - middle * r[1, 3]) +
      (r[1, 3] - middle * r[1, 4]) * (r[2, 4] - middle * r[1, 4]) +
      (r[1, 4] - middle * r[2, 4]) * (r[2, 3] - middle * r[2, 4])
  )
  share <- psi / (1 - middle^2)^2
  value <- (atanh(r_a) - atanh(r_b)) * sqrt(n - 3) / sqrt(2 - 2 * share)
  list(statistic = "steiger z", value = value, df = NA_real_, p = 2 * stats::pnorm(-abs(value)))
}

#' The difference of two r on Fisher's z scale, of different cases
#'
#' @param variance_a,variance_b The variance of each z, by its coefficient.
#' @references Fisher (1921), Metron 1, 3-32.
#' @noRd
test_two_samples <- function(r_a, variance_a, r_b, variance_b) {
  value <- (atanh(r_a) - atanh(r_b)) / sqrt(variance_a + variance_b)
  list(statistic = "fisher z", value = value, df = NA_real_, p = 2 * stats::pnorm(-abs(value)))
}

#' Whether several r, of different cases, are one
#'
#' The squared distances of the z from their mean, each in units of its variance.
#' @references Hedges & Olkin (1985), Statistical Methods for Meta-Analysis, chapter 11.
#' @noRd
test_several_samples <- function(r, variance) {
  known <- !is.na(r) & abs(r) < 1 & is.finite(variance) & variance > 0
  df <- sum(known) - 1
  if (df < 1) return(list(groups = sum(known), value = NA_real_, df = NA_real_, p = NA_real_))
  z <- atanh(r[known])
  weight <- 1 / variance[known]
  value <- sum(weight * (z - sum(weight * z) / sum(weight))^2)
  list(groups = sum(known), value = value, df = df, p = stats::pchisq(value, df, lower.tail = FALSE))
}

#' Whether the means of two samples differ, their spreads being what they are
#' @references Welch, B. L. (1947), Biometrika 34, 28-35.
#' @noRd
test_two_means <- function(a, b) {
  share <- c(a$sd^2 / a$n, b$sd^2 / b$n)
  value <- (a$mean - b$mean) / sqrt(sum(share))
  df <- sum(share)^2 / sum(share^2 / (c(a$n, b$n) - 1))
  list(statistic = "t", value = value, df = df, p = 2 * stats::pt(-abs(value), df))
}

#' An interval of the difference of two r from the intervals of each
#'
#' @param covariance The correlation of the two estimates; 0 for different cases.
#' @references Zou, G. Y. (2007), Psychological Methods 12, 399-413.
#' @noRd
interval_difference <- function(a, b, correlation = 0) {
  a_below <- a$r - a$ci_low
  a_above <- a$ci_high - a$r
  b_below <- b$r - b$ci_low
  b_above <- b$ci_high - b$r
  low <- a$r - b$r - sqrt(max(0, a_below^2 + b_above^2 - 2 * correlation * a_below * b_above))
  high <- a$r - b$r + sqrt(max(0, a_above^2 + b_below^2 - 2 * correlation * a_above * b_below))
  list(ci_low = low, ci_high = high)
}

#' The correlation of two r that share a variable
#' @references Zou (2007), after Olkin & Siotani (1976).
#' @noRd
correlation_of_shared <- function(r_a, r_b, r_ab) {
  ((r_ab - r_a * r_b / 2) * (1 - r_a^2 - r_b^2 - r_ab^2) + r_ab^3) / ((1 - r_a^2) * (1 - r_b^2))
}
