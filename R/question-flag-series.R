# The two series of a question on time: on their grid or as a panel, with a lag, a season.

series_arguments <- function() {
  list(
    season = argument(
      "whole", "the number of periods in a season; 1 for none",
      value = "PERIODS", otherwise = "detected", from = 1, to = 400, brief = "season"
    ),
    lag = argument(
      "whole", "the maximum lag of Y behind X, in periods; the strongest is reported",
      default = 0, value = "PERIODS", from = 0, to = 50, brief = "lag"
    )
  )
}

#' The series of a sample whose time is known
#' @section Errors: `unsere_error_input` where the times make no grid.
#' @noRd
series_of <- function(sample) {
  series <- sample_series(sample, sample_time(sample))
  if (!is.null(series$trouble)) abort_input(series$trouble, series$hint)
  series
}

#' The check of two series, for each lag asked for
#' @noRd
check_series <- function(series, options) {
  alpha <- alpha_of(options$confidence)
  if (!is.null(series$unit)) {
    if (options$lag > 0) abort_usage("A lag is possible for single series, not for several units.", "Leave the lag out.")
    return(check_panel(series$x, series$y, series$time, series$unit, alpha))
  }
  lags <- 0:min(options$lag, max(length(series$x) - 8L, 0L))
  season <- if (!is.null(options$season)) as.integer(options$season) else if (!series$grid$seek) series$grid$season
  checks <- lapply(lags, function(lag) {
    m <- length(series$x)
    check_trend(series$x[seq_len(m - lag)], series$y[(1 + lag):m], series$grid$times[seq_len(m - lag)], season, alpha)
  })
  p <- vapply(checks, function(one) one$prewhitened$p, 0)
  best <- if (all(is.na(p))) 1L else which.min(p)
  check <- checks[[best]]
  check$price <- length(lags)
  check$lag <- lags[best]
  check$season_set <- !is.null(options$season)
  check$verdict <- series_verdict(check, series, alpha)
  if (length(lags) > 1L) {
    check$lags <- data.frame(
      lag = lags, r = vapply(checks, function(one) one$prewhitened$r, 0), p = p, p_adjusted = pmin(1, p * length(lags))
    )
  }
  check
}

# Looking at several lags has its price; months of less than two years cannot tell a season from a tie.
series_verdict <- function(check, series, alpha, factor = 1) {
  verdict <- trend_verdict(check, alpha, factor * check$price)
  if (verdict == "holds" && series$grid$too_short && !check$season_set) "cannot tell" else verdict
}

#' What was done to the periods: facts, for the notes
#' @noRd
series_periods <- function(series, check) {
  if (is.null(series)) return(NULL)
  flat <- function(v) length(unique(diff(v)[!is.na(diff(v))])) <= 1L
  list(
    all = length(series$x), gaps = length(series$grid$gaps), sorted = series$grid$sorted, step = series$grid$step,
    season = check$season, seasonal = check$seasonal, uneven = series$grid$uneven,
    too_short = (series$grid$too_short && !isTRUE(check$season_set)) || isTRUE(check$suspected),
    flat = is.null(series$unit) && (flat(series$x) || flat(series$y)), units = check$units, times = check$times,
    name_of_units = series$name_of_units, repeats = check$repeats
  )
}
