# Delimited text: delimiter, decimal mark, headings and notes are found from the lines themselves.

#' @return As [shape_grid()], with columns already numeric where they are plain numbers; also `delimiter`, `decimal`,
#'   `encoding`.
#' @noRd
read_delimited <- function(path, header_row = NULL, decimal = NULL, delimiter = NULL, encoding = NULL, shown = path) {
  if (file.size(path) == 0) {
    abort_input(sprintf("%s is empty.", file_name(shown)), "Give a file with a row of headings and cases.")
  }
  text <- as_utf8_file(path, encoding, shown)
  if (text$copied) on.exit(unlink(text$path))
  lines <- sub("^\ufeff", "", readLines(text$path, n = 100L + max(0, header_row), warn = FALSE, encoding = "UTF-8"))
  if (is.null(delimiter)) delimiter <- find_delimiter(lines[nzchar(trimws(lines))])
  check_quotes(text$path, lines, shown)
  records <- join_quoted(lines)
  layout <- find_layout(records$text, delimiter, match_record(header_row, records), shown)
  body <- records$text[-seq_len(layout$header_row)]
  layout <- in_lines(layout, records)
  if (is.null(decimal)) decimal <- find_decimal(body, delimiter, shown)
  read <- read_body(text$path, layout, delimiter, decimal, shown)
  shaped <- trim_table(read$data, layout, read$notes, shown)
  shaped$rows <- rows_in_text(text$path, layout$last_row, nrow(shaped$data))
  c(shaped, list(delimiter = delimiter, decimal = decimal, encoding = text$encoding))
}

#' Lines as records: a text in quotes may go on over several lines
#' @return A list: `text`, a record each, and `start`, the line where each begins.
#' @noRd
join_quoted <- function(lines) {
  open <- cumsum(count_quotes(lines)) %% 2 == 1
  if (!any(open)) return(list(text = lines, start = seq_along(lines)))
  begins <- c(TRUE, !open[-length(open)])
  list(text = unname(vapply(split(lines, cumsum(begins)), paste, "", collapse = "\n")), start = which(begins))
}

count_quotes <- function(lines) {
  counts <- integer(length(lines))
  quoted <- which(grepl("\"", lines, fixed = TRUE))
  bare <- gsub("\"", "", lines[quoted], fixed = TRUE)
  counts[quoted] <- nchar(lines[quoted], "bytes") - nchar(bare, "bytes")
  counts
}

match_record <- function(header_row, records) {
  if (is.null(header_row) || header_row > max(records$start)) return(header_row)
  max(which(records$start <= header_row))
}

# Where the headings stand in the file, in lines: `header_row` their first line, `last_row` their last.
in_lines <- function(layout, records) {
  at <- layout$header_row
  layout$header_row <- records$start[at]
  layout$last_row <- if (at < length(records$start)) records$start[at + 1L] - 1L else layout$header_row
  layout
}

#' The row of the headings, their names, and how many rows stand above them
#' @noRd
find_layout <- function(lines, delimiter, header_row, shown) {
  if (!any(nzchar(trimws(lines)))) abort_input(sprintf("%s is empty.", file_name(shown)), "Give a table with cases.")
  if (!is.null(header_row) && header_row > length(lines)) {
    abort_input(
      sprintf("%s has %d rows; the headings cannot be in row %d.", file_name(shown), length(lines), header_row),
      "Give another header row."
    )
  }
  fields <- lapply(utils::head(lines, max(25L, header_row)), split_line, delimiter)
  if (is.null(header_row)) {
    width <- max(lengths(fields))
    grid <- t(vapply(fields, function(f) c(f, rep(NA_character_, width - length(f))), character(width)))
    if (width == 1L) grid <- matrix(unlist(fields), ncol = 1)
    header_row <- find_header_row(grid, lengths(fields))
    check_headings(grid, header_row, shown)
  }
  headings <- trimws(split_line(lines[header_row], delimiter))
  if (length(lines) == header_row || !any(nzchar(lines[-seq_len(header_row)]))) {
    abort_input(sprintf("%s has headings but no case.", file_name(shown)), "Give a file with cases.")
  }
  list(header_row = header_row, headings = headings, above = header_row - 1L)
}

# A case is never taken for the headings: rows of numbers are none, least of all below a row of words.
check_headings <- function(grid, row, shown) {
  filled <- which(!is_blank(grid[row, ]))
  numeric <- !is.na(numbers_in(trimws(grid[row, filled])))
  wordy <- vapply(seq_len(row - 1L), function(i) {
    cells <- grid[i, !is_blank(grid[i, ])]
    length(cells) > 1L && mean(is.na(numbers_in(trimws(cells)))) > 0.5
  }, NA)
  if (mean(numeric) > 0.5 && any(wordy)) {
    above <- which(wordy)[1]
    names <- sum(!is_blank(grid[above, ]))
    abort_input(
      sprintf(
        "Row %d of %s has %s where the rows below have another number of fields.", above, file_name(shown),
        count_of(names, "heading")
      ),
      "Give every column a heading, or take out what is too much, in a copy of the file."
    )
  }
  if (length(filled) > 1L && all(numeric)) {
    abort_input(
      sprintf("%s has no headings: its row %d holds numbers only.", file_name(shown), row),
      "Write a name over each column in a copy of the file, or say which row has the names."
    )
  }
}

split_line <- function(line, delimiter) {
  if (!nzchar(line)) return(NA_character_)
  # A text in quotes may go on in the next line; here its first line will do.
  suppressWarnings(scan(
    text = line, what = "", sep = delimiter, quote = "\"", quiet = TRUE, encoding = "UTF-8",
    comment.char = "",
    na.strings = character(), blank.lines.skip = FALSE
  ))
}

#' The cases under the headings; lines at the end that are no cases are notes
#' @noRd
read_body <- function(path, layout, delimiter, decimal, shown) {
  problem <- NULL
  data <- tryCatch(
    withCallingHandlers(
      data.table::fread(
        file = path, sep = delimiter, dec = decimal, skip = layout$header_row - 1L, header = TRUE,
        na.strings = blank_marks, strip.white = TRUE, blank.lines.skip = TRUE, encoding = "UTF-8",
        integer64 = "character", keepLeadingZeros = TRUE,
        data.table = FALSE, check.names = FALSE, showProgress = isatty(stderr())
      ),
      warning = function(w) {
        problem <<- conditionMessage(w)
        invokeRestart("muffleWarning")
      }
    ),
    error = function(e) {
      abort_input(sprintf("%s cannot be read as a table.", file_name(shown)), first_line(conditionMessage(e)))
    }
  )
  notes <- 0L
  if (!is.null(problem)) notes <- notes_or_abort(path, layout, delimiter, shown, problem)
  if (ncol(data) != length(layout$headings)) {
    abort_ragged(path, layout, delimiter, shown, "the rows differ from the headings")
  }
  names(data) <- layout$headings
  list(data = single_quotes(data), notes = notes)
}

# A quote inside quotes is written twice in the file.
single_quotes <- function(data) {
  for (name in which(vapply(data, is.character, NA))) {
    if (any(grepl("\"\"", data[[name]], fixed = TRUE))) data[[name]] <- gsub("\"\"", "\"", data[[name]], fixed = TRUE)
  }
  data
}

# A library's message may quote bytes of the file that are no text.

#' What stands below the place where reading stopped: notes of one field, or rows of another number of fields
#' @noRd
notes_or_abort <- function(path, layout, delimiter, shown, problem) {
  records <- join_quoted(readLines(path, warn = FALSE, encoding = "UTF-8"))
  lines <- records$text
  counts <- field_counts(lines, delimiter)
  wrong <- which(counts > 0 & counts != length(layout$headings) & records$start > layout$header_row)
  if (!length(wrong)) {
    if (grepl("Discarded single-line footer", problem)) return(1L)
    abort_input(sprintf("%s cannot be read as a table.", file_name(shown)), first_line(problem))
  }
  below <- lines[wrong[1]:length(lines)]
  is_note <- counts[wrong[1]:length(lines)] <= 1 & is.na(numbers_in(trimws(below)))
  if (all(is_note | !nzchar(trimws(below)))) return(sum(is_note & nzchar(trimws(below))))
  abort_ragged(path, layout, delimiter, shown, problem)
}

field_counts <- function(lines, delimiter) {
  bare <- gsub("\"[^\"]*\"", "", lines)
  ifelse(nzchar(trimws(bare)), lengths(regmatches(bare, gregexpr(delimiter, bare, fixed = TRUE))) + 1L, 0L)
}

abort_ragged <- function(path, layout, delimiter, shown, problem) {
  records <- join_quoted(readLines(path, warn = FALSE, encoding = "UTF-8"))
  counts <- field_counts(records$text, delimiter)
  wanted <- length(layout$headings)
  wrong <- which(counts > 0 & counts != wanted & records$start > layout$header_row)
  if (!length(wrong)) abort_input(sprintf("%s cannot be read as a table.", file_name(shown)), first_line(problem))
  abort_input(
    sprintf(
      "Row %d of %s has %s where the headings have %d%s.", records$start[wrong[1]], file_name(shown),
      count_of(counts[wrong[1]], "field"), wanted,
      if (length(wrong) > 1) sprintf(" (%d rows in all)", length(wrong)) else ""
    ),
    "Look for a delimiter inside a text that is not in quotes, or name the row of the headings."
  )
}

#' Without empty columns that have no name, empty rows and notes at the end
#' @noRd
trim_table <- function(data, layout, notes, shown) {
  nameless <- !nzchar(names(data))
  empty <- nameless & vapply(data, function(column) all(is.na(utils::head(column, 100L))) && all(is.na(column)), NA)
  if (any(empty)) data <- data[!empty]
  hollow <- hollow_rows(data)
  tail <- utils::tail(seq_len(nrow(data)), 100L)
  filled <- rowSums(!is.na(data[tail, , drop = FALSE]))
  trailing <- logical(nrow(data))
  trailing[tail] <- trailing_notes(filled, ncol(data))
  notes <- notes + sum(trailing & !hollow)
  hollow <- hollow & !trailing
  if (any(hollow | trailing)) data <- data[!trailing & !hollow, , drop = FALSE]
  rownames(data) <- NULL
  if (!nrow(data)) abort_input(sprintf("%s has headings but no case.", file_name(shown)), "Give a file with cases.")
  list(data = data, header_row = layout$header_row, decisions = c(
    if (layout$above) {
      sprintf("headings found in row %d; %s above left out", layout$header_row, count_of(layout$above, "row"))
    },
    if (any(empty)) sprintf("%s left out", count_of(sum(empty), "empty column")),
    if (any(hollow)) sprintf("%s left out", count_of(sum(hollow), "empty row")),
    if (notes) sprintf("%s below the table left out", count_of(notes, "note"))
  ))
}

# A column at a time, so that no table of TRUE and FALSE the size of the data is held.
hollow_rows <- function(data) {
  hollow <- rep(TRUE, nrow(data))
  for (column in data) {
    if (!any(hollow)) break
    hollow <- hollow & is.na(column)
  }
  hollow
}

#' The line of each case in a file of moderate size; NULL where lines and cases cannot be matched one to one
#' @noRd
rows_in_text <- function(path, header_row, cases) {
  if (file.size(path) > 5e6) return(NULL)
  records <- join_quoted(readLines(path, warn = FALSE, encoding = "UTF-8"))
  filled <- which(nzchar(gsub("[,;\t\"[:space:]]", "", records$text)) & records$start > header_row)
  if (length(filled) >= cases) records$start[filled[seq_len(cases)]]
}

#' A quote that never closes swallows the rest of the file: said with the row where it opens
#' @noRd
check_quotes <- function(path, lines, shown) {
  if (file.size(path) > 5e7) return(invisible())
  if (file.size(path) > 1e4 || length(lines) >= 100L) lines <- readLines(path, warn = FALSE, encoding = "UTF-8")
  quotes <- count_quotes(lines)
  if (sum(quotes) %% 2 == 0) return(invisible())
  odd <- which(quotes %% 2 == 1)
  abort_input(
    sprintf("A quote that opens in row %d of %s never closes.", odd[length(odd)], file_name(shown)),
    "Close it, or take it out, in a copy of the file."
  )
}

find_delimiter <- function(lines) {
  bare <- gsub("\"[^\"]*\"", "", utils::head(lines, 50))
  scores <- vapply(c(",", ";", "\t"), function(mark) {
    found <- lengths(regmatches(bare, gregexpr(mark, bare, fixed = TRUE)))
    if (!any(found > 0)) return(0)
    usual <- most_common(found[found > 0])
    mean(found == usual) + min(usual, 100) / 1000
  }, 0)
  if (all(scores == 0)) "," else names(scores)[which.max(scores)]
}

#' The decimal mark, from cells that can be read in one way only: "1,5", "0,648" and "1.250,5" prove the comma
#'
#' "1,250" proves nothing; where nothing else does, it is not guessed.
#' @section Errors: `unsere_error_input` where both readings are possible.
#' @noRd
find_decimal <- function(lines, delimiter, shown) {
  cells <- trimws(unlist(lapply(lines[nzchar(lines)], split_line, delimiter)))
  cells <- unique(sub("^[-+\u2212]", "", cells[grepl("^[-+\u2212]?[0-9][0-9.,]*$", cells)]))
  proves <- function(mark, other) {
    grouped <- sprintf("^[1-9][0-9]{0,2}([%s][0-9]{3})+$", mark)
    decimal <- sprintf("^([0-9]+|[1-9][0-9]{0,2}([%s][0-9]{3})+)[%s][0-9]+$", other, mark)
    sum(grepl(decimal, cells) & !grepl(grouped, cells))
  }
  comma <- proves(",", ".")
  point <- proves(".", ",")
  if (comma != point) return(if (comma > point) "," else ".")
  if (delimiter == ",") return(".")
  open <- cells[grepl("^[1-9][0-9]{0,2}([.][0-9]{3}|,[0-9]{3})$", cells)]
  if (length(open) && comma == 0) abort_both_readings(open[1], shown)
  "."
}

abort_both_readings <- function(cell, shown) {
  mark <- gsub("[0-9]", "", cell)
  other <- setdiff(c(",", "."), mark)
  large <- sub(mark, "", cell, fixed = TRUE)
  small <- sub(mark, ".", cell, fixed = TRUE)
  hint <- "Say which is the decimal mark: \"%s\" (--decimal %s) makes it %s, \"%s\" the other."
  abort_input(
    sprintf("%s: %s may be %s or %s, and no other cell says which.", file_name(shown), cell, large, small),
    sprintf(hint, other, other, large, mark)
  )
}
