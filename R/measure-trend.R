# The trend check of two series over time: levels, changes, and what is left after trends are taken out.

#' The check of one pair of series
#'
#' @param x,y Double vectors on an even grid of periods, in order of time, `NA` where a period or a value is missing.
#' @param time The time of every period of the grid.
#' @param season The number of periods in a year where a season is to be taken out, else 1.
#' @return A list: `verdict`, `levels`, `changes`, `detrended` (each `r`, `p`, `n`, `n_effective`), `durbin_watson`,
#'   `weakest` (the r of changes without the one that carries most of it) and `degree` of the trend taken out.
#' @references Bartlett (1935); Pyper & Peterman (1998), Canadian Journal of Fisheries and Aquatic Sciences 55,
#'   2127-2140; Granger & Newbold (1974), Journal of Econometrics 2, 111-120; Durbin & Watson (1950), Biometrika 37,
#'   409-428.
#' @noRd
check_trend <- function(x, y, time, season = 1L, alpha = 0.05) {
  both <- !is.na(x) & !is.na(y)
  n <- sum(both)
  levels <- tied_series(x, y, NULL, serial = FALSE)
  step <- both[-1] & both[-length(both)]
  change_x <- ifelse(step, diff(x), NA)
  change_y <- ifelse(step, diff(y), NA)
  degree <- if (n < 12L) 1L else if (n < 16L) 2L else 3L
  nuisance <- trend_basis(time, degree, season)
  changes <- tied_series(change_x, change_y, trend_basis(time[-1], if (n < 12L) 0L else 1L, season))
  detrended <- tied_series(x, y, nuisance)
  weakest <- weakest_without_one(changes$a, changes$b)
  verdict <- trend_verdict(n, levels, changes, detrended, weakest, alpha)
  keep <- c("r", "p", "n", "n_effective")
  list(
    verdict = verdict, levels = levels[keep], changes = changes[keep], detrended = detrended[keep],
    durbin_watson = durbin_watson(x, y), weakest = weakest, degree = degree
  )
}

#' The relation beyond the trend must be clear in the changes, point the same way in what is left of the levels and not
#' be far from clear there, and must not rest on one change alone
#'
#' The limits of the latter two are loose, as all three must hold at once: `bench/spurious.R` measures what the verdict
#' as a whole is worth.
#' @param factor What many pairs at once make of p of the changes (Holm); 1 for a pair alone.
#' @noRd
trend_verdict <- function(n, levels, changes, detrended, weakest, alpha, factor = 1) {
  if (n < 8L || is.na(levels$r) || is.na(changes$r) || is.na(detrended$r)) return("too little data")
  clear <- isTRUE(changes$p * factor < alpha)
  one_way <- sign(changes$r) == sign(detrended$r)
  carried <- isTRUE(sign(weakest$r) == sign(changes$r)) && isTRUE(weakest$p * factor < 2 * alpha)
  if (clear && one_way && carried && isTRUE(detrended$p < 4 * alpha)) return("holds")
  if (one_way && (clear || isTRUE(detrended$p * factor < alpha))) return("weakened")
  if (isTRUE(levels$p < alpha)) "trend only" else "no relation"
}

#' r of two series freed of some columns, tested with an effective number of cases
#' @param basis Columns to be taken out of both, or `NULL` for the mean alone.
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
  effective <- if (serial) effective_cases(a, b) else length(both)
  df <- effective - 1 - ncol(taken)
  p <- if (df < 1) NA_real_ else if (abs(r) == 1) 0 else p_two_sided(r * sqrt(df / ((1 - r) * (1 + r))), df)
  list(r = r, p = p, n = length(both), n_effective = effective, a = a, b = b)
}

#' The number of independent cases that would say as much (Bartlett 1935; Pyper & Peterman 1998)
#'
#' 1 / N* = 1 / N + (2 / N) sum over j of ((N - j) / N) rxx(j) ryy(j), over lags up to a fifth of N; never more than N.
#' @noRd
effective_cases <- function(a, b) {
  n <- sum(!is.na(a))
  reach <- min(max(1L, n %/% 5L), 50L) # beyond fifty lags there is only noise
  share <- 1 / n
  m <- length(a)
  for (j in seq_len(min(reach, m - 2L))) {
    product <- self_tie(a, j, n, m) * self_tie(b, j, n, m)
    share <- share + 2 / n * (n - j) / n * product
  }
  min(n, if (share > 0) 1 / share else n)
}

self_tie <- function(a, j, n, m) {
  products <- a[seq_len(m - j)] * a[seq_len(m - j) + j]
  there <- !is.na(products)
  if (!any(there)) return(0)
  sum(products[there]) / sum(there) / (sum(a^2, na.rm = TRUE) / n)
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
  base <- list()
  for (k in seq_len(ncol(taken))) {
    column <- taken[, k]
    before <- sum(column^2)
    for (again in 1:2) for (other in base) column <- column - other * sum(column * other)
    size <- sum(column^2)
    if (size > 1e-12 * before) base[[length(base) + 1L]] <- column / sqrt(size)
  }
  for (again in 1:2) for (other in base) columns <- columns - outer(other, as.vector(other %*% columns))
  columns
}

#' The smallest r, towards zero, that leaving out one case gives, with its p on one case fewer
#' @noRd
weakest_without_one <- function(a, b) {
  if (is.null(a)) return(list(r = NA_real_, p = NA_real_, place = NA_integer_))
  there <- which(!is.na(a) & !is.na(b))
  n <- length(there)
  r <- r_without_each(a[there], b[there])
  full <- sum(a[there] * b[there])
  at <- which.min(r * sign(full))
  df <- effective_cases(a, b) - 3
  p <- if (df < 1 || is.na(r[at])) NA_real_ else p_two_sided(r[at] * sqrt(df / ((1 - r[at]) * (1 + r[at]))), df)
  list(r = r[at], p = p, place = there[at])
}

#' r without each case in turn, from sums, in one pass
#' @noRd
r_without_each <- function(x, y) {
  n <- length(x)
  dx <- x - mean(x)
  dy <- y - mean(y)
  shrink <- n / (n - 1)
  sxx <- sum(dx^2) - dx^2 * shrink
  syy <- sum(dy^2) - dy^2 * shrink
  sxy <- sum(dx * dy) - dx * dy * shrink
  out <- sxy / sqrt(pmax(sxx, 0) * pmax(syy, 0))
  out[!(sxx > 1e-14 * sum(dx^2)) | !(syy > 1e-14 * sum(dy^2))] <- NA
  pmax(-1, pmin(1, out))
}

#' Durbin and Watson's d of the line of y in x: 2 without serial dependence, towards 0 with it
#' @noRd
durbin_watson <- function(x, y) {
  both <- which(!is.na(x) & !is.na(y))
  if (length(both) < 4L || min(x[both]) == max(x[both])) return(NA_real_)
  left <- rep(NA_real_, length(x))
  left[both] <- freed(cbind(y[both]), cbind(1, x[both]))
  step <- diff(left)
  there <- !is.na(step)
  if (!any(there) || sum(left^2, na.rm = TRUE) == 0) return(NA_real_)
  mean(step[there]^2) / (sum(left^2, na.rm = TRUE) / length(both)) * (length(both) - 1) / length(both)
}
