# Coefficients with binary variables: point-biserial (one of them) and phi (two).

#' Interval of a point-biserial r by inverting the noncentral t
#'
#' The limits of the noncentrality lambda are those at which the observed t has probability alpha / 2 above and below;
#' rho = lambda / sqrt(n + lambda^2). Beyond |lambda| = 37 the noncentral t of R's library loses its digits, and
#' Fisher's z serves instead; `ci_method` says which.
#' @references Hedges & Olkin (1985), Statistical Methods for Meta-Analysis; Cohen (1988).
#' @noRd
interval_point_biserial <- function(r, unexplained, n, confidence = 0.95) {
  if (n < 4 || unexplained == 0) return(no_interval())
  df <- n - 2
  t <- r * sqrt(df / unexplained)
  alpha <- (1 - confidence) / 2
  reach <- stats::qnorm(1 - alpha / 4) * sqrt(1 + t^2 / (2 * df)) + 3
  if (abs(t) + reach > 37) return(interval_fisher(r, unexplained, n, confidence))
  limit <- function(share) {
    excess <- function(lambda) suppressWarnings(stats::pt(t, df, lambda)) - share
    tryCatch(
      stats::uniroot(excess, t + c(-reach, reach), extendInt = "downX", tol = 1e-12)$root,
      error = function(e) NA_real_
    )
  }
  lambda <- c(limit(1 - alpha), limit(alpha))
  if (anyNA(lambda)) return(interval_fisher(r, unexplained, n, confidence))
  rho <- lambda / sqrt(n + lambda^2)
  list(ci_low = rho[1], ci_high = rho[2], ci_method = "noncentral t")
}

#' Chi-squared of phi, n phi^2 on one degree of freedom; for a predicted direction its signed root
#' @references Pearson (1900); Yule (1912).
#' @noRd
test_phi <- function(r, n, expect) {
  value <- n * r^2
  log_p <- if (expect == "either") {
    stats::pchisq(value, 1, lower.tail = FALSE, log.p = TRUE)
  } else {
    stats::pnorm(r * sqrt(n), lower.tail = expect == "negative", log.p = TRUE)
  }
  list(statistic = "chi-squared", value = value, df = 1, p = exp(log_p), log10_p = log_p / log(10),
    p_method = "analytic")
}

#' Interval of phi by the delta method on the z scale
#'
#' The variance is that of the influence of each of the four cells of the table on phi.
#' @references Bishop, Fienberg & Holland (1975), Discrete Multivariate Analysis, chapter 11.
#' @noRd
interval_phi <- function(x, y, r, unexplained, confidence = 0.95) {
  n <- length(x)
  if (n < 4 || unexplained == 0) return(no_interval())
  a <- (x - mean(x)) / sqrt(mean(x) * (1 - mean(x)))
  b <- (y - mean(y)) / sqrt(mean(y) * (1 - mean(y)))
  se <- sqrt(mean((a * b - r * (a^2 + b^2) / 2)^2) / n) / unexplained
  half <- stats::qnorm((1 + confidence) / 2) * se
  z <- fisher_z(r, unexplained)
  list(ci_low = tanh(z - half), ci_high = tanh(z + half), ci_method = "delta z")
}

#' The two groups of a point-biserial r: value, code, n, mean and sd of the other variable
#' @noRd
binary_groups <- function(binary, other, coding) {
  one_row <- function(code) {
    values <- other[binary == code]
    spread <- if (length(values) > 1) measure_spread(values) else list(mean = values, sd = NA_real_)
    data.frame(value = coding[[code + 1]], code = code, n = length(values), mean = spread$mean, sd = spread$sd)
  }
  rbind(one_row(0), one_row(1))
}

#' The largest r, of the same sign, that these two sets of values allow: each sorted, so that high meets high
#' @noRd
largest_attainable <- function(x, y, sign) {
  .Call(unsere_pearson, as.double(sort(x)), as.double(sort(y, decreasing = sign < 0)))$r
}
