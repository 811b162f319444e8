#' Two series over time that share a trend, or whose neighbouring times resemble each other
#' @noRd
doubt_trend <- function(sample, found) {
  time <- if (sample_size(sample) >= 3L) sample_time(sample)
  if (is.null(time)) return(NULL)
  series <- sample_series(sample, time)
  if (!is.null(series$trouble)) return(NULL)
  panel <- !is.null(series$unit)
  trend <- if (panel) {
    check_panel(series$x, series$y, series$time, series$unit, found$alpha)
  } else {
    grid <- series$grid
    check_trend(series$x, series$y, grid$times, if (!grid$seek) grid$season, found$alpha)
  }
  if (trend$verdict %in% names(trend_severities)) {
    figures <- c(
      trend[c("verdict", "changes", "detrended", "prewhitened")], if (!time$declared) list(time = time$name),
      if (panel) list(units = trend$units, unit = series$unit_name)
    )
    steps <- list(time = if (!time$declared) time$name, group = if (panel && !time$unit$declared) series$unit_name)
    step <- do.call(next_step, c("flag", Filter(Negate(is.null), steps)))
    return(list(new_doubt("shared_trend", trend_severities[[trend$verdict]], figures, step)))
  }
  if (panel || !time$declared || trend$levels$n < 8L || !isTRUE(trend$durbin_watson < 1)) return(NULL)
  list(new_doubt("serial_dependence", "warning", trend["durbin_watson"], next_step("flag")))
}

trend_severities <- c("trend only" = "serious", weakened = "warning", "cannot tell" = "warning")
