# Delimited text: delimiter, decimal mark, headings and notes are found from the records themselves.

#' @return As [shape_grid()], with columns already numeric where they are plain numbers; also `delimiter`, `decimal`,
#'   `encoding`.
#' @noRd
read_delimited <- function(path, header_row = NULL, decimal = NULL, delimiter = NULL, encoding = NULL, shown = path) {
  plan <- plan_delimited(path, header_row, decimal, delimiter, encoding, shown)
  if (plan$copied) on.exit(unlink(plan$path))
  # What was needed on the way to the plan of a long table is as large as the table.
  if (length(plan$seen$line) > 5e5) gc(verbose = FALSE)
  data <- name_columns(read_cases(plan, shown), plan$layout)
  if (plan$layout$row_names) check_row_names(data, plan, shown)
  table <- c(trim_table(data, plan, shown), list(delimiter = plan$delimiter_given), plan[c("decimal", "encoding")])
  attr(table$data, "headings") <- NULL
  with_heading_labels(table, attr(data, "headings"), names(data))
}

#' How a text is to be read
#'
#' @param limit How many bytes are looked at; all where it is 0.
#' @return A list: `path` (of the text in UTF-8), `copied`, `encoding`, `delimiter` (of that text; `delimiter_given`
#'   of the file),
#'   `decimal`, `layout`, and `seen`, the records.
#' @noRd
plan_delimited <- function(path, header_row, decimal, delimiter, encoding, shown, limit = 0) {
  if (file.size(path) == 0) {
    abort_input(problem("%s is empty.", file_name(shown)), "Give a file with a row of headings and cases.")
  }
  text <- text_in_utf8(path, encoding, shown)
  failed <- TRUE
  on.exit(if (failed && text$copied) unlink(text$path))
  if (is.null(delimiter)) delimiter <- find_delimiter(text$path)
  delimiter_given <- delimiter
  if (delimiter == "spaces") {
    text <- set_by_tabs(text, shown)
    delimiter <- "\t"
  }
  seen <- core_scan_delimited(text$path, delimiter, limit)
  if (seen$open) {
    abort_input(
      problem("A quote that opens in row %d of %s never closes.", seen$open, file_name(shown)),
      "Close it, or take it out, in a copy of the file."
    )
  }
  # Of most tables every record is like the first: then no record need be looked at again.
  seen$uniform <- length(seen$fields) > 1L && seen$fields[1] > 1L && !any(seen$filled == 0L) &&
    all(seen$fields == seen$fields[1])
  # A row without any value is an empty one, however many delimiters it has.
  if (!seen$uniform) seen$fields[seen$filled == 0L & seen$fields != table_width(seen)] <- 0L
  split <- records_of(text$path, delimiter)
  layout <- find_layout(seen, header_row, split, shown)
  head <- split(layout$first, min(2000, ceiling(2e5 / layout$width), layout$last - layout$first + 1L))
  if (is.null(decimal)) decimal <- find_decimal(head, delimiter, shown)
  layout$codes <- code_columns(head)
  failed <- FALSE
  # What told the layout is let go: of a million records it is megabytes.
  seen[c("filled", "ends")] <- NULL
  layout$decisions <- c(text$notes, layout$decisions)
  text$notes <- NULL
  c(text, list(
    delimiter = delimiter, delimiter_given = delimiter_given, decimal = decimal,
    layout = layout, seen = seen, split = split
  ))
}

# Columns of codes such as 38E8, which a reader of numbers would take for large ones.
code_columns <- function(cells) {
  suspects <- which(colSums(matrix(grepl("^ *[0-9]+[eE][0-9]+ *$", cells), nrow(cells))) > 0)
  Filter(function(k) !is.null(why_kept(tidy_text(cells[, k]))), suspects)
}

#' The text of a file in UTF-8: the file itself, or one copy of it
#' @return A list: `path`, `encoding`, `copied`, `notes`.
#' @noRd
text_in_utf8 <- function(path, encoding, shown) {
  source <- text_of_file(path, shown)
  is_original <- FALSE
  on.exit(if (source$copied && !is_original) unlink(source$path))
  text <- as_utf8_file(source$path, if (is.null(source$notes)) encoding else "UTF-8", shown)
  is_original <- !text$copied
  text$copied <- text$copied || source$copied
  c(text, list(notes = source$notes))
}

set_by_tabs <- function(text, shown) {
  copy <- without_spaces(text$path)
  if (text$copied) unlink(text$path)
  if (is.null(copy)) {
    abort_input(problem("%s has no columns aligned by spaces.", file_name(shown)), "Let the delimiter be detected.")
  }
  text[c("path", "copied")] <- list(copy, TRUE)
  text
}

#' What gives some records of a text as a matrix of text
#' @noRd
records_of <- function(path, delimiter) function(from, count) core_split_delimited(path, delimiter, from - 1, count)

name_columns <- function(data, layout) {
  if (layout$drop) data <- data[-length(data)]
  names(data) <- layout$headings
  known <- seq_along(layout$labels)
  if (length(known) == length(data)) attr(data, "headings") <- list(labels = layout$labels, units = layout$units)
  data
}

#' The cases under the headings, as many as there are records
#'
#' A library reads files whose quotes all stand where RFC 4180 has them; others, and what it does not read to the last
#' record, are split by the rules of the core.
#' @noRd
read_cases <- function(plan, shown) {
  layout <- plan$layout
  if (plan$seen$proper) {
    data <- read_quickly(plan)
    if (!is.null(data) && nrow(data) == length(layout$records) && ncol(data) == layout$width) {
      return(if (plan$seen$doubled) single_quotes(data) else data)
    }
  }
  grid <- plan$split(layout$first, layout$last - layout$first + 1L)
  if (nrow(grid) < layout$last - layout$first + 1L) {
    abort_input(problem("%s was changed while it was read.", file_name(shown)), "Run this again.")
  }
  grid <- grid[layout$records - layout$first + 1L, seq_len(layout$width), drop = FALSE]
  grid[trimws(grid) %in% blank_marks] <- NA
  as.data.frame(grid)
}

read_quickly <- function(plan) {
  layout <- plan$layout
  more <- layout$last < length(plan$seen$line)
  refused <- function(condition) NULL
  as_text <- if (length(layout$codes)) list(character = layout$codes)
  tryCatch(
    data.table::fread(
      file = plan$path, sep = plan$delimiter, dec = plan$decimal, skip = plan$seen$line[layout$first] - 1L,
      nrows = if (more) length(layout$records) else Inf, header = FALSE, na.strings = blank_marks, strip.white = TRUE,
      blank.lines.skip = TRUE, encoding = "UTF-8", integer64 = "character", keepLeadingZeros = TRUE, data.table = FALSE,
      colClasses = as_text, showProgress = isatty(stderr())
    ),
    warning = refused, error = refused
  )
}

# A quote inside quotes is written twice in the file.
single_quotes <- function(data) {
  for (name in which(vapply(data, is.character, NA))) {
    if (any(grepl("\"\"", data[[name]], fixed = TRUE))) data[[name]] <- gsub("\"\"", "\"", data[[name]], fixed = TRUE)
  }
  data
}

# A first column without heading counts the cases, and no heading says that another one does; else it may as well be
# the last column that has none.
check_row_names <- function(data, plan, shown) {
  counts <- is.numeric(data[[1]]) && !anyNA(data[[1]]) && all(diff(data[[1]]) == 1)
  if (counts && !named_like(names(data)[2], code_words)) return(invisible())
  abort_input(
    problem(
      "Row %d of %s has %s where the rows below have %d fields: the first or the last column has none.",
      plan$seen$line[plan$layout$header], file_name(shown), count_in_english(length(data) - 1L, "heading"), length(data)
    ),
    "Give every column a heading, or remove the extra fields, in a copy of the file."
  )
}

#' Without empty columns that have no name, empty rows and notes at the end; every record is accounted for
#' @noRd
trim_table <- function(data, plan, shown) {
  layout <- plan$layout
  nameless <- !nzchar(names(data))
  empty <- nameless & vapply(data, function(column) all(is.na(utils::head(column, 100L))) && all(is.na(column)), NA)
  if (any(empty)) data <- data[!empty]
  hollow <- hollow_rows(data)
  tail <- utils::tail(seq_len(nrow(data)), 100L)
  filled <- Reduce(`+`, lapply(data, function(column) !is.na(column[tail])), numeric(length(tail)))
  trailing <- tail[trailing_notes(filled, ncol(data), hold_figure(data, tail, filled <= 1))]
  notes <- layout$notes + length(setdiff(trailing, hollow))
  hollow <- setdiff(hollow, trailing)
  out <- c(hollow, trailing)
  if (length(out)) data <- data[-out, , drop = FALSE]
  rownames(data) <- NULL
  if (!nrow(data)) abort_input(problem("%s has headings but no case.", file_name(shown)), "Give a file with cases.")
  records <- if (length(out)) layout$records[-out] else layout$records
  uniform <- isTRUE(plan$seen$uniform)
  blank <- if (uniform) 0L else sum(plan$seen$fields[layout$header:records[length(records)]] == 0L)
  omitted <- c(
    above = layout$header - 1L, headings = layout$eaten, notes = layout$notes, trailing = length(trailing),
    empty = length(hollow)
  )
  above <- sum(plan$seen$fields[seq_len(layout$header)] > 0L)
  filled <- if (uniform) length(plan$seen$fields) else sum(plan$seen$fields > 0L)
  if (filled - above + layout$header != nrow(data) + 1L + sum(omitted)) {
    stop("records were lost: ", toString(paste(names(omitted), omitted)))
  }
  list(data = data, header_row = plan$seen$line[layout$header], rows = plan$seen$line[records], decisions = c(
    above_sentence(plan$seen$line[layout$header], layout$from_above),
    layout$decisions,
    if (any(empty)) template("%s skipped", counted(sum(empty), "empty column")),
    if (length(hollow) || blank) template("%s skipped", counted(length(hollow) + blank, "empty row")),
    if (notes) template("%s below the table skipped", counted(notes, "note"))
  ))
}

# Which of some rows hold a number, as far as that is asked.
hold_figure <- function(data, rows, figure_wanted) {
  figure <- logical(length(rows))
  if (!any(figure_wanted)) return(figure)
  rows <- rows[figure_wanted]
  figure[figure_wanted] <- Reduce(`|`, lapply(data, function(column) {
    cells <- column[rows]
    !is.na(cells) & (is.numeric(cells) | is_figure(as.character(cells)))
  }))
  others <- setdiff(utils::head(seq_len(nrow(data)), 500L), rows)
  figure[figure_wanted] <- figure[figure_wanted] | names_case(data[[1]][rows], data[[1]][others])
  figure
}

# The rows without any value; a column at a time, as most are settled by the first.
hollow_rows <- function(data) {
  hollow <- if (length(data) && anyNA(data[[1]])) which(is.na(data[[1]])) else integer()
  for (column in data[-1]) {
    if (!length(hollow)) break
    hollow <- hollow[is.na(column[hollow])]
  }
  hollow
}
