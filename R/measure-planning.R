# How many cases: power and width of a correlation before there are data.

#' The density of r in samples of a bivariate normal
#'
#' By its hypergeometric series, summed until a term adds nothing.
#' @references Hotelling, H. (1953), Journal of the Royal Statistical Society B 15, 193-232.
#' @noRd
density_of_r <- function(r, rho, n) {
  constant <- log(n - 2) + lgamma(n - 1) - 0.5 * log(2 * pi) - lgamma(n - 0.5) + (n - 1) / 2 * log1p(-rho^2)
  outer <- (n - 4) / 2 * log1p(-r^2) - (n - 1.5) * log1p(-rho * r)
  exp(constant + outer) * gauss_series((1 + rho * r) / 2, n - 0.5)
}

# The series F(1/2, 1/2; c; t).
gauss_series <- function(t, c) {
  sum <- term <- rep(1, length(t))
  for (k in 0:2000) {
    term <- term * (0.5 + k)^2 / ((c + k) * (k + 1)) * t
    sum <- sum + term
    if (all(term < 1e-16 * sum)) break
  }
  sum
}

#' The chance that r of n cases lies beyond a value
#' @noRd
chance_beyond <- function(value, rho, n, upper = TRUE) {
  # On the z scale, where the distribution has one width wherever it lies.
  reach <- atanh(rho) + c(-1, 1) * 12 / sqrt(max(n - 3, 1))
  at <- atanh(value)
  ends <- if (upper) c(max(at, reach[1]), reach[2]) else c(reach[1], min(at, reach[2]))
  if (ends[1] >= ends[2]) return(0)
  density <- function(z) {
    r <- tanh(z)
    out <- density_of_r(r, rho, n) * (1 - r^2)
    ifelse(is.finite(out), out, 0)
  }
  area <- stats::integrate(density, ends[1], ends[2], rel.tol = 1e-8, stop.on.error = FALSE, subdivisions = 400L)
  min(1, max(0, area$value))
}

#' The power of the test of no correlation
#'
#' @param kind `exact` by the distribution of r; `groups` by the noncentral t, the groups as large as planned; `ranks` by
#'   a beta distribution of the sample's coefficient, see `chance_by_shape()`, or of few cases by draws.
#' @param planning Of ranks: the record's `shape`, `limit` and, where there is one, `sample`.
#' @noRd
planned_power <- function(kind, r, n, alpha, expect, planning) {
  if (n < 4) return(NA_real_)
  sided <- if (expect == "either") alpha / 2 else alpha
  if (expect == "negative") r <- -r
  either <- expect == "either"
  t <- stats::qt(1 - sided, n - 2)
  switch(kind,
    exact = {
      value <- t / sqrt(n - 2 + t^2)
      chance_beyond(value, r, n) + if (either) chance_beyond(-value, r, n, upper = FALSE) else 0
    },
    groups = {
      # r has been turned the way that is expected.
      power_with_df(sqrt(n) * r / sqrt(1 - r^2), n - 2, alpha, if (either) "either" else "positive")
    },
    ranks = {
      limit <- planning$limit(n, sided)
      drawn <- if (!is.null(planning$sample) && is.finite(limit)) planning$sample(r, n)
      if (is.null(drawn)) {
        chance_by_shape(limit, planning$shape(r, n), either)
      } else {
        mean(drawn > limit) + if (either) mean(drawn < -limit) else 0
      }
    }
  )
}

#' The chance that a coefficient lies beyond a limit, by its mean, variance and skewness
#'
#' A beta distribution between -1 and 1 has the mean and the variance; what its skewness lacks is made up for by the first
#' term of Edgeworth's series.
#' @noRd
chance_by_shape <- function(limit, shape, either) {
  if (!is.finite(limit)) return(0)
  total <- max((1 - shape$mean^2) / shape$variance - 1, 0.05)
  up <- total * (1 + shape$mean) / 2
  down <- total * (1 - shape$mean) / 2
  above <- stats::pbeta((1 + limit) / 2, up, down, lower.tail = FALSE)
  below <- if (either) stats::pbeta((1 - limit) / 2, up, down) else 0
  skewness <- 2 * (down - up) * sqrt(total + 1) / ((total + 2) * sqrt(up * down))
  t <- (limit - shape$mean) / sqrt(shape$variance)
  min(1, max(0, above + below + (shape$skewness - skewness) / 6 * (t^2 - 1) * stats::dnorm(t)))
}

#' Half of the width of the interval that r is expected to have
#' @noRd
planned_half_width <- function(r, n, confidence, variance, df = Inf) {
  if (n < 5 && is.infinite(df) || df < 1) return(NA_real_)
  half <- stats::qt((1 + confidence) / 2, df) * sqrt(variance(r, n))
  diff(tanh(atanh(r) + c(-half, half))) / 2
}

#' The power of comparing two r of different cases, as many in each
#' @noRd
planned_difference <- function(r, other, n, alpha, expect, variance) {
  if (n < 4) return(NA_real_)
  sided <- if (expect == "either") alpha / 2 else alpha
  spread <- sqrt(variance(r, n) + variance(other, n))
  z <- abs(atanh(r) - atanh(other)) / spread
  limit <- stats::qnorm(1 - sided)
  stats::pnorm(z - limit) + if (expect == "either") stats::pnorm(-z - limit) else 0
}

#' The power of showing that r is smaller in size than some value: both one-sided tests of Fisher's z reject
#' @noRd
planned_equivalence <- function(r, smallest, n, alpha, variance, df = Inf) {
  if (n < 4 || !isTRUE(df >= 1)) return(NA_real_)
  spread <- sqrt(variance(r, n))
  room <- atanh(smallest) - stats::qt(1 - alpha, df) * spread
  max(0, stats::pnorm((room - atanh(r)) / spread) - stats::pnorm((-room - atanh(r)) / spread))
}

#' The power of a t test with these degrees of freedom, the noncentrality given
#' @noRd
power_with_df <- function(noncentrality, df, alpha, expect) {
  if (!isTRUE(df >= 1) || !is.finite(noncentrality)) return(NA_real_)
  if (expect == "negative") noncentrality <- -noncentrality
  limit <- stats::qt(1 - if (expect == "either") alpha / 2 else alpha, df)
  beyond <- function(t, upper) suppressWarnings(stats::pt(t, df, noncentrality, lower.tail = !upper))
  beyond(limit, TRUE) + if (expect == "either") beyond(-limit, FALSE) else 0
}

#' The least whole number from which on a condition holds, or `NA` beyond a hundred million
#' @noRd
least_number <- function(holds, from = 4L, most = 1e8) {
  high <- from
  while (!isTRUE(holds(high))) {
    if (high >= most) return(NA_real_)
    high <- min(most, high * 2)
  }
  low <- max(from, floor(high / 2))
  while (low < high) {
    middle <- floor((low + high) / 2)
    if (isTRUE(holds(middle))) high <- middle else low <- middle + 1
  }
  high
}
