#' PostgreSQL, and what speaks as it does
#' @noRd
engine_postgres <- function() {
  new_engine("postgres",
    place = 2, classes = "^Pq|Postgre|Redshift", double = "CAST(%s AS DOUBLE PRECISION)",
    number = function(sql) sprintf("NULLIF(%s, 'NaN')", sql),
    read_only = "SET SESSION CHARACTERISTICS AS TRANSACTION READ ONLY",
    snapshot = "BEGIN ISOLATION LEVEL REPEATABLE READ READ ONLY", pushes_parts = TRUE
  )
}
