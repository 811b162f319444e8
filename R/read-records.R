# Tables that come with their types: Parquet, JSON records, a database.

read_parquet_table <- function(path) typed_table(read_parquet_columns(path), path)

#' Records as JSON has them: alone, or as the one list of records beside what is told of them; fields within fields become
#' columns (`answers.q1`), several answers in one field a list
#' @noRd
read_json_table <- function(path) {
  data <- tryCatch(jsonlite::fromJSON(path, flatten = TRUE), error = function(e) {
    abort_input(problem("%s is not valid JSON.", file_name(path)), first_line(conditionMessage(e)))
  })
  inside <- if (!is.data.frame(data) && is.list(data)) Filter(is.data.frame, data)
  said <- if (length(inside) == 1L) template("the records of \"%s\"", names(inside))
  if (length(inside) == 1L) data <- inside[[1]]
  several <- function(column) is.list(column) && all(vapply(column, function(one) is.atomic(one), NA))
  if (is.data.frame(data)) for (name in names(data)[vapply(data, several, NA)]) {
    data[[name]] <- vapply(data[[name]], function(one) if (length(one)) paste(one, collapse = "; ") else NA_character_, "")
  }
  if (!is.data.frame(data) || any(vapply(data, is.list, NA))) {
    abort_input(
      problem("%s holds no table.", file_name(path)),
      "JSON must be a list of records with the same plain fields: [{\"a\": 1, \"b\": 2}, ...]."
    )
  }
  table <- typed_table(data, path)
  table$decisions <- c(table$decisions, said)
  table
}

#' @param columns Names of columns, or `NULL` for all.
#' @noRd
read_parquet_columns <- function(path, columns = NULL) {
  need_package("nanoparquet", "to read Parquet files")
  tryCatch(as.data.frame(nanoparquet::read_parquet(path, col_select = columns)), error = function(e) {
    abort_input(
      problem("%s cannot be read as Parquet.", file_name(path)),
      if (is.null(columns)) "Save it again, or in another format." else first_line(conditionMessage(e))
    )
  })
}

typed_table <- function(data, shown) {
  if (!nrow(data)) abort_input(problem("%s has no case.", file_name(shown)), "Give a table with cases.")
  list(data = data, header_row = NA_integer_, rows = seq_len(nrow(data)), decisions = character())
}
