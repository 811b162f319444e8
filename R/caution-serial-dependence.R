#' Neighbouring times resemble each other beside the line, though the relation is no shared trend
#' @noRd
caution_serial_dependence <- function() {
  new_caution("serial_dependence",
    place = 4, check = check_serial_dependence,
    meaning = "Autocorrelation: neighbouring times are not independent.",
    evidence = function(f, pair) {
      if (is.null(f$effective)) return(template(
        paste(
          "Autocorrelation: residuals of neighbouring times are similar (Durbin-Watson %s), so p and the interval",
          "are too small."
        ),
        shown(f$durbin_watson, "decimals", 2)
      ))
      joined(template(
        paste(
          "Autocorrelation: neighbouring times are similar in both variables (Durbin-Watson %s); %d times have an",
          "effective sample size of %d."
        ),
        shown(f$durbin_watson, "decimals", 2), as.integer(f$n), effective_of(f)
      ), by_effective(f), between = " ")
    },
    clause = effective_clause, clause_from = "warning"
  )
}

check_serial_dependence <- function(sample, evidence) {
  trend <- evidence$once$trend
  if (is.null(trend) || is_trend_told(trend, evidence$alpha)) return(NULL)
  if (!is.null(trend$units) || trend$levels$n < 8L) return(NULL)
  by_it <- effective_told(evidence)
  if (is.null(by_it) && !(trend$declared && isTRUE(trend$durbin_watson < 1))) return(NULL)
  doubtful <- !is.null(by_it) && is_doubtful(by_it, evidence)
  figures <- c(trend["durbin_watson"], by_it)
  list(new_finding("serial_dependence", if (doubtful) "serious" else "warning", figures, next_step("flag")))
}
