# The cases of a part, so many at a time: of a file, of a table, of a function that gives them.

#' What gives the next cases of a part, `NULL` at the end
#' @noRd
chunks_of <- function(part, plan, con = NULL) {
  if (part$kind == "chunks") return(part$read)
  if (part$kind == "table") return(table_chunks(con, plan, plan$chunk_rows))
  if (file_kind(part$path) == "parquet") {
    # Of no columns asked for all of them are.
    needed <- if (length(plan$wanted)) unique(c(plan$wanted, if (!is.null(plan$tree)) variables_in(plan$tree)))
    return(parquet_chunks(part, needed))
  }
  next_chunk <- do.call(file_chunks, c(list(part$path, plan$chunk_rows), plan$reading))
  structure(function() {
    chunk <- next_chunk()
    if (!is.null(chunk)) with_folders(chunk, part$folders)
  }, close = attr(next_chunk, "close"))
}

# What was opened to read a part is closed after it.
close_chunks <- function(next_chunk) if (!is.null(attr(next_chunk, "close"))) attr(next_chunk, "close")()

# Only the columns asked for are read.
parquet_chunks <- function(part, wanted) {
  given <- FALSE
  function() {
    if (given) return(NULL)
    given <<- TRUE
    columns <- setdiff(wanted, names(part$folders))
    with_folders(read_parquet_columns(part$path, if (length(columns)) columns), part$folders)
  }
}

# Some rows that tell which columns there are, and of what kind.
sample_rows <- function(part, plan) {
  if (part$kind != "table") {
    plan$wanted <- character()
    plan$chunk_rows <- min(plan$chunk_rows, 1000)
    next_chunk <- chunks_of(part, plan)
    on.exit(close_chunks(next_chunk))
    chunk <- next_chunk()
    if (is.null(chunk)) abort_input(problem("There is no case in %s.", part$name), "Look into it.")
    return(chunk)
  }
  con <- open_part(part)
  on.exit(close_part(part, con))
  rows <- ask_database(con, sprintf("SELECT * FROM %s LIMIT 200", table_in_sql(con, part$table)))
  rows[] <- lapply(rows, plain_column)
  if (!nrow(rows)) abort_input(
    problem("There is no case in %s.", paste(format_table(part$table), collapse = ".")),
    "Look into it."
  )
  rows
}

#' The cases of a text, so many records at a time, each read as the first ones say
#' @noRd
file_chunks <- function(path, chunk_rows, header_row, decimal, delimiter, encoding) {
  check_path(path)
  if (file_kind(path) != "text") {
    abort_input(problem("%s cannot be read in chunks.", file_name(path)), "Only delimited text can.")
  }
  plan <- plan_delimited(path, header_row, decimal, delimiter, encoding, path, limit = 4e6)
  looked_at <- min(file.size(path), 4e6)
  if (file.size(path) * length(plan$seen$line) / looked_at < 0.9 * chunk_rows) {
    if (plan$copied) unlink(plan$path)
    return(whole_file(path, header_row, decimal, delimiter, encoding))
  }
  connection <- file(plan$path, "r", encoding = "UTF-8")
  line <- plan$seen$line[plan$layout$first] - 1L
  readLines(connection, line, warn = FALSE)
  structure(function() {
    lines <- readLines(connection, chunk_rows, warn = FALSE, encoding = "UTF-8")
    # A text in quotes may go on in the next line.
    while (sum(count_quotes(lines)) %% 2 == 1 && length(more <- readLines(connection, 1L, warn = FALSE))) {
      lines <- c(lines, more)
    }
    if (!length(lines)) return(NULL)
    chunk <- read_chunk(lines, plan, line, path)
    line <<- line + length(lines)
    chunk
  }, close = function() {
    close(connection)
    if (plan$copied) unlink(plan$path)
  })
}

# A file of fewer cases than are held at once is read as any other.
whole_file <- function(path, header_row, decimal, delimiter, encoding) {
  given <- FALSE
  function() {
    if (given) return(NULL)
    given <<- TRUE
    table <- read_delimited(path, header_row, decimal, delimiter, encoding)
    chunk <- table$data
    for (name in which(vapply(chunk, is.character, NA))) chunk[[name]] <- plain_numbers(chunk[[name]], table$decimal)
    chunk
  }
}

read_chunk <- function(lines, plan, before, shown) {
  copy <- tempfile(fileext = ".csv")
  on.exit(unlink(copy))
  writeLines(lines, copy, useBytes = TRUE)
  check_copied(copy, sum(nchar(lines, "bytes")) + length(lines))
  seen <- core_scan_delimited(copy, plan$delimiter, 0)
  split <- records_of(copy, plan$delimiter)
  rows <- which(seen$fields > 0L)
  rows <- rows[!notes_at_end(seen, rows, plan$layout$width, split)]
  wrong <- rows[seen$fields[rows] != plan$layout$width]
  if (length(wrong)) {
    abort_input(
      problem(
        "Row %s of %s has %s where the others have %d.", format(before + seen$line[wrong[1]], big.mark = ","),
        file_name(shown), count_in_english(seen$fields[wrong[1]], "field"), plan$layout$width
      ),
      "Check for a delimiter inside a text without quotation marks."
    )
  }
  if (!length(rows)) {
    return(stats::setNames(as.data.frame(rep(list(numeric()), length(plan$layout$headings))), plan$layout$headings))
  }
  within <- plan
  within[c("path", "seen", "split")] <- list(copy, seen, split)
  within$layout[c("header", "first", "last", "records")] <- list(0L, 1L, max(rows), rows)
  chunk <- name_columns(read_cases(within, shown), within$layout)
  for (name in which(vapply(chunk, is.character, NA))) chunk[[name]] <- plain_numbers(chunk[[name]], plan$decimal)
  chunk
}

count_quotes <- function(lines) lengths(regmatches(lines, gregexpr("\"", lines, fixed = TRUE)))
