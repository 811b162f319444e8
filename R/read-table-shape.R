# Where the table stands in a sheet: title rows above the headings, notes below, empty rows and columns.

#' The row of the headings in a grid of text
#'
#' The first row that fills at least three quarters of the columns that most rows fill (in delimited text: that has as
#' many fields as the rows of the table, half of them filled), and holds more words than numbers.
#' @param grid A character matrix, `NA` or blank where a cell is empty.
#' @param fields In delimited text, how many fields each row has, and `width` how many those of the table have.
#' @noRd
find_header_row <- function(grid, fields = NULL, width = NULL) {
  filled <- rowSums(!is_blank(grid))
  if (!any(filled > 1)) return(max(1L, match(TRUE, filled > 0, nomatch = 1L)))
  usual <- most_common(filled[filled > 1])
  wide <- which(if (is.null(fields)) {
    filled >= 0.75 * usual & filled > 1
  } else {
    fields == width & filled >= 0.5 * usual
  })
  or_default(Find(function(i) may_head(grid[i, ]) || is_unlike_below(grid, i), wide), wide[1])
}

#' Whether hardly a cell of a row has the form of one of those below it: days over marks, numbers over words
#' @noRd
is_unlike_below <- function(grid, row) {
  below <- utils::head(grid[-seq_len(row), , drop = FALSE], 30L)
  filled <- which(!is_blank(grid[row, ]))
  if (nrow(below) < 5L || length(filled) < 3L || anyDuplicated(trimws(grid[row, filled]))) return(FALSE)
  unlike <- vapply(filled, function(k) !cell_form(grid[row, k]) %in% cell_form(below[!is_blank(below[, k]), k]), NA)
  mean(unlike) >= 0.8
}

# "Pupil 12" as "Aa 0".
cell_form <- function(text) {
  form <- gsub("[[:lower:]]+", "a", gsub("[[:upper:]]+", "A", trimws(as.character(text))))
  gsub("[0-9]+", "0", form)
}

may_head <- function(cells) is_wordy(cells) || length(times_across(trimws(cells[!is_blank(cells)]))) > 2L

# A case is never taken for the headings: rows of numbers are none, least of all below a row of words.
check_headings <- function(grid, row, lines, shown) {
  filled <- which(!is_blank(grid[row, ]))
  numeric <- is_figure(grid[row, filled])
  wordy <- vapply(seq_len(row - 1L), function(i) sum(!is_blank(grid[i, ])) > 1L && is_wordy(grid[i, ]), NA)
  if (mean(numeric) > 0.5 && any(wordy)) {
    above <- which(wordy)[1]
    abort_input(
      problem(
        "Row %d of %s has %s where the rows below have another number of fields.", lines[above], file_name(shown),
        count_in_english(sum(!is_blank(grid[above, ])), "heading")
      ),
      "Give every column a heading, or remove the extra fields, in a copy of the file."
    )
  }
  if (length(filled) > 1L && all(numeric) && !heads_times(grid, row)) {
    abort_input(
      problem("%s has no headings: its row %d holds numbers only.", file_name(shown), lines[row]),
      "Write a name over each column in a copy of the file, or say which row has the names."
    )
  }
}

# Years over the columns, and words below the one that has no heading.
heads_times <- function(grid, row) {
  bare <- which(is_blank(grid[row, ]))
  below <- utils::head(grid[-seq_len(row), , drop = FALSE], 50L)
  length(bare) == 1L && nrow(below) > 0L && length(times_across(grid[row, -bare])) == ncol(grid) - 1L &&
    !any(is_blank(below[, bare]) | is_figure(below[, bare]))
}

#' A grid of text as a data frame of text columns
#'
#' @return A list: `data`, `header_row`, `rows` (the row in the sheet of each case), `decisions`.
#' @noRd
shape_grid <- function(grid, header_row, shown) {
  if (!nrow(grid) || all(is_blank(grid))) {
    abort_input(problem("%s is empty.", file_name(shown)), "Give a table with a row of headings and cases.")
  }
  header <- if (is.null(header_row)) find_header_row(grid) else header_row
  if (header > nrow(grid)) {
    abort_input(
      problem("%s has %d rows; the headings cannot be in row %d.", file_name(shown), nrow(grid), header),
      "Give another header row."
    )
  }
  if (is.null(header_row)) check_headings(grid, header, seq_len(nrow(grid)), shown)
  heading_parts <- read_heading_rows(
    ifelse(is_blank(grid[header, ]), "", trimws(grid[header, ])), if (header > 1L) grid[header - 1L, ],
    grid[seq_len(nrow(grid)) > header & seq_len(nrow(grid)) <= header + 60L, , drop = FALSE]
  )
  headings <- heading_parts$names
  if (is.null(header_row) && nrow(grid) > header + heading_parts$eaten) {
    under <- seq(header + heading_parts$eaten + 1L, min(nrow(grid), header + heading_parts$eaten + 20L))
    check_heading_kind(ifelse(is_blank(grid[header, ]), "", grid[header, ]), grid[under, , drop = FALSE], header, shown)
  }
  body <- grid[-seq_len(header + heading_parts$eaten), , drop = FALSE]
  rows <- seq_len(nrow(grid))[-seq_len(header + heading_parts$eaten)]
  used <- !(is_blank(headings) & apply(is_blank(body), 2, all))
  beside <- tables_beside(headings, body, used)
  used <- used & !beside
  last_used <- max(which(used), 0L)
  decisions <- c(
    above_sentence(header, heading_parts$from_above), heading_parts$notes,
    if (any(beside)) template(
      "another table stands beside this one; not read: %s", shown(utils::head(headings[beside], 4L), "parts", ", ")
    ),
    if (any(!used[seq_len(last_used)])) template("%s skipped", counted(sum(!used[seq_len(last_used)]), "empty column"))
  )
  body <- body[, used, drop = FALSE]
  filled <- rowSums(!is_blank(body))
  figure <- rowSums(matrix(is_figure(body) & !is_blank(body), nrow(body))) > 0
  single <- which(filled <= 1)
  figure[single] <- figure[single] | names_case(body[single, 1], body[filled > 1, 1])
  notes <- trailing_notes(filled, sum(used), figure)
  empty <- filled == 0 & !notes
  decisions <- c(
    decisions,
    if (any(notes & filled > 0)) template("%s below the table skipped", counted(sum(notes & filled > 0), "note")),
    if (any(empty)) template("%s skipped", counted(sum(empty), "empty row"))
  )
  is_data <- !notes & !empty
  data <- as.data.frame(body[is_data, , drop = FALSE])
  unlike <- unlike_headings(headings[used])
  names(data) <- unlike$names
  if (!nrow(data)) abort_input(problem("%s has headings but no case.", file_name(shown)), "Give a file with cases.")
  table <- list(data = data, header_row = header, rows = rows[is_data], decisions = c(decisions, unlike$notes))
  with_heading_labels(table, lapply(heading_parts[c("labels", "units")], `[`, used), names(data))
}

#' Columns of other tables to the right of the first: set off by an empty column, each with its heading, and fewer or more
#' rows than it has
#' @noRd
tables_beside <- function(headings, body, used) {
  block <- cumsum(c(TRUE, diff(used) == 1)) * used
  blocks <- setdiff(unique(block), 0)
  none <- rep(FALSE, length(used))
  if (length(blocks) < 2L || nrow(body) < 5L) return(none)
  rows <- vapply(blocks, function(b) {
    sum(rowSums(!is_blank(body[, block == b, drop = FALSE])) > min(1, sum(block == b) - 1))
  }, 0)
  headed <- vapply(blocks, function(b) all(nzchar(headings[block == b])), NA)
  main <- blocks[1]
  if (!headed[1] || sum(block == main) < 2L) return(none)
  other <- blocks[-1][headed[-1] & (rows[-1] < 0.6 * rows[1] | rows[-1] > rows[1] / 0.6)]
  block %in% other
}

#' A first row of the same kind as those below, words over words and figures over figures, may as well be a case
#'
#' Years and numbers counted from 0 or 1 on are headings all the same.
#' @param heading Its cells; `below` those of some rows under it; `line` where it stands in the file.
#' @section Errors: `unsere_error_input`, with both readings.
#' @noRd
check_heading_kind <- function(heading, below, line, shown) {
  heading <- trimws(heading)
  width <- min(length(heading), ncol(below))
  if (width < 2L || nrow(below) < 2L || any(!nzchar(heading[seq_len(width)]))) return(invisible())
  heading <- heading[seq_len(width)]
  figure <- is_figure(heading)
  like <- colMeans(matrix(is_figure(trimws(below[, seq_len(width)])), nrow(below))) > 0.5
  if (!any(figure) || any(figure != like)) return(invisible())
  numbers <- suppressWarnings(as.numeric(heading[figure]))
  counted <- !anyNA(numbers) && all(numbers == round(numbers)) &&
    (all(numbers >= 1800 & numbers <= 2200) || numbers[1] %in% 0:1 && all(diff(numbers) == 1))
  if (counted) return(invisible())
  abort_input(
    problem(
      "%s: row %d (%s) may be the headings or the first case.", file_name(shown), line,
      some_values(heading)
    ),
    "Write a name over each column in a copy, or say by header_row (--header-row) which row has the names."
  )
}

#' Whether a cell that stands alone in its row names a case, in the form of the other names and by no word of a note
#' @param others The first cells of the rows above.
#' @noRd
names_case <- function(cells, others) {
  others <- others[!is_blank(others)]
  words <- "^(notes?|sources?|totals?|sum|end|mean|average|legend|remarks?|quellen?|anmerkung(en)?|ende|summe|n)\\b"
  !is_blank(cells) & cell_form(cells) %in% names(which(table(cell_form(others)) > max(1, length(others) / 10))) &
    !grepl(words, trimws(as.character(cells)), ignore.case = TRUE)
}

#' Rows at the end that hold one text in a table of three columns or more, and the empty rows among them
#' @param figure Whether a row holds a number: then it is a case, however much of it is missing.
#' @noRd
trailing_notes <- function(filled, columns, figure) {
  notes <- logical(length(filled))
  if (columns < 3) return(notes)
  at <- length(filled)
  while (at > 0 && filled[at] <= 1 && !figure[at]) {
    notes[at] <- TRUE
    at <- at - 1L
  }
  notes
}
