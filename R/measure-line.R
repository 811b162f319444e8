#' The straight line of y in x by least squares
#'
#' @param x,y Double vectors of equal length, complete and finite.
#' @return A list: `estimates` (intercept, slope), `covariance` (2 by 2, to be multiplied by the residual variance),
#'   `fitted`, `residuals`, `residual_squares`, `total_squares`.
#' @references Bjorck (1967), modified Gram-Schmidt.
#' @noRd
measure_line <- function(x, y, names = c("x", "y")) {
  check_pair(x, y, names)
  found <- .Call(unsere_straight_line, as.double(x), as.double(y))
  found$covariance <- matrix(found$covariance, length(found$estimates))
  found
}

#' Estimates with standard error, t, p and interval, a row a term
#' @noRd
line_terms <- function(fit, n, confidence, exact) {
  df <- n - length(fit$estimates)
  variance <- fit$residual_squares / df
  se <- if (exact) rep(NA_real_, length(fit$estimates)) else sqrt(diag(fit$covariance) * variance)
  t <- fit$estimates / se
  half <- stats::qt((1 + confidence) / 2, df) * se
  data.frame(
    term = c("intercept", "slope", "curve")[seq_along(fit$estimates)], estimate = fit$estimates, se = se, t = t,
    df = df, p = p_two_sided(t, df), ci_low = fit$estimates - half, ci_high = fit$estimates + half
  )
}

# 2 P(T > |t|) through the incomplete beta function: full accuracy at any number of degrees of freedom.
p_two_sided <- function(t, df) {
  far <- !is.na(t) & t^2 > df
  p <- rep(NA_real_, length(t))
  p[far] <- stats::pbeta(df / (df + t[far]^2), df / 2, 0.5)
  near <- !is.na(t) & !far
  p[near] <- stats::pbeta(t[near]^2 / (df + t[near]^2), 0.5, df / 2, lower.tail = FALSE)
  p
}

#' How the variance of y divides between the line and what is left
#' @noRd
line_variance <- function(fit, n, exact) {
  df_line <- length(fit$estimates) - 1
  df_left <- n - length(fit$estimates)
  left <- if (exact) 0 else fit$residual_squares
  explained <- fit$total_squares - left
  f <- if (exact) NA_real_ else (explained / df_line) / (left / df_left)
  p <- if (is.na(f)) NA_real_ else stats::pbeta(left / fit$total_squares, df_left / 2, df_line / 2)
  data.frame(
    source = c("line", "residual", "total"), df = c(df_line, df_left, n - 1),
    ss = c(explained, left, fit$total_squares), ms = c(explained / df_line, left / df_left, NA),
    f = c(f, NA, NA), p = c(p, NA, NA)
  )
}
