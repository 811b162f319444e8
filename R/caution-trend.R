#' Two series over time that share a trend, or whose neighbouring times resemble each other
#' @noRd
doubt_trend <- function(sample, found) {
  trend <- found$once$trend
  if (is.null(trend)) return(NULL)
  if (trend$verdict %in% names(trend_severities)) {
    figures <- trend[c("verdict", "changes", "detrended", "prewhitened")]
    figures <- c(figures, Filter(Negate(is.null), trend[c("time", "units", "averaged", "unit")]))
    step <- do.call(next_step, c("flag", Filter(Negate(is.null), trend[c("time", "group")])))
    return(list(new_doubt("shared_trend", trend_severities[[trend$verdict]], figures, step)))
  }
  if (!is.null(trend$units) || !trend$declared || trend$levels$n < 8L || !isTRUE(trend$durbin_watson < 1)) return(NULL)
  list(new_doubt("serial_dependence", "warning", trend["durbin_watson"], next_step("flag")))
}

#' The trend check of a sample, with the names that its cases do not have yet
#' @return `NULL` where there is no time, else what [check_trend()] or [check_panel()] found, and `declared`, `averaged`,
#'   `unit`; `time` and `group` where they were found and not declared.
#' @noRd
trend_of_sample <- function(sample, alpha) {
  time <- if (sample_size(sample) >= 3L) sample_time(sample)
  if (is.null(time)) return(NULL)
  series <- sample_series(sample, time)
  if (!is.null(series$trouble)) return(NULL)
  grid <- series$grid
  trend <- if (is.null(series$unit)) {
    check_trend(series$x, series$y, grid$times, if (!grid$seek) grid$season, alpha)
  } else {
    check_panel(series$x, series$y, series$time, series$unit, alpha)
  }
  c(trend, list(
    declared = time$declared, time = if (!time$declared) time$name, averaged = series$averaged, unit = series$name_of_units,
    group = if (!is.null(series$name_of_units) && !time$unit$declared) series$name_of_units
  ))
}

trend_severities <- c("trend only" = "serious", weakened = "warning", "cannot tell" = "warning")
