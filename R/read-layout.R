# Where the table stands in delimited text: titles above it, its headings, its cases, notes below. From the number of
# fields that each record has.

#' How many fields the records of the table have: as many as the longest run of records, of one field only where all are
#' @param seen Records, from the core.
#' @noRd
table_width <- function(seen) {
  fields <- seen$fields
  if (isTRUE(seen$uniform)) return(fields[1])
  if (length(fields) > 1L && fields[1] > 1L && all(fields == fields[1])) return(fields[1])
  # Rows without a value may be of any width.
  blank <- if (is.null(seen$filled)) FALSE else seen$filled == 0L & fields > 1L
  fields <- fields[fields > 0L & !blank]
  if (!any(fields > 1L)) return(min(1L, length(fields)))
  runs <- rle(fields)
  runs$lengths[runs$values == 1L] <- 0L
  runs$values[which.max(runs$lengths)]
}

#' Headings, cases and notes among the records of a text
#'
#' @param seen Records, from the core; `header_row` the line of the headings or `NULL`; `split` gives records as text.
#' @return A list: `headings`, `header` (their record), `first` and `last` (of the records of the table), `records` (those
#'   of cases), `notes` (how many stand below), `width` (fields of a case), `drop` (whether its last one is empty
#'   throughout), `row_names` (whether its first one has no heading), `decisions`.
#' @noRd
find_layout <- function(seen, header_row, split, shown) {
  width <- table_width(seen)
  if (width < 1L) abort_input(problem("%s is empty.", file_name(shown)), "Give a table with cases.")
  header <- if (is.null(header_row)) {
    find_heading_record(seen, width, split, shown)
  } else {
    place_of_line(seen, header_row, shown)
  }
  uniform <- isTRUE(seen$uniform)
  below <- if (uniform) {
    seq.int(header + 1L, length.out = length(seen$fields) - header)
  } else {
    header + which(utils::tail(seen$fields, -header) > 0L)
  }
  if (!length(below)) abort_input(problem("%s has headings but no case.", file_name(shown)), "Give a file with cases.")
  if (!is.null(header_row) && !uniform) width <- table_width(list(fields = seen$fields[below]))
  rows <- heading_rows_of(seen, header, split)
  if (is.null(header_row)) {
    check_heading_kind(split(header, 1)[1, ], split(below[1], min(20L, length(below))), seen$line[header], shown)
  }
  headings <- fit_headings(rows$names, width, seen, below)
  unlike <- unlike_headings(headings$names)
  headings[c("names", "notes")] <- list(unlike$names, c(headings$notes, unlike$notes))
  if (rows$eaten > 0L) below <- below[below > header + rows$eaten]
  if (!length(below)) abort_input(problem("%s has headings but no case.", file_name(shown)), "Give a file with cases.")
  at_end <- notes_at_end(seen, below, width, split)
  table <- if (any(at_end)) below[!at_end] else below
  if (!uniform || length(headings$names) + headings$drop != width) check_widths(seen, table, width, headings, shown)
  list(
    headings = headings$names, header = header, eaten = rows$eaten, from_above = rows$from_above, labels = rows$labels,
    units = rows$units, first = below[1], last = table[length(table)], width = width,
    drop = headings$drop, row_names = headings$row_names,
    records = if (uniform) table else table[seen$fields[table] == width],
    notes = sum(at_end), decisions = c(rows$notes, headings$notes)
  )
}

# Of how many cells a row of headings is, so that a second one has as many.
heading_rows_of <- function(seen, header, split) {
  own <- trimws(split(header, 1)[1, ])
  as_wide <- function(record) record >= 1L && seen$fields[record] == seen$fields[header] && seen$filled[record] > 0L
  if (length(own) < 2L) return(read_heading_rows(own, NULL, matrix("", 0, length(own))))
  above <- if (header > 1L && as_wide(header - 1L)) split(header - 1L, 1)[1, ]
  at <- seq(header + 1L, min(header + 60L, length(seen$fields)))
  block <- split(header + 1L, length(at))
  # Only rows of the headings' own width, from the first on.
  wide <- vapply(at, as_wide, NA)
  below <- block[wide, seq_len(min(ncol(block), length(own))), drop = FALSE]
  if (ncol(below) < length(own) || !wide[1]) return(read_heading_rows(own, NULL, matrix("", 0, length(own))))
  read_heading_rows(own, above, below)
}

# Records of one field at the end are notes, unless one is a number: then part of a case may be lost.
notes_at_end <- function(seen, below, width, split) {
  if (width == 1L || seen$fields[below[length(below)]] != 1L) return(FALSE)
  single <- rev(cumprod(rev(seen$fields[below] == 1L))) == 1
  first <- below[single][1]
  notes <- split(first, below[length(below)] - first + 1L)[, 1]
  single & !any(is_figure(notes))
}

place_of_line <- function(seen, line, shown) {
  if (line <= max(seen$line)) return(max(which(seen$line <= line)))
  abort_input(
    problem("%s has %d rows; the headings cannot be in row %d.", file_name(shown), max(seen$line), line),
    "Give another header row."
  )
}

#' The record of the headings: the first wide one with more words than numbers, or one above it that lacks a field
#' @noRd
find_heading_record <- function(seen, width, split, shown) {
  are_wide <- function(records) records[seen$fields[records] == width & seen$filled[records] > 0L]
  wide <- are_wide(seq_len(min(length(seen$fields), 1000L)))
  if (length(wide) < 25L) wide <- are_wide(seq_along(seen$fields))
  last <- wide[min(25L, length(wide))]
  grid <- split(1, last)
  if (width == 1L) return(find_header_row(grid))
  header <- find_header_row(grid, seen$fields[seq_len(last)], width)
  for (below in unique(c(wide[1], header))) {
    above <- which(seen$fields[seq_len(below - 1L)] > 1L)
    above <- above[length(above)]
    lacks_one <- length(above) && abs(seen$fields[above] - width) == 1L && may_head(grid[above, ])
    if (lacks_one && !heads_numbers(grid, below)) return(above)
  }
  check_headings(grid, header, seen$line, shown)
  header
}

# Whether a row holds a word over a column of numbers, as headings do and cases do not; or could be either, all words.
heads_numbers <- function(grid, row) {
  if (!is_wordy(grid[row, ])) return(FALSE)
  below <- grid[-seq_len(row), , drop = FALSE]
  if (!nrow(below)) return(TRUE)
  words <- !is_figure(grid[row, ]) & !is_blank(grid[row, ])
  numeric <- apply(below, 2, function(cells) any(!is_blank(cells)) && !is_wordy(cells))
  if (any(numeric)) any(words & numeric) else !anyDuplicated(grid[row, words])
}

#' Headings as many as the fields of a case
#'
#' Where cases have a field more, it is an empty one at the end, or the name of the case in front; where the headings
#' have one more, that is an empty one at the end.
#' @noRd
fit_headings <- function(names, width, seen, below) {
  names[is.na(names)] <- ""
  beyond <- width - length(names)
  if (beyond == 1L && all(seen$ends[below[seen$fields[below] == width]] == 1L)) {
    return(list(
      names = names, drop = TRUE, row_names = FALSE, notes = template("the delimiter at the end of each row ignored")
    ))
  }
  if (beyond == 1L && all(nzchar(names))) {
    free <- setdiff(free_row_names, names)[1]
    return(list(
      names = c(free, names), drop = FALSE, row_names = TRUE,
      notes = template("the first column has no heading; it is called \"%s\"", free)
    ))
  }
  if (beyond < 0L && !any(nzchar(names[-seq_len(width)]))) names <- names[seq_len(width)]
  list(names = names, drop = FALSE, row_names = FALSE)
}

check_widths <- function(seen, table, width, headings, shown) {
  wanted <- length(headings$names) + headings$drop
  wrong <- table[seen$fields[table] != wanted]
  if (!length(wrong)) return(invisible())
  abort_input(
    problem(
      "Row %d of %s has %s where the headings have %d%s.", seen$line[wrong[1]], file_name(shown),
      count_in_english(seen$fields[wrong[1]], "field"), wanted,
      if (length(wrong) > 1) sprintf(" (%d rows in all)", length(wrong)) else ""
    ),
    "Check for a delimiter inside a text without quotation marks, or give the row of the headings."
  )
}
