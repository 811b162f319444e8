# Tables that come with their types: Parquet, JSON records, a database.

read_parquet_table <- function(path) {
  need_package("nanoparquet", "to read Parquet files")
  data <- tryCatch(as.data.frame(nanoparquet::read_parquet(path)), error = function(e) {
    abort_input(sprintf("%s cannot be read as Parquet.", file_name(path)), "Save it again, or in another format.")
  })
  typed_table(data, path)
}

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

#' @param connection A DBI connection; `what` a table's name or a query that starts with SELECT or WITH.
#' @noRd
read_database <- function(connection, what) {
  need_package("DBI", "to read from a database")
  if (is.null(what)) {
    tables <- toString(DBI::dbListTables(connection))
    abort_usage("Which table of the database?", sprintf("Give `sheet`: one of %s, or a query.", tables))
  }
  is_query <- is.character(what) && grepl("^\\s*(select|with)\\s", what[1], ignore.case = TRUE)
  if (!is_query && !DBI::dbExistsTable(connection, what)) {
    abort_input(
      sprintf("The database has no table \"%s\".", paste(format_table(what), collapse = ".")),
      suggest_names(utils::tail(format_table(what), 1), DBI::dbListTables(connection), "tables")
    )
  }
  data <- tryCatch(
    if (is_query) DBI::dbGetQuery(connection, what) else DBI::dbReadTable(connection, what, check.names = FALSE),
    error = function(e) abort_input("The database refused the query.", first_line(conditionMessage(e)))
  )
  typed_table(data, paste(format_table(what), collapse = "."))
}

# The parts of a table's name: of a `DBI::Id` its schema and its table.
format_table <- function(what) if (isS4(what)) as.character(what@name) else as.character(what)

typed_table <- function(data, shown) {
  if (!nrow(data)) abort_input(sprintf("%s has no case.", file_name(shown)), "Give a table with cases.")
  list(data = data, header_row = NA_integer_, rows = seq_len(nrow(data)), decisions = character())
}
