# Tests shared by several coefficients, on plain numbers. Each gives `statistic`, `value`, `df`, `p`, `log10_p`, `p_method`.

new_test <- function(statistic, value, df, log_p, p_method = "analytic") {
  list(statistic = statistic, value = value, df = df, p = exp(log_p), log10_p = log_p / log(10), p_method = p_method)
}

#' Student's t of a correlation, exact in both tails
#'
#' t = r sqrt((n - 2) / (1 - r^2)); p is the incomplete beta function of 1 - r^2, which stays exact where 1 - r^2 or p
#' are far below what subtraction or a double can hold.
#'
#' @param r,unexplained r, and 1 - r^2.
#' @return A test; value and p are `NA` when the points lie on a line.
#' @references Student (1908); Fisher (1915).
#' @noRd
test_student <- function(r, unexplained, n, expect = "either") {
  df <- n - 2
  if (unexplained == 0) return(new_test("t", NA_real_, df, NA_real_))
  log_p <- direct_log_p(log_two_sided(r, unexplained, df), sign(r), expect)
  new_test("t", r * sqrt(df / unexplained), df, log_p)
}

log_two_sided <- function(r, unexplained, df) {
  near <- !is.na(r) & abs(r) < 0.5
  far <- !is.na(r) & !near
  df <- rep_len(df, length(r))
  out <- rep(NA_real_, length(r))
  out[near] <- stats::pbeta(r[near]^2, 0.5, df[near] / 2, lower.tail = FALSE, log.p = TRUE)
  out[far] <- stats::pbeta(unexplained[far], df[far] / 2, 0.5, log.p = TRUE)
  out[unexplained %in% 0] <- NA
  out
}

#' The log p for the direction predicted, from that for either direction
#' @noRd
direct_log_p <- function(log_two, sign, expect) {
  if (expect == "either") return(log_two)
  along <- if (expect == "positive") sign >= 0 else sign <= 0
  ifelse(along, log_two - log(2), log1p(-exp(log_two) / 2))
}

#' A standard normal deviate's log p: both tails, or the one predicted
#' @noRd
log_p_normal <- function(z, expect) {
  if (expect == "either") return(stats::pnorm(-abs(z), log.p = TRUE) + log(2))
  stats::pnorm(z, lower.tail = expect == "negative", log.p = TRUE)
}

#' The log p of chi-squared on one degree of freedom; for a predicted direction that of its signed root
#' @references Pearson (1900); Yule (1912).
#' @noRd
log_p_chi_squared <- function(phi, n, expect) {
  if (expect != "either") return(log_p_normal(phi * sqrt(n), expect))
  stats::pchisq(n * phi^2, 1, lower.tail = FALSE, log.p = TRUE)
}

test_phi <- function(r, n, expect) new_test("chi-squared", n * r^2, 1, log_p_chi_squared(r, n, expect))

#' The level that goes with a confidence, as it is written: .05 with .95
#' @noRd
alpha_of <- function(confidence) signif(1 - confidence, 10)

#' Whether p is below the level: p = .05 is not below .05, however the last digits of a double fall
#' @noRd
is_below <- function(p, confidence) p < alpha_of(confidence) * (1 - 1e-9)

#' 2 P(T > |t|) through the incomplete beta function: full accuracy at any number of degrees of freedom
#' @noRd
p_two_sided <- function(t, df) exp(log_p_two_sided(t, df))

log_p_two_sided <- function(t, df) {
  df <- rep_len(df, length(t))
  far <- !is.na(t) & t^2 > df
  p <- rep(NA_real_, length(t))
  p[far] <- stats::pbeta(df[far] / (df[far] + t[far]^2), df[far] / 2, 0.5, log.p = TRUE)
  near <- !is.na(t) & !far
  p[near] <- stats::pbeta(t[near]^2 / (df[near] + t[near]^2), 0.5, df[near] / 2, lower.tail = FALSE, log.p = TRUE)
  p
}

#' p of an r on some degrees of freedom
#' @noRd
p_of_r <- function(r, df) p_two_sided(r * sqrt(df / ((1 - r) * (1 + r))), df)
