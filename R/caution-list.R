# Cautions are a table: one row a reason to doubt a result.

severities <- c("serious", "warning", "note")

gravest_first <- function(severity) order(match(severity, severities))

#' @param code,severity,evidence,advice Character vectors of equal length.
#' @noRd
new_cautions <- function(code = character(), severity = character(), evidence = character(), advice = character()) {
  stopifnot(all(severity %in% severities))
  data.frame(code = code, severity = severity, evidence = evidence, advice = advice)
}
