# The trend check of two series over time: levels, changes, and what is left after trends are taken out.

#' The check of one pair of series
#'
#' @param x,y Double vectors in order of time, `NA` where a period or a value is missing.
#' @param time The time of each; what is new over a longer step counts by its length.
#' @param season The number of periods in a season that is to be taken out, 1 for none, `NULL` to look for one that both
#'   series share.
#' @return A list: `verdict`, `levels`, `changes`, `detrended`, `prewhitened` (each `r`, `p`, `n`, `n_effective`),
#'   `durbin_watson`, `weakest` (the r of the prewhitened series without the three neighbouring periods that carry most
#'   of it, a step allowed there), `event` (the same without one shared
#'   event of up to a third of the periods), `uneven_p` (its p where periods may weigh unevenly), `degree` of the
#'   trend taken out,
#'   `season` and whether there is one (`seasonal`), `repeats` where each value fills several periods.
#' @references Bartlett (1935); Pyper & Peterman (1998), Canadian Journal of Fisheries and Aquatic Sciences 55,
#'   2127-2140; Granger & Newbold (1974), Journal of Econometrics 2, 111-120; Durbin & Watson (1950), Biometrika 37,
#'   409-428; Haugh (1976), Journal of the American Statistical Association 71, 378-385, for prewhitened series.
#' @noRd
check_trend <- function(x, y, time, season = NULL, alpha = 0.05) {
  whole <- without_repeated_periods(x, y, time)
  if (whole$periods > 1L) {
    x <- whole$x
    y <- whole$y
    time <- whole$times
    if (!is.null(season)) season <- max(1L, season %/% whole$periods)
  }
  both <- !is.na(x) & !is.na(y)
  n <- sum(both)
  degree <- trend_degree(n)
  has_season <- is.null(season)
  if (has_season) season <- shared_season(x, y, time)
  suspected <- is.na(season)
  if (suspected) season <- 1L
  step <- both[-1] & both[-length(both)]
  gap <- diff(time) / stats::median(diff(time))
  if (max(abs(gap - 1)) < 1e-6) gap <- 1
  without <- function(v, share) ifelse(step, v[-1] - share^gap * v[-length(v)], NA) / spread_over(gap, share)
  basis <- trend_basis(time, degree, season)
  levels <- tied_series(x, y, NULL, serial = FALSE)
  changes <- tied_series(without(x, 1), without(y, 1), trend_basis(time, max(degree - 2L, 0L), season)[-1, , drop = FALSE])
  detrended <- tied_series(x, y, basis)
  carried <- if (is.null(changes$a)) 1 else mean(c(carried_over(changes$a), carried_over(changes$b)))
  new <- tied_series(without(x, carried), without(y, carried), basis[-1, , drop = FALSE])
  weakest <- weakest_without_three(new, basis[-1, , drop = FALSE])
  steps <- length(x) - 1L
  event <- weakest_without_event(
    new, basis[-1, , drop = FALSE], rep_len(carried^gap, steps), rep_len(spread_over(gap, carried), steps)
  )
  uneven_p <- p_uneven(new$a, new$b, ncol(basis))
  keep <- c("r", "p", "n", "n_effective")
  out <- list(
    levels = levels[keep], changes = changes[keep], detrended = detrended[keep], prewhitened = new[keep],
    durbin_watson = durbin_watson(x, y), weakest = weakest, event = event, uneven_p = uneven_p, degree = degree,
    taken = ncol(basis), season = season, seasonal = has_season && season > 1L, suspected = suspected,
    repeats = if (whole$periods > 1L) whole[c("periods", "which", "drawn")]
  )
  c(list(verdict = trend_verdict(out, alpha)), out)
}

#' How much wider what is new spreads over a longer step than over the usual one
#' @noRd
spread_over <- function(gap, share) if (share == 1) sqrt(gap) else sqrt((1 - share^(2 * gap)) / (1 - share^2))

#' The relation beyond the trend must be clear in what is new in each period, also where periods weigh unevenly; point the
#' same way in the changes and in what is left of the levels; and must rest neither on three neighbouring periods
#'   nor on one
#' event of up to a third of them
#'
#' The limits of the others are loose, as all must hold at once: `bench/spurious.R` measures what the verdict as a whole
#' is worth.
#' @param checks From `check_trend()`.
#' @param factor What many pairs at once make of p (Holm); 1 for a pair alone.
#' @noRd
trend_verdict <- function(checks, alpha, factor = 1) {
  r <- vapply(checks[c("levels", "changes", "detrended", "prewhitened")], `[[`, 0, "r")
  p <- vapply(checks[c("levels", "changes", "detrended", "prewhitened")], `[[`, 0, "p")
  if (checks$levels$n < 8L || anyNA(r)) return("too little data")
  one_way <- all(sign(r[-1]) == sign(r[["changes"]]))
  clear <- isTRUE(p[["prewhitened"]] * factor < alpha) && isTRUE(checks$uneven_p * factor < 1.2 * alpha)
  carried <- outlasts(checks$weakest, r, factor, 3 * alpha)
  more_than_event <- is.na(checks$event$p) || outlasts(checks$event, r, factor, 2 * alpha)
  if (one_way && clear && carried && more_than_event && isTRUE(all(p[c("changes", "detrended")] < 4 * alpha))) {
    return(if (checks$suspected) "cannot tell" else "holds")
  }
  some <- isTRUE(p[["prewhitened"]] * factor < alpha) ||
    isTRUE(p[["changes"]] * factor < alpha / 2) && isTRUE(p[["detrended"]] < 2 * alpha)
  lasting <- is.na(checks$event$p) || outlasts(checks$event, r, factor, 3 * alpha)
  if (one_way && some && carried && lasting) return("weakened")
  if (!isTRUE(p[["levels"]] < alpha)) return("no relation")
  if (may_be_large(checks$prewhitened, checks$taken, sign(r[["levels"]]), alpha)) "cannot tell" else "trend only"
}

# Whether what is left without some periods still points the way of the changes, with p below a limit.
outlasts <- function(remaining, r, factor, limit) {
  isTRUE(remaining$r * r[["changes"]] > 0) && isTRUE(remaining$p * factor < limit)
}

#' Could what is new in each period still be tied as closely as .50, the way the levels are?
#' @noRd
may_be_large <- function(new, taken, way, alpha) {
  spread <- 1 / sqrt(max(new$n_effective - 2 - taken, 0.25))
  tanh(atanh(pmin(new$r * way, 1 - 1e-9)) + stats::qnorm(1 - alpha / 2) * spread) > 0.5
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
  residuals <- rep(NA_real_, length(x))
  residuals[both] <- freed(cbind(y[both]), cbind(1, x[both]))
  step <- diff(residuals)
  there <- !is.na(step)
  if (!any(there) || sum(residuals^2, na.rm = TRUE) == 0) return(NA_real_)
  mean(step[there]^2) / (sum(residuals^2, na.rm = TRUE) / length(both)) * (length(both) - 1) / length(both)
}
