# Lines of y in x by least squares: fitted, used for prediction, and read backwards.

#' The line of y in x
#'
#' @param x,y Double vectors of equal length, complete and finite.
#' @param shape `"linear"`, `"log"` (in the natural logarithm of x) or `"quadratic"`.
#' @return A list: `estimates` (intercept, slope and, of a quadratic, curve), `covariance` (to be multiplied by the
#'   residual variance), `fitted`, `residuals`, `residual_squares`, `total_squares`, `exact`, `centre`, `centred` and
#'   `centred_covariance` (the same line in powers of x - centre), `score` (what y was fitted on: x or its logarithm),
#'   `unit` (powers of two, of x and of y, by which all of these are divided: 1 unless squares would leave what a double
#'   holds).
#' @references Bjorck (1967), modified Gram-Schmidt.
#' @noRd
measure_line <- function(x, y, names = c("x", "y"), shape = "linear", threads = 2L) {
  check_pair(x, y, names)
  if (shape == "log") x <- log(x)
  curved <- shape == "quadratic"
  if (curved) check_curve(x, names[1])
  unit <- c(x = fitting_unit(x), y = fitting_unit(y))
  fit <- core_line(as.double(x) / unit[["x"]], as.double(y) / unit[["y"]], curved, threads)
  if (!fit$full_rank) {
    abort_undefined(
      problem("%s varies too little in relation to its size for this line.", names[1]),
      "Measure it from a nearer origin, for example with since() in derive()."
    )
  }
  squares <- c(fit$covariance, fit$residual_squares, fit$total_squares)
  if (!all(is.finite(c(fit$estimates, squares))) || fit$total_squares == 0 && max(y) > min(y)) {
    abort_undefined(
      problem("%s or %s is too large or too small to be squared.", names[1], names[2]),
      "Use another unit."
    )
  }
  terms <- length(fit$estimates)
  for (field in c("covariance", "centred_covariance")) fit[[field]] <- matrix(fit[[field]], terms)
  c(fit, list(score = x, unit = unit))
}

# A power of two that brings values near 1 whose squares or products would leave what a double holds.
fitting_unit <- function(v) {
  size <- max(abs(v))
  if (size > 1e-60 && size < 1e60 || size == 0) 1 else 2^floor(log2(size))
}

#' What a term of a line is multiplied by to stand in the units of x and y
#' @noRd
term_units <- function(unit, terms) {
  unit[["y"]] * Reduce(function(u, k) u / unit[["x"]], seq_len(terms - 1), 1, accumulate = TRUE)
}

check_curve <- function(x, name) {
  values <- unique(x)
  if (length(values) < 3L) {
    abort_undefined(
      problem("%s has only %s; a curve needs three.", name, count_in_english(length(values), "value")),
      "Fit a straight line."
    )
  }
  if (length(x) < 4L) {
    abort_undefined(problem("A curve needs four pairs; here are %d.", length(x)), "Fit a straight line.")
  }
}

#' From terms about a centre to terms about zero, as a matrix to multiply with
#' @noRd
recentring <- function(centre, terms) {
  outer(
    seq_len(terms) - 1, seq_len(terms) - 1,
    function(to, from) ifelse(from >= to, choose(from, to) * (-centre)^(from - to), 0)
  )
}

# The covariance of the terms about zero from that of the terms about a centre, in the units of the fit.
terms_covariance <- function(centre, covariance) {
  moved <- recentring(centre, nrow(covariance))
  moved %*% covariance %*% t(moved)
}

line_terms_names <- function(k) c("intercept", "slope", "curve")[seq_len(k)]

#' Estimates with standard error, t, p and interval, a row a term
#' @noRd
line_terms <- function(fit, n, confidence, exact) {
  df <- n - length(fit$estimates)
  variance <- fit$residual_squares / df
  fit$estimates[abs(fit$estimates) < 1e-15 * sqrt(diag(fit$covariance) * variance)] <- 0
  se <- if (exact) rep(NA_real_, length(fit$estimates)) else sqrt(diag(fit$covariance) * variance)
  t <- fit$estimates / se
  half <- stats::qt((1 + confidence) / 2, df) * se
  log_p <- log_p_two_sided(t, df)
  unit <- term_units(fit$unit, length(fit$estimates))
  data.frame(
    term = line_terms_names(length(fit$estimates)), estimate = fit$estimates * unit, se = se * unit, t = t,
    df = df, p = exp(log_p), ci_low = (fit$estimates - half) * unit, ci_high = (fit$estimates + half) * unit,
    log10_p = log_p / log(10)
  )
}

#' How the variance of y divides between the line and what is left
#' @noRd
line_variance <- function(fit, n, exact) {
  df_line <- length(fit$estimates) - 1
  df_left <- n - length(fit$estimates)
  unexplained <- if (exact) 0 else fit$residual_squares
  explained <- fit$total_squares - unexplained
  f <- if (exact) NA_real_ else (explained / df_line) / (unexplained / df_left)
  log_p <- if (is.na(f)) NA_real_ else stats::pbeta(unexplained / fit$total_squares, df_left / 2, df_line / 2, log.p = TRUE)
  # What is too large or too small to be squared has no sum of squares, though F and p stand.
  squared <- function(v) {
    out <- v * fit$unit[["y"]] * fit$unit[["y"]]
    replace(out, is.infinite(out) | out == 0 & v != 0, NA)
  }
  data.frame(
    source = c("line", "residual", "total"), df = c(df_line, df_left, n - 1),
    ss = squared(c(explained, unexplained, fit$total_squares)),
    ms = squared(c(explained / df_line, unexplained / df_left, NA)),
    f = c(f, NA, NA), p = c(exp(log_p), NA, NA), log10_p = c(log_p / log(10), NA, NA)
  )
}

# Powers of x - centre, in the units of the fit, a row a value.
centred_powers <- function(basis, score) outer(score / basis$unit[["x"]] - basis$centre, seq_along(basis$centred) - 1, `^`)

#' The line at some x, with the interval of its mean and that of a single new case
#'
#' @param basis A list: `centre`, `centred`, `centred_covariance`, `residual_sd`, all in the units of the fit, `unit`, `df`.
#' @param score x, or its logarithm for a line in the logarithm.
#' @noRd
line_at <- function(basis, score, confidence) {
  powers <- centred_powers(basis, score)
  fit <- as.vector(powers %*% basis$centred)
  spread <- rowSums((powers %*% basis$centred_covariance) * powers)
  half <- function(df) stats::qt((1 + confidence) / 2, df) * basis$residual_sd
  q <- half(basis$df)
  of_mean <- if (is.null(basis$mean_df)) q else half(basis$mean_df)
  basis$unit[["y"]] * data.frame(
    fit = fit, mean_low = fit - of_mean * sqrt(spread), mean_high = fit + of_mean * sqrt(spread),
    case_low = fit - q * sqrt(1 + spread), case_high = fit + q * sqrt(1 + spread)
  )
}

#' The x at which the line passes y, with the limits that Fieller's argument gives
#'
#' A value of x is within the limits when the reading, or the mean of `readings`, differs from the line there by no more
#' than chance allows: (y - f(x))^2 <= t^2 s^2 (1 / m + v(x)). That is an inequality between polynomials in x; where it
#' holds may be one stretch, two that run on for ever, or everything.
#'
#' @param y One reading, or the mean of several of the same unknown; `readings` how many.
#' @return A data frame, a row a solution: `score`, `low`, `high` (infinite where unbounded), `limits`: `"bounded"`,
#'   `"two-part"` (below `low` or above `high`), `"above"` (`low`), `"below"` (`high`), `"unbounded"`; and `parts`, how many
#'   parts the set has; these limits are of the one that holds the solution.
#' @references Fieller, E. C. (1954), Journal of the Royal Statistical Society B 16, 175-185; Draper & Smith (1998).
#' @noRd
line_backwards <- function(basis, y, readings, confidence) {
  k <- length(basis$centred)
  y <- y / basis$unit[["y"]]
  gap <- -basis$centred
  gap[1] <- y - basis$centred[1]
  if (abs(y) > 1e140) {
    reading <- format(y * basis$unit[["y"]], digits = 3)
    abort_undefined(
      problem("A reading of %s has no limits: its square cannot be represented as a number.", reading),
      "Check its unit."
    )
  }
  q <- (stats::qt((1 + confidence) / 2, basis$df) * basis$residual_sd)^2
  spread <- rep(0, 2 * k - 1)
  for (i in seq_len(k)) for (j in seq_len(k)) spread[i + j - 1] <- spread[i + j - 1] + basis$centred_covariance[i, j]
  spread[1] <- spread[1] + 1 / readings
  square <- rep(0, 2 * k - 1)
  for (i in seq_len(k)) for (j in seq_len(k)) square[i + j - 1] <- square[i + j - 1] + gap[i] * gap[j]
  at <- real_roots(gap)
  if (!length(at)) return(data.frame(score = NA_real_, low = NA_real_, high = NA_real_, limits = "none", parts = 0L))
  discriminant <- square - q * spread
  ends <- sort(real_roots(discriminant))
  inside <- function(x) sum(discriminant * x^(seq_along(discriminant) - 1)) < 0
  rows <- lapply(at, function(root) stretch_around(root, ends, inside, basis$residual_sd, k == 2L))
  out <- do.call(rbind, rows)
  out[c("score", "low", "high")] <- (out[c("score", "low", "high")] + basis$centre) * basis$unit[["x"]]
  out
}

#' The part of the set that holds the root; of a straight line both parts where there are two
#'
#' @param ends Where the inequality turns, sorted; `inside(x)` whether it holds at x.
#' @noRd
stretch_around <- function(root, ends, inside, spread, straight) {
  row <- function(low, high, limits, parts = 1L) {
    data.frame(score = root, low = low, high = high, limits = limits, parts = parts)
  }
  if (spread == 0) return(row(root, root, "bounded"))
  if (!length(ends)) return(row(-Inf, Inf, "unbounded"))
  reach <- max(1, abs(ends), abs(root))
  middles <- c(ends[1] - reach, (ends[-1] + ends[-length(ends)]) / 2, ends[length(ends)] + reach)
  holds <- vapply(middles, inside, NA)
  at <- findInterval(root, ends) + 1L
  if (!holds[at]) { # the root lies on an end but for rounding
    near <- which(holds)
    if (!length(near)) return(row(root, root, "bounded"))
    at <- near[which.min(abs(middles[near] - root))]
  }
  runs <- rle(holds)
  last <- cumsum(runs$lengths)
  run <- which(last >= at)[1]
  from <- last[run] - runs$lengths[run] + 1L
  low <- c(-Inf, ends)[from]
  high <- c(ends, Inf)[last[run]]
  parts <- sum(runs$values)
  if (straight && parts == 2L) return(row(ends[1], ends[length(ends)], "two-part", parts))
  row(low, high, c("unbounded", "below", "above", "bounded")[1L + is.finite(high) + 2L * is.finite(low)], parts)
}

#' The real roots of a polynomial, lowest power first
#' @noRd
real_roots <- function(coefficients) {
  top <- max(c(1, which(coefficients != 0)))
  a <- coefficients[seq_len(top)]
  if (top == 1L) return(numeric())
  if (top == 2L) return(-a[1] / a[2])
  if (top == 3L) {
    inside <- a[2]^2 - 4 * a[1] * a[3]
    if (inside < 0) return(numeric())
    half <- -(a[2] + (if (a[2] < 0) -1 else 1) * sqrt(inside)) / 2
    return(if (half == 0) 0 else c(half / a[3], a[1] / half))
  }
  # In a unit that brings the outer coefficients to one size, so that nothing is lost.
  unit <- abs(a[1] / a[top])^(1 / (top - 1))
  if (unit == 0) unit <- 1
  roots <- polyroot(a * unit^(seq_len(top) - 1))
  Re(roots[abs(Im(roots)) < 1e-7 * pmax(1, Mod(roots))]) * unit
}

#' x on the scale that a line was fitted on
#' @noRd
line_score <- function(line, x) if (line$shape == "log") log(x) else x

# Predictions and solutions that nobody asked for.
no_predictions <- function() {
  data.frame(
    at = numeric(), fit = numeric(), mean_low = numeric(), mean_high = numeric(), case_low = numeric(),
    case_high = numeric(), outside_data = logical()
  )
}

no_solutions <- function() {
  data.frame(
    y = numeric(), x = numeric(), x_low = numeric(), x_high = numeric(), limits = character(), parts = integer(),
    readings = integer(),
    outside_data = logical()
  )
}
