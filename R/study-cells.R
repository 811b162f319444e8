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
