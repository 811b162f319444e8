# Headings over two rows: codes and the questions they stand for, questions and what is asked under each, units. Which is
# which is found from the cells, and said.

#' Names and labels where the table has more than one row of headings
#'
#' @param headings The row of headings; `above` the row above it with as many cells, or `NULL`; `below` the first rows under
#'   it, a character matrix.
#' @return A list: `names`, `labels` (`NA` where there is none), `units`, `eaten` (how many rows below are no cases),
#'   `from_above` (whether the row above is one of the headings), `notes`.
#' @noRd
read_heading_rows <- function(headings, above, below) {
  none <- rep(NA_character_, length(headings))
  headings_read <- list(names = headings, labels = none, units = none, eaten = 0L, from_above = FALSE, notes = NULL)
  if (is_second_heading(above, rbind(headings, below))) {
    headings_read <- utils::modifyList(headings_read, join_headings(filled_on(above), headings))
    headings_read[c("from_above", "notes")] <- list(TRUE, joined_sentence())
  }
  machine <- 0L
  repeat {
    marks <- rows_for_machines(below)
    machine <- machine + marks
    below <- below[seq_len(nrow(below)) > marks, , drop = FALSE]
    if (headings_read$eaten == 2L || !nrow(below)) break
    if (!is_second_heading(below[1, ], below[-1, , drop = FALSE], headings_read$names)) break
    headings_read <- with_second_row(headings_read, below[1, ])
    below <- below[-1, , drop = FALSE]
  }
  headings_read$eaten <- headings_read$eaten + machine
  headings_read$notes <- c(headings_read$notes, machine_sentence(machine))
  headings_read
}

with_second_row <- function(headings, second) {
  second <- trimws(second)
  second[is_blank(second)] <- ""
  units <- if (are_units(second[nzchar(second)])) {
    list(
      units = ifelse(nzchar(second), sub("^[[(](.*)[])]$", "\\1", second), NA),
      notes = template("units read from the row under the headings")
    )
  } else {
    tell_headings(headings$names, second)
  }
  units$eaten <- headings$eaten + 1L
  units$notes <- c(headings$notes, units$notes)
  utils::modifyList(headings, units)
}

# Most are known, and the others are as short, in brackets or not: "(m)", "degC", "PSU".
are_units <- function(cells) {
  known <- vapply(sub("^[[(](.*)[])]$", "\\1", cells), is_unit, NA)
  mean(known) >= 0.5 && all(known | nchar(cells) <= 8L & grepl("^\\S+$", cells) & !grepl("[?:_]", cells))
}

joined_sentence <- function() template("two rows of headings: questions, and under them what each asks")

machine_sentence <- function(rows) {
  if (rows) template("%s of machine codes under the headings skipped", counted(rows, "row"))
}

# Rows in which every cell stands in braces or square brackets speak to programs.
rows_for_machines <- function(below) {
  count <- 0L
  while (count < nrow(below)) {
    cells <- trimws(below[count + 1L, ])
    cells <- cells[!is_blank(cells)]
    if (!length(cells) || !all(grepl("^[{].*[}]$", cells))) break
    count <- count + 1L
  }
  count
}

#' Whether a row of words belongs to the headings: it stands over figures, or says what no case says
#' @noRd
is_second_heading <- function(row, below, headings = NULL) {
  if (is.null(row) || nrow(below) < 3L) return(FALSE)
  row <- trimws(row)
  given <- which(!is_blank(row))
  if (length(given) < 2L || any(is_figure(row[given]))) return(FALSE)
  below <- trimws(below)
  if (is.null(headings)) {
    # A title over the headings fills one cell or two; questions stand over several columns, or over most.
    below <- below[-1, , drop = FALSE]
    if (length(given) < 0.3 * length(row)) return(FALSE)
  }
  seen <- vapply(given, function(k) row[k] %in% below[, k], NA)
  # An option stands both over its column and in it.
  single <- vapply(given, function(k) length(unique(below[!is_blank(below[, k]), k])) <= 1L, NA)
  if (any(seen & !single)) return(FALSE)
  # What stands where the row above is blank is what its question asks.
  open <- if (!is.null(headings)) which(is_blank(headings))
  if (length(open) >= 2L && mean(open %in% given) >= 0.8) return(TRUE)
  over_figures <- sum(vapply(given, figures_in, NA, below = below))
  # Above codes a question reaches over the blank cells beside it; a title stands in the first cell.
  reaches <- is.null(headings) && any(is_blank(row)[pmin(given + 1L, length(row))])
  if (reaches && (given[1] > 1L || any(grepl("?", row[given],
    fixed = TRUE
  ))) && over_figures >= length(given) / 2) return(TRUE)
  # A case that lacks its figures says so: in the same word again, or in one that is known for it.
  units <- all(vapply(row[given], is_unit, NA))
  lacking <- !units && (anyDuplicated(row[given]) > 0L || any(is_apart(bare_words(row[given]))))
  of_figures <- sum(vapply(seq_along(row), figures_in, NA, below = below))
  if (!lacking && over_figures >= 2L && over_figures >= of_figures / 2) return(TRUE)
  if (over_figures == 1L && length(given) > 1L && units) return(TRUE)
  # Among words alone a row is a heading where nearly every cell asks, at more length than its heading and any case.
  if (lacking || length(given) < 3L || length(given) < 0.8 * length(row)) return(FALSE)
  longer <- mean(nchar(row[given])) >= 1.5 * mean(nchar(below[!is_blank(below)])) &&
    (is.null(headings) || mean(nchar(row[given])) > mean(nchar(headings[given])))
  asks <- mean(grepl("[?:]|\\s\\S+\\s", row[given]))
  repeats <- vapply(given, function(k) {
    cells <- below[!is_blank(below[, k]), k]
    length(cells) > 0L && length(unique(cells)) <= 0.7 * length(cells)
  }, NA)
  longer && asks >= 0.7 && mean(repeats) >= 0.5
}

figures_in <- function(column, below) {
  cells <- below[!is_blank(below[, column]), column]
  length(cells) > 0L && mean(is_figure(cells)) >= 0.9
}

#' Of two rows of headings which has the names and which the labels
#' @noRd
tell_headings <- function(first, second) {
  filled <- filled_on(first)
  if (any(!nzchar(trimws(first))) || anyDuplicated(first[nzchar(first)])) {
    return(c(join_headings(filled, second), list(notes = joined_sentence())))
  }
  like_codes <- function(words) all(grepl("^[[:alpha:]_.][[:alnum:]_.]{0,23}$", words)) && !anyDuplicated(words)
  if (!like_codes(first) && all(nzchar(second)) && like_codes(second)) {
    return(list(
      names = second, labels = first,
      notes = template("two rows of headings: questions, kept as labels, and codes as names")
    ))
  }
  list(
    names = first, labels = ifelse(nzchar(second) & second != first, second, NA),
    notes = template("two rows of headings: codes as names, and questions, kept as labels")
  )
}

# A question reaches over the blank cells beside it.
filled_on <- function(cells) {
  cells <- trimws(cells)
  cells[is_blank(cells)] <- ""
  at <- cummax(ifelse(nzchar(cells), seq_along(cells), 0L))
  ifelse(at > 0L, cells[pmax(at, 1L)], "")
}

join_headings <- function(question, under) {
  under <- trimws(under)
  under[is_blank(under)] <- ""
  lone <- !question %in% question[duplicated(question)]
  list(names = ifelse(
    !nzchar(question), under, ifelse(nzchar(under) & !(lone & under == question), paste0(question, ": ", under), question)
  ))
}

#' Headings of which none is there twice: what comes again is numbered
#' @return A list: `names`, `notes`.
#' @noRd
unlike_headings <- function(names) {
  again <- duplicated(names) & nzchar(names)
  if (!any(again)) return(list(names = names))
  notes <- list()
  for (at in which(again)) {
    number <- 2L
    while (paste(names[at], number) %in% names) number <- number + 1L
    renamed <- paste(names[at], number)
    notes <- c(notes, template("\"%s\" (column %d) is called \"%s\"", names[at], at, renamed))
    names[at] <- renamed
  }
  more <- if (length(notes) > 4L) template("; and %d more", length(notes) - 4L) else ""
  list(names = names, notes = template("headings that come twice: %s%s", shown(utils::head(notes, 4), "parts", "; "), more))
}

above_sentence <- function(row, from_above) {
  above <- row - 1L - from_above
  if (above > 0L) template("headings found in row %d; %s above skipped", row, counted(above, "row"))
}

#' A table with what its headings say beside the names
#' @param headings `labels` and `units`, one for each of `names`, or `NULL`.
#' @noRd
with_heading_labels <- function(table, headings, names) {
  if (is.null(headings)) return(table)
  for (field in c("labels", "units")) {
    known <- !is.na(headings[[field]]) & names %in% names(table$data)
    if (any(known)) table[[field]] <- stats::setNames(as.list(headings[[field]][known]), names[known])
  }
  table
}
