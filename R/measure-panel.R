# Series of several units (schools, districts) over the same times: what is left once each unit's mean and each time's mean
# are taken out, tested by leaving out one unit at a time.

#' The check of one pair over units and times
#'
#' @param x,y Double vectors, `unit` and `time` of the same length, a row for each unit and time.
#' @return As `check_trend()`, `units` their number; `verdict` by the changes within units and what is left of the levels.
#' @references Wooldridge (2010), Econometric Analysis of Cross Section and Panel Data, chapter 10; Wolter (2007), chapter 4.
#' @noRd
check_panel <- function(x, y, time, unit, alpha = 0.05) {
  unit <- match(unit, unique(unit))
  order <- order(unit, time)
  x <- x[order]
  y <- y[order]
  unit <- unit[order]
  time <- time[order]
  # Changes from one time to the next that any unit has; where units are seen in turn, from each unit's time to its next.
  place <- match(time, sort(unique(time)))
  same <- diff(unit) == 0
  next_to <- which(same & diff(place) == 1L)
  if (length(next_to) < sum(same) / 2) next_to <- which(same)
  # Cases of one unit are alike: p of the levels is by units too, where there are enough of them.
  levels <- tied_within(x, y, unit, time, character())
  if (is.na(levels$r)) levels[c("r", "p")] <- list(r_plain(x, y), NA_real_)
  detrended <- tied_within(x, y, unit, time)
  changes <- tied_within(diff(x)[next_to], diff(y)[next_to], unit[next_to], time[next_to + 1L], "time")
  # What is left once the means of times alone are out is no trend: it lies between the units. What is there within units,
  # times left in, may be the trend that they share, however much the units differ.
  across <- tied_within(x, y, unit, time, "time")
  inside <- tied_within(x, y, unit, time, "unit")
  none <- list(r = NA_real_, p = NA_real_, n = 0L, n_effective = NA_real_)
  shown <- c("r", "p", "n", "n_effective")
  checks <- list(
    levels = levels[shown], changes = changes[shown], detrended = detrended[shown], prewhitened = none,
    durbin_watson = NA_real_, weakest = NULL, season = 1L, seasonal = FALSE, across = across[c("r", "p")],
    inside = inside[shown], units = max(unit), times = length(unique(time)), reach = changes$high
  )
  checks$verdict <- panel_verdict(checks, alpha)
  checks
}

#' @param factor How many times each p counts, where the pair is one of several that were looked at.
#' @noRd
panel_verdict <- function(checks, alpha, factor = 1) {
  changes <- checks$changes
  within <- checks$detrended
  if (anyNA(c(changes$p, within$p))) return("too little data")
  one_way <- isTRUE(sign(changes$r) == sign(within$r))
  clear <- changes$p * factor < alpha && within$p * factor < 4 * alpha
  if (one_way && clear) return("holds")
  if (one_way && (changes$p * factor < alpha || within$p * factor < alpha)) return("weakened")
  levels <- checks$levels
  if (!isTRUE(levels$p < alpha)) {
    # The second look at the levels has its price: one that nothing ties must not be told of a trend.
    if (!isTRUE(checks$inside$p < alpha / 5)) return("no relation")
    levels <- checks$inside
  } else {
    across <- checks$across
    if (isTRUE(across$p < alpha) && isTRUE(across$r / levels$r > 0.5)) return("between units")
  }
  if (max(checks$reach * sign(levels$r)) > 0.5) "cannot tell" else "trend only"
}

#' r once the means of times, and of units, are taken out, tested by leaving out each unit
#' @param out Of which the means are taken out.
#' @noRd
tied_within <- function(x, y, unit, time, out = c("time", "unit")) {
  n <- length(x)
  units <- length(unique(unit))
  none <- list(r = NA_real_, p = NA_real_, n = n, n_effective = NA_real_, high = NA_real_)
  taken <- length(unique(time)) * ("time" %in% out) + units * ("unit" %in% out)
  if (units < 5L || n - taken < 4L) return(none)
  unit <- match(unit, unique(unit))
  whole <- cbind(x / fitting_unit(x), y / fitting_unit(y))
  columns <- two_ways(whole, unit, match(time, unique(time)), out)
  # What does not change within a unit, or is the same for all units, leaves nothing but what rounding left.
  spread_of <- function(columns) colSums(sweep(columns, 2, colMeans(columns))^2)
  if (any(spread_of(columns) <= 1e-18 * spread_of(whole))) return(none)
  r <- r_plain(columns[, 1], columns[, 2])
  if (is.na(r)) return(none)
  z <- atanh(clip(r_without_groups(columns[, 1], columns[, 2], unit)))
  m <- sum(!is.na(z))
  spread <- sqrt(jackknife_variance(z))
  middle <- atanh(clip(r))
  half <- stats::qt(0.975, m - 1) * spread
  list(
    r = r, p = if (is.na(spread)) NA_real_ else if (spread == 0) 0 else p_two_sided(middle / spread, m - 1), n = n,
    n_effective = NA_real_, high = tanh(middle + c(-half, half))
  )
}

# Means of two factors taken out in turn until nothing moves; one pass is exact where every unit has every time.
two_ways <- function(columns, unit, time, out) {
  take <- function(columns, group) columns - (rowsum(columns, group) / tabulate(group))[group, , drop = FALSE]
  if (!length(out)) return(columns)
  for (pass in 1:500) {
    before <- columns
    if ("time" %in% out) columns <- take(columns, time)
    if (!"unit" %in% out) break
    columns <- take(columns, unit)
    if (max(abs(columns - before)) <= 1e-12 * max(abs(columns), 1e-300)) break
  }
  columns
}
