#' ClickHouse: a table may lie on many servers, each of which adds up what it holds; it works out one expression once
#' @noRd
engine_clickhouse <- function() {
  new_engine("clickhouse",
    place = 3, classes = "Clickhouse", double = "toFloat64(%s)", logical_number = FALSE,
    number = function(sql) sprintf("CASE WHEN isNaN(%1$s) THEN NULL ELSE %1$s END", sql),
    # A backslash is a sign like any other.
    text = function(con, text) sprintf("'%s'", gsub("'", "\\\\'", gsub("\\", "\\\\", text, fixed = TRUE))),
    trim = "replaceRegexpAll(%s, '^ +| +$', '')", logarithm = "log(%s)", power = "pow", read_only = "SET readonly = 1",
    most_summed = 12L, inner_numbers = FALSE, ranks = FALSE
  )
}
