# What a cell of text looks like: blank, a figure, a word.

is_blank <- function(cells) is.na(cells) | !nzchar(trimws(cells))

most_common <- function(values) {
  counts <- table(values)
  as.integer(names(counts)[which.max(counts)])
}

is_wordy <- function(cells) {
  cells <- cells[!is_blank(cells)]
  length(cells) > 0L && mean(!is_figure(cells)) > 0.5
}

# Numbers, dates and times in all their spellings, and marks that stand for a blank: what cases hold and headings do not.
is_figure <- function(cells) {
  cells <- trimws(cells)
  grepl("^[-+\u2212]?[$\u20ac\u00a3\u00a5]? ?[0-9.,][0-9., '/:-]*([eE][-+]?[0-9]+)? ?%?$", cells) | cells %in% blank_marks
}

#' Text as a delimited file may hold it: what a spreadsheet would take for a formula is led by an apostrophe, which it takes
#' for the sign of text
#'
#' Such is what begins with an equals sign, a plus, a minus, an at sign (of whatever width), a tab or a line's end, unless
#' all of it is a number.
#' @noRd
guard_text <- function(text) {
  one <- "[-+]?([0-9]+[.,]?[0-9]*|[.,][0-9]+)([eE][-+]?[0-9]+)?"
  number <- grepl(sprintf("^%1$s( ?%%|( ?; ?| to )%1$s)*$", one), text)
  formula <- grepl("^[[:space:]]*[-=+@\uff1d\uff0b\uff0d\uff20]", text) | grepl("^[\t\r\n]", text)
  at <- which(formula & !number)
  text[at] <- paste0("'", text[at])
  text
}

# As it was before.
unguard_text <- function(text) sub("^'(?=[[:space:]]*[-=+@\uff1d\uff0b\uff0d\uff20]|[\t\r\n])", "", text, perl = TRUE)
