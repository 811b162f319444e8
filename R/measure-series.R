# What keeps two series from being taken for tied: a season both share, what one period hands on to the next, a few
# exceptional periods.

#' The degree of the trend that so many periods allow to take out
#' @noRd
trend_degree <- function(n) max(1L, min(3L, (n - 4L) %/% 4L), min(9L, n %/% 10L))

#' r of two series freed of some columns, tested with an effective number of cases
#' @param basis Columns to be taken out of both, or `NULL` for the mean alone.
#' @param serial Whether the test counts the effective number of cases (`effective`) or all; `n_effective` is what it counts.
#' @noRd
tied_series <- function(x, y, basis, serial = TRUE) {
  both <- which(!is.na(x) & !is.na(y))
  none <- list(r = NA_real_, p = NA_real_, n = length(both), n_effective = NA_real_)
  taken <- if (is.null(basis)) matrix(1, length(x), 1) else basis
  spare <- length(both) - ncol(taken)
  if (spare < 4L) return(none)
  free <- freed(cbind(x[both], y[both]), taken[both, , drop = FALSE])
  a <- b <- rep(NA_real_, length(x))
  a[both] <- free[, 1]
  b[both] <- free[, 2]
  scale <- c(sum((x[both] - mean(x[both]))^2), sum((y[both] - mean(y[both]))^2))
  squares <- colSums(free^2)
  if (any(squares <= 1e-20 * scale) || any(scale == 0)) return(none)
  r <- max(-1, min(1, sum(free[, 1] * free[, 2]) / sqrt(squares[1] * squares[2])))
  effective <- effective_cases(a, b)
  counted <- if (serial) effective else length(both)
  df <- counted - 1 - ncol(taken)
  p <- if (df < 1) NA_real_ else if (abs(r) == 1) 0 else p_two_sided(r * sqrt(df / ((1 - r) * (1 + r))), df)
  list(r = r, p = p, n = length(both), n_effective = counted, effective = effective, a = a, b = b)
}

#' The number of independent cases that carry as much information (Bartlett 1935; Pyper & Peterman 1998)
#'
#' 1 / N* = 1 / N + (2 / N) sum over j of ((N - j) / N) rxx(j) ryy(j), over lags up to a fifth of N; never more than N.
#' @noRd
effective_cases <- function(a, b) {
  n <- sum(!is.na(a))
  reach <- min(max(1L, n %/% 5L), 50L) # beyond fifty lags there is only noise
  lags <- seq_len(min(reach, length(a) - 2L))
  products <- self_ties(a, n, length(lags)) * self_ties(b, n, length(lags))
  share <- 1 / n + sum(2 / n * (n - lags) / n * products)
  min(n, if (share > 0) 1 / share else n)
}

#' The test and interval of r by an effective number of cases: t with that many less 2 degrees of freedom, and the r from
#' which the test would tell r apart, so that the two never contradict each other
#' @return A list: `low`, `high`, `p`, `df`, `value` (t), `effective`, `n`.
#' @noRd
tell_effective <- function(r, unexplained, effective, n, confidence) {
  df <- max(effective - 2, 1)
  value <- r * sqrt(df / unexplained)
  reach <- asinh(stats::qt((1 + confidence) / 2, df) / sqrt(df))
  z <- fisher_z(r, unexplained)
  list(
    low = tanh(z - reach), high = tanh(z + reach), p = p_two_sided(value, df), df = df, value = value,
    effective = effective, n = n
  )
}

#' Mean products of a series and itself 1, 2, ... periods later, in units of its mean square over n cases
#' @noRd
self_ties <- function(a, n, reach) {
  there <- !is.na(a)
  a[!there] <- 0
  core_self_ties(a / sqrt(sum(a^2) / n), as.double(there), reach)
}

#' Columns that hold a trend of some degree in time, and a season, orthogonal to one another
#' @noRd
trend_basis <- function(time, degree, season = 1L) {
  z <- (time - mean(range(time))) / max(diff(range(time)) / 2, 1e-300)
  columns <- outer(z, 0:degree, `^`)
  if (season > 1L) {
    place <- (seq_along(time) - 1L) %% season
    columns <- cbind(columns, outer(place, seq_len(season - 1L), `==`) * 1)
  }
  columns
}

#' What is left of some columns once others are taken out, by orthogonalisation twice over
#' @noRd
freed <- function(columns, taken) {
  storage.mode(taken) <- storage.mode(columns) <- "double"
  residuals <- core_freed(columns, taken, nrow(columns))
  dim(residuals) <- dim(columns)
  residuals
}

#' The season that two series share, in periods; 1 for none, `NA` where one is suspected that cannot be told
#'
#' Means of the places in a season are compared by F in what is new of each series, for seasons of 2 to 13 periods. Both
#' must show it.
#' @noRd
shared_season <- function(x, y, time) {
  there <- which(!is.na(x) & !is.na(y))
  n <- length(there)
  if (n < 12L) return(1L)
  residuals <- freed(cbind(x[there], y[there]), trend_basis(time, min(3L, trend_degree(n)))[there, , drop = FALSE])
  if (any(colSums(residuals^2) == 0)) return(1L)
  next_to <- which(diff(there) == 1L)
  new <- apply(residuals, 2, function(v) {
    share <- sum(v[next_to] * v[next_to + 1L]) / sum(v^2)
    v[next_to + 1L] - max(0, min(1, share * (1 + 3 / n) + 1 / n)) * v[next_to]
  })
  lengths <- 2:min(13L, max(n - 8L, n %/% 3L))
  p <- vapply(lengths, function(k) p_of_places(new, there[next_to] %% k), c(0, 0))
  chance <- p[1, ] * p[2, ]
  best <- which.min(chance)
  # Two tied series share what looks like a season by chance; a short series has little to lose by taking it out.
  limit <- if (n < 28L) 1e-4 else 9e-6
  if (chance[best] < limit && max(p[, best]) < 0.05) return(lengths[best])
  # Seen less than twice a season can be suspected, not taken out.
  if (any(chance[lengths > n / 2] < 4e-4)) NA_integer_ else 1L
}

#' p of the means of places being as far apart as they are, for each column
#' @noRd
p_of_places <- function(columns, place) {
  place <- match(place, unique(place))
  groups <- max(place)
  n <- nrow(columns)
  if (n - groups < 2L || groups < 2L) return(c(1, 1))
  columns <- sweep(columns, 2, colMeans(columns))
  between <- colSums(rowsum(columns, place)^2 / tabulate(place))
  within <- colSums(columns^2) - between
  stats::pf(between / (groups - 1) / (within / (n - groups)), groups - 1, n - groups, lower.tail = FALSE)
}

#' The share of a level that is still there a period later, from the changes
#'
#' Neighbouring changes correlate -(1 - share) / 2. The changes tell it with less of a bias than levels freed of a trend.
#' @noRd
carried_over <- function(changes) {
  n <- sum(!is.na(changes))
  max(0, min(1, 1 + 2 * (self_ties(changes, n, 1L) + 1 / n)))
}

#' The smallest r, towards zero, that leaving out three neighbouring periods gives, a step in the levels allowed there
#'
#' @param tied From `tied_series()`, `basis` what it was freed of.
#' @noRd
weakest_without_three <- function(tied, basis) {
  none <- list(r = NA_real_, p = NA_real_, place = NA_integer_)
  if (is.null(tied$a)) return(none)
  there <- which(!is.na(tied$a))
  n <- length(there)
  df <- min(tied$n_effective, n - 4) - 1 - ncol(basis)
  if (n < 7L || df < 1) return(none)
  values <- cbind(tied$a, tied$b)[there, , drop = FALSE]
  base <- qr(basis[there, , drop = FALSE])
  base <- qr.Q(base)[, seq_len(base$rank), drop = FALSE]
  tail_of <- function(columns) apply(columns, 2, function(v) rev(cumsum(rev(v))))
  after <- list(values = tail_of(values), base = tail_of(base))
  # Of a long series only the periods that carry most can matter.
  starts <- seq_len(n - 2L)
  carried <- values[, 1] * values[, 2] * sign(tied$r)
  carried <- carried[starts] + carried[starts + 1L] + carried[starts + 2L]
  if (n > 150L) starts <- utils::head(order(-carried), 40L)
  r <- vapply(starts, function(i) r_without_three(i, values, base, after), 0)
  best <- which.min(r * sign(tied$r))
  at <- starts[best]
  least <- r[best]
  p <- p_two_sided(least * sqrt(df / ((1 - least) * (1 + least))), df)
  list(r = least, p = p, place = there[at])
}

# r of what is left once three rows and the step after the second of them are taken out, all freed of the same base.
r_without_three <- function(i, values, base, after) {
  rows <- i + 0:2
  far <- nrow(values) - i - 1L
  inner <- rbind(base[rows, , drop = FALSE], after$base[i + 2L, ])
  gram <- diag(c(1, 1, 1, far)) - tcrossprod(inner)
  gram[3, 4] <- gram[4, 3] <- gram[3, 4] + 1
  with_values <- rbind(values[rows, , drop = FALSE], after$values[i + 2L, ])
  parts <- eigen(gram, symmetric = TRUE)
  usable <- parts$values > 1e-8
  on <- crossprod(parts$vectors[, usable, drop = FALSE], with_values) / sqrt(parts$values[usable])
  products <- crossprod(values) - crossprod(on)
  if (min(diag(products)) <= 1e-12 * min(colSums(values^2))) return(0)
  max(-1, min(1, products[1, 2] / sqrt(products[1, 1] * products[2, 2])))
}

#' p of a sum of products whose periods may weigh unevenly and resemble their neighbours
#' @references Newey & West (1987), Econometrica 55, 703-708.
#' @noRd
p_uneven <- function(a, b, taken) {
  if (is.null(a)) return(NA_real_)
  product <- (a * b)[!is.na(a)]
  n <- length(product)
  if (n - taken < 2) return(NA_real_)
  off <- product - mean(product)
  spread <- sum(off^2)
  for (j in 1:2) spread <- spread + 2 * (1 - j / 3) * sum(off[-seq_len(j)] * off[seq_len(n - j)])
  p_two_sided(sum(product) / sqrt(max(spread, 1e-12 * sum(product^2)) * n / (n - taken)), n - taken)
}
