#' Two series over time that share a trend, or whose neighbouring times resemble each other
#' @noRd
doubt_trend <- function(sample, found) {
  grid <- sample_grid(sample)
  if (is.null(grid) || !is.null(grid$trouble)) return(NULL)
  season <- if (!grid$seek) grid$season
  trend <- check_trend(grid$place(sample$x), grid$place(sample$y), grid$times, season, found$alpha)
  if (trend$verdict %in% names(trend_severities)) {
    figures <- c(trend[c("verdict", "changes", "detrended", "prewhitened")], if (!grid$declared) list(time = grid$name))
    step <- if (grid$declared) next_step("flag") else next_step("flag", time = grid$name)
    return(list(new_doubt("shared_trend", trend_severities[[trend$verdict]], figures, step)))
  }
  if (!grid$declared || trend$levels$n < 8L || !isTRUE(trend$durbin_watson < 1)) return(NULL)
  list(new_doubt("serial_dependence", "warning", trend["durbin_watson"], next_step("flag")))
}

trend_severities <- c("trend only" = "serious", weakened = "warning", "cannot tell" = "warning")
