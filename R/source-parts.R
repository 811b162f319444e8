# Data in several parts: files of a folder or of a pattern, tables of several databases.

#' The parts of a source
#'
#' @param source A path, several, a folder, a pattern such as `"data/*.csv"`, a function, a DBI connection, `"db:NAME"`, or a
#'   list of connections or of functions that open one.
#' @param table Of databases.
#' @return A list of parts, each a list: `kind` (`"file"`, `"table"` or `"chunks"`), `name`, and what it takes.
#' @noRd
parts_of <- function(source, table = NULL) {
  if (is_connection(source)) source <- list(source)
  if (is.function(source)) return(list(list(kind = "chunks", name = "the source", read = source)))
  if (is.list(source)) return(lapply(seq_along(source), function(k) table_part(source[[k]], k, table, names(source)[k])))
  if (!is.character(source) || !length(source) ||
    anyNA(source)) abort_usage("The source must be a path, a connection or a function.")
  if (length(source) == 1L && is_database(source) && !file.exists(source)) {
    return(list(list(kind = "table", name = source, connect = function() connect_named(source), table = table)))
  }
  if (!is.null(table)) abort_usage("`table` is for a database; this is a file.", "Leave it out.")
  files <- unlist(lapply(source, files_of))
  lapply(files, function(file) list(kind = "file", name = file, path = file, folders = hive_values(file)))
}

table_part <- function(source, k, table, name) {
  name <- if (is.null(name) || !nzchar(name)) sprintf("source %d", k) else name
  if (is_connection(source)) return(list(kind = "table", name = name, connection = source, table = table))
  if (is.function(source)) return(list(kind = "table", name = name, connect = source, table = table))
  abort_usage("Sources are connections, or functions that open one.", "For example list(con1, con2).")
}

most_partitions <- 10000L

#' A table as one part for each value of a column
#' @noRd
parts_by_key <- function(part, key) {
  if (part$kind != "table") {
    abort_usage("`partition` is for a database; this is a file.", "Folders state their values themselves.")
  }
  con <- open_part(part)
  on.exit(close_part(part, con))
  from <- table_in_sql(con, part$table)
  known <- names(ask_database(con, sprintf("SELECT * FROM %s LIMIT 0", from)))
  if (!is_word(key) || !key %in% known) {
    abort_input(problem("There is no variable \"%s\".", toString(key)), suggest_names(toString(key), known, "variables"))
  }
  column <- unname(quote_names(con, key))
  values <- plain_column(ask_database(con, sprintf(
    "SELECT DISTINCT %s AS unsere_key FROM %s ORDER BY 1 LIMIT %d", column, from, most_partitions + 1L
  ))[[1]])
  if (length(values) > most_partitions) abort_input(
    problem("%s has more than %d values.", key, most_partitions), "A partition is a column with few values."
  )
  holds <- vapply(seq_along(values), function(k) {
    value <- values[k]
    if (is.na(value)) return(sprintf("%s IS NULL", column))
    text <- is.character(value) || inherits(value, c("Date", "POSIXt"))
    sprintf("%s = %s", column, if (text) text_in_sql(con, as.character(value)) else sprintf("%.17g", as.double(value)))
  }, "")
  lapply(seq_along(values), function(k) {
    part$name <- sprintf("%s, %s = %s", part$name, key, format(values[k], trim = TRUE))
    part$key <- key
    part$table <- structure(sprintf("(SELECT * FROM %s WHERE %s) AS asked", from, holds[k]), class = "source_in_sql")
    part
  })
}

# One path; the files of a folder, whatever depth; those that a pattern fits.
files_of <- function(path) {
  if (dir.exists(path)) {
    endings <- "[.]((csv|tsv|txt)([.]gz)?|parquet)$"
    files <- list.files(path, endings, recursive = TRUE, full.names = TRUE, ignore.case = TRUE)
    files <- sort(files, method = "radix")
    files <- files[!basename(files) %in% "codebook.csv"]
    if (!length(files)) abort_input(
      problem("There is no table in the folder %s.", path),
      "Files end in .csv, .tsv, .txt or .parquet."
    )
    return(files)
  }
  if (file.exists(path) || !grepl("[*?]", path)) {
    check_path(path)
    return(path)
  }
  files <- sort(Sys.glob(path), method = "radix")
  if (!length(files)) abort_input(problem("No file matches \"%s\".", path), "Check the folder and the pattern.")
  files
}

# "year=2023/centre=Mill/part-1.csv": what folders say of the cases in them.
hive_values <- function(file) {
  parts <- strsplit(dirname(file), "[/\\\\]")[[1]]
  parts <- parts[grepl("^[A-Za-z_.][A-Za-z0-9_.]*=", parts)]
  values <- utils::URLdecode(sub("^[^=]*=", "", parts))
  stats::setNames(as.list(values), sub("=.*$", "", parts))
}

#' A data frame with what its folders say as columns of their own
#' @noRd
with_folders <- function(chunk, folders) {
  for (name in setdiff(names(folders), names(chunk))) {
    chunk[[name]] <- rep(utils::type.convert(folders[[name]], as.is = TRUE), nrow(chunk))
  }
  chunk
}

# What tells whether a part is still the one that was gathered.
part_mark <- function(part) {
  if (part$kind != "file") return(part$name)
  paste(c(normalizePath(part$path), unlist(lapply(file_state(part$path), format, digits = 20))), collapse = " ")
}

# A connection that was handed in is left open; one that was opened for a part is closed after it.
open_part <- function(part) if (is.null(part$connection)) part$connect() else part$connection

close_part <- function(part, con) if (is.null(part$connection)) DBI::dbDisconnect(con)
