# Series whose values are fewer than their periods: yearly figures written into each quarter, or lines drawn between them.

#' How many periods one value of a series fills, 1 where each period has its own
#'
#' @param v A double vector in order of time.
#' @return A list: `periods`, and `first`, the place at which a filled stretch begins; `drawn` whether lines join the values.
#' @noRd
periods_of_a_value <- function(v) {
  own <- list(periods = 1L, first = 1L, drawn = FALSE)
  if (length(v) < 8L || anyNA(v)) return(own)
  step <- diff(v)
  size <- max(abs(v))
  turns <- which(step != 0)
  repeated <- regular_places(turns)
  if (repeated > 1L) return(list(periods = repeated, first = (turns[1] %% repeated) + 1L, drawn = FALSE))
  bend <- diff(step)
  # Values that are written with few decimals lie beside their line by as much as a unit of the last of them.
  most <- stats::median(abs(step)) / 4
  near <- if (mean(abs(bend) < most) >= 0.4) 2.01 * 10^-places_written(v)
  for (limit in c(1e-9 * size, if (isTRUE(near < most)) near)) {
    knots <- which(abs(bend) > limit) + 1L
    drawn <- regular_places(knots)
    if (drawn > 1L) return(list(periods = drawn, first = ((knots[1] - 1L) %% drawn) + 1L, drawn = TRUE))
  }
  own
}

# The distance that all of some places keep, or a multiple of it; 1 where they are too few, or close by, or keep none. Three
# are enough where both distances are one, and of three periods or more.
regular_places <- function(places) {
  if (length(places) < 3L) return(1L)
  between <- diff(places)
  if (length(places) == 3L) return(if (between[1] == between[2] && between[1] >= 3L) between[1] else 1L)
  if (min(between) < 2L) return(1L)
  distance <- Reduce(greatest_divisor, between)
  if (distance >= 2L && mean(between == distance) > 0.5 && (length(between) >= 5L || distance >= 3L)) distance else 1L
}

greatest_divisor <- function(a, b) if (b == 0L) a else greatest_divisor(b, a %% b)

#' Two series with as many periods as the one with fewer values has values
#'
#' Where each value is written several times both series' means over its periods count, so that what the other shows within
#' them is kept; where lines join the values, the values at their ends.
#' @return A list: `x`, `y`, `times`, `periods` (that one value fills), `which` (`"x"`, `"y"` or both), `drawn`.
#' @noRd
without_repeated_periods <- function(x, y, times) {
  kinds <- list(x = periods_of_a_value(x), y = periods_of_a_value(y))
  periods <- vapply(kinds, `[[`, 1L, "periods")
  widest <- which.max(periods)
  kind <- kinds[[widest]]
  k <- kind$periods
  whole <- list(x = x, y = y, times = times, periods = k, which = names(periods)[periods > 1L], drawn = kind$drawn)
  if (k == 1L) return(whole)
  if (kind$drawn) {
    at <- seq(kind$first, length(x), by = k)
    return(utils::modifyList(whole, list(x = x[at], y = y[at], times = times[at])))
  }
  block <- (seq_along(x) - kind$first) %/% k
  by_block <- function(v) as.vector(tapply(v, block, mean))
  utils::modifyList(whole, list(x = by_block(x), y = by_block(y), times = by_block(times)))
}
