# Tables that come with their types: Parquet, JSON records, a database.

read_parquet_table <- function(path) typed_table(read_parquet_columns(path), path)

#' A file of JSON
#' @param ... How it is simplified, for the library.
#' @section Errors: `unsere_error_input` where it is none.
#' @noRd
parse_json <- function(path, ...) {
  tryCatch(jsonlite::fromJSON(path, ...), error = function(e) {
    abort_input(problem("%s is not valid JSON.", file_name(path)), first_line(conditionMessage(e)))
  })
}

# Records a line each, as one list of them; the copy carries the name of the file.
joined_lines <- function(path) {
  lines <- readLines(path, encoding = "UTF-8", warn = FALSE)
  lines <- lines[nzchar(trimws(lines))]
  folder <- tempfile("unsere-")
  dir.create(folder)
  copy <- file.path(folder, basename(path))
  write_lines(c("[", paste(lines, collapse = ",\n"), "]"), copy)
  copy
}

#' Records as JSON has them: alone, or as the one list of records beside what is told of them; fields within fields become
#' columns (`answers.q1`), several answers in one field a list
#' @noRd
read_json_table <- function(path) {
  if (file_ending(path) %in% c("jsonl", "ndjson")) {
    path <- joined_lines(path)
    on.exit(unlink(dirname(path), recursive = TRUE))
  }
  data <- parse_json(path, flatten = TRUE, bigint_as_char = TRUE)
  check_record_keys(path)
  inside <- if (!is.data.frame(data) && is.list(data)) Filter(is.data.frame, data)
  note <- if (length(inside) == 1L) template("the records of \"%s\"", names(inside))
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
  table$decisions <- c(table$decisions, note)
  table
}

# A record with one name twice says two things at once; looked for in files of a size that a second reading costs little.
check_record_keys <- function(path) {
  if (file.size(path) > 2e7) return(invisible())
  waiting <- list(parse_json(path, simplifyVector = FALSE))
  while (length(waiting)) {
    twice <- unlist(lapply(waiting, function(part) names(part)[duplicated(names(part)) & nzchar(names(part))]))
    if (length(twice)) {
      abort_input(
        problem("%s: a record has \"%s\" twice.", file_name(path), twice[1]), "Give each field of a record its own name."
      )
    }
    waiting <- unlist(lapply(waiting, function(part) Filter(is.list, part)), recursive = FALSE)
  }
}

#' @param columns Names of columns, or `NULL` for all.
#' @noRd
read_parquet_columns <- function(path, columns = NULL) {
  need_package("nanoparquet", "to read Parquet files")
  tryCatch(exact_parquet(path, columns), error = function(e) {
    if (inherits(e, "unsere_error")) stop(e)
    abort_input(
      problem("%s cannot be read as Parquet.", file_name(path)),
      if (is.null(columns)) "Save it again, or in another format." else first_line(conditionMessage(e))
    )
  })
}

# Whole numbers as they stand: those without a sign come back with one, and those of 64 bits rounded, unless asked for.
exact_parquet <- function(path, columns) {
  data <- as.data.frame(nanoparquet::read_parquet(path, col_select = columns))
  schema <- as.data.frame(nanoparquet::read_parquet_schema(path))
  schema <- schema[match(names(data), schema$name), ]
  for (k in which(schema$converted_type %in% "UINT_32")) data[[k]] <- data[[k]] + ifelse(data[[k]] < 0, 2^32, 0)
  long <- which(schema$type %in% "INT64" & vapply(data, function(column) {
    is.double(column) && !inherits(column, c("Date", "POSIXt", "difftime", "hms")) && any(abs(column) >= 2^53, na.rm = TRUE)
  }, NA))
  if (!length(long)) return(data)
  need_package("bit64", "to read whole numbers of 64 bits")
  whole <- nanoparquet::read_parquet(
    path,
    col_select = columns, options = nanoparquet::parquet_options(read_int64_type = "integer64")
  )
  for (k in long) {
    text <- as.character(whole[[k]])
    below <- !is.na(text) & startsWith(text, "-")
    if (schema$converted_type[k] %in% "UINT_64" && any(below)) {
      abort_input(
        problem("%s: %s contains whole numbers beyond 2^63.", file_name(path), names(data)[k]), "Save that column as text."
      )
    }
    data[[k]] <- whole_numbers(text)
  }
  data
}

typed_table <- function(data, shown) {
  if (!nrow(data)) abort_input(problem("%s has no case.", file_name(shown)), "Give a table with cases.")
  list(data = data, header_row = NA_integer_, rows = seq_len(nrow(data)), decisions = character())
}
