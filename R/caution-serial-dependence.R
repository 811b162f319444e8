#' Neighbouring times resemble each other beside the line, though the relation is no shared trend
#' @noRd
caution_serial_dependence <- function() {
  new_caution("serial_dependence",
    place = 4, check = check_serial_dependence,
    meaning = "Autocorrelation: neighbouring times are not independent.",
    evidence = function(f, pair) {
      template(
        paste(
          "Autocorrelation: residuals of neighbouring times are similar (Durbin-Watson %s), so p and the interval",
          "are too small."
        ),
        shown(f$durbin_watson, "decimals", 2)
      )
    }
  )
}

check_serial_dependence <- function(sample, evidence) {
  trend <- evidence$once$trend
  if (is.null(trend) || is_trend_told(trend, evidence$alpha)) return(NULL)
  if (!is.null(trend$units) || !trend$declared || trend$levels$n < 8L || !isTRUE(trend$durbin_watson < 1)) return(NULL)
  list(new_finding("serial_dependence", "warning", trend["durbin_watson"], next_step("flag")))
}
