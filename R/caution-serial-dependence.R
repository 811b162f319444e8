#' Neighbouring times resemble each other beside the line, though the relation is no shared trend
#' @noRd
caution_serial_dependence <- function() {
  new_caution("serial_dependence",
    place = 4, check = check_serial_dependence,
    meaning = "Neighbouring times are no independent cases.",
    evidence = function(f, pair) template(
      "Neighbouring times resemble each other beside the line (Durbin-Watson %s); p and interval are too narrow.",
      shown(f$durbin_watson, "decimals", 2)
    )
  )
}

check_serial_dependence <- function(sample, evidence) {
  trend <- evidence$once$trend
  if (is.null(trend) || is_trend_told(trend, evidence$alpha)) return(NULL)
  if (!is.null(trend$units) || !trend$declared || trend$levels$n < 8L || !isTRUE(trend$durbin_watson < 1)) return(NULL)
  list(new_finding("serial_dependence", "warning", trend["durbin_watson"], next_step("flag")))
}
