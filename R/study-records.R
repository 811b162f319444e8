# Tables that come with their types: Parquet, JSON records, a database.

read_parquet_table <- function(path) typed_table(read_parquet_columns(path), path)

read_json_table <- function(path) {
  data <- tryCatch(jsonlite::fromJSON(path), error = function(e) {
    abort_input(sprintf("%s is not valid JSON.", file_name(path)), first_line(conditionMessage(e)))
  })
  flat <- is.data.frame(data) && !any(vapply(data, function(column) is.list(column) || is.data.frame(column), NA))
  if (!flat) {
    abort_input(
      sprintf("%s holds no table.", file_name(path)),
      "JSON must be a list of records with the same plain fields: [{\"a\": 1, \"b\": 2}, ...]."
    )
  }
  typed_table(data, path)
}

#' @param columns Names of columns, or `NULL` for all.
#' @noRd
read_parquet_columns <- function(path, columns = NULL) {
  need_package("nanoparquet", "to read Parquet files")
  tryCatch(as.data.frame(nanoparquet::read_parquet(path, col_select = columns)), error = function(e) {
    abort_input(
      sprintf("%s cannot be read as Parquet.", file_name(path)),
      if (is.null(columns)) "Save it again, or in another format." else first_line(conditionMessage(e))
    )
  })
}

typed_table <- function(data, shown) {
  if (!nrow(data)) abort_input(sprintf("%s has no case.", file_name(shown)), "Give a table with cases.")
  list(data = data, header_row = NA_integer_, rows = seq_len(nrow(data)), decisions = character())
}
