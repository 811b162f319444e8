# Cautions are a table: one row a reason to doubt a result.

#' @param code,severity,evidence,advice Character vectors of equal length.
#' @noRd
new_cautions <- function(code = character(), severity = character(), evidence = character(), advice = character()) {
  stopifnot(all(severity %in% c("note", "warning", "serious")))
  data.frame(code = code, severity = severity, evidence = evidence, advice = advice)
}
