#' Two series over time that share a trend
#' @noRd
caution_shared_trend <- function() {
  new_caution("shared_trend",
    place = 3, check = check_shared_trend, meaning = "The correlation may be no more than a shared trend.",
    evidence = trend_evidence,
    clause = function(f, digits) trend_clause(f, digits), clause_from = "warning"
  )
}

trend_clause <- function(f, digits) {
  r <- shown(f$changes$r, "r", digits)
  p <- shown(f$changes$p, "p")
  switch(f$verdict,
    "trend only" = if (isTRUE(f$mixed)) template(
      paste(
        "Both are series over time, and without the trend the evidence is weak (changes: r = %s, %s; prewhitened r = %s,",
        "%s): a shared trend may explain it."
      ), r, p, shown(f$prewhitened$r, "r", digits), shown(f$prewhitened$p, "p")
    ) else template(paste(
      "Both are series over time, and their changes were not significantly correlated (r = %s, %s): a shared",
      "trend is enough to explain it."
    ), r, p),
    "between units" = template(
      "Within units, changes over time were not significantly correlated (r = %s, %s).", r, p
    ),
    "cannot tell" = template(paste(
      "Both are series over time, and too few periods are available to separate the correlation from a shared",
      "trend (changes: r = %s, %s)."
    ), r, p),
    template(
      "Both are series over time and part of this correlation is a shared trend (changes: r = %s, %s).", r, p
    )
  )
}

trend_evidence <- function(f, pair) {
  by <- if (!is.null(f$time)) template(" (by %s, which appears to be the time)", f$time)
  few <- if (f$verdict == "cannot tell") template(
    " The periods are too few to show or rule out a correlation beyond the trends."
  )
  if (!is.null(f$units)) {
    return(joined(template(
      paste(
        "Shared trend: both are series over time%s in %d units (%s); the changes correlate r = %s (%s), within",
        "units and times r = %s (%s)."
      ),
      joined(by), f$units, shown(f$unit, "heading"), shown(f$changes$r, "r"), shown(f$changes$p, "p"),
      shown(f$detrended$r, "r"), shown(f$detrended$p, "p")
    ), few))
  }
  averaged <- if (!is.null(f$averaged)) {
    template(", in the mean of %d units (%s)", f$averaged, shown(f$unit, "heading"))
  }
  by_it <- if (!is.null(f$effective)) template(
    " %d times have an effective sample size of %d.", as.integer(f$n), effective_of(f)
  )
  template(
    "Shared trend: both are series over time%s; the changes correlate r = %s (%s), the prewhitened series r = %s (%s).%s",
    joined(by, averaged), shown(f$changes$r, "r"), shown(f$changes$p, "p"), shown(f$prewhitened$r, "r"),
    shown(f$prewhitened$p, "p"), joined(by_it, few)
  )
}

#' Two series over time that share a trend, or whose neighbouring times resemble each other
#' @noRd
check_shared_trend <- function(sample, evidence) {
  trend <- evidence$once$trend
  if (!is_trend_told(trend, evidence$alpha)) return(NULL)
  figures <- trend[c("verdict", "changes", "detrended", "prewhitened")]
  figures <- c(figures, Filter(Negate(is.null), trend[c("time", "units", "averaged", "unit")]))
  if (is.null(trend$units)) {
    # What is significant for itself, and does not outlast one event or points two ways, is not called insignificant.
    mixed <- isTRUE(min(trend$changes$p, trend$prewhitened$p) < evidence$alpha)
    figures <- c(figures, if (mixed) list(mixed = TRUE), effective_told(evidence))
  }
  step <- do.call(next_step, c("flag", Filter(Negate(is.null), trend[c("time", "group")])))
  list(new_finding("shared_trend", trend_severities[[trend$verdict]], figures, step))
}

#' The trend check of a sample, with the names that its cases do not have yet
#' @return `NULL` where there is no time, else what [check_trend()] or [check_panel()] found, and `declared`, `averaged`,
#'   `unit`; `time` and `group` where they were found and not declared.
#' @noRd
trend_of_sample <- function(sample, alpha) {
  series <- if (sample_size(sample) >= 3L) series_of_sample(sample)
  if (is.null(series)) return(NULL)
  time <- series$of
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

#' Whether a trend is told of: what lies between the units is a matter of it only where the units share one
#' @noRd
is_trend_told <- function(trend, alpha) {
  if (is.null(trend) || !trend$verdict %in% names(trend_severities)) return(FALSE)
  trend$verdict != "between units" || isTRUE(trend$inside$p < alpha / 5)
}

trend_severities <- c("trend only" = "serious", weakened = "warning", "between units" = "warning", "cannot tell" = "warning")
