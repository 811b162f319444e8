# Columns as numbers.


convert_column <- function(study, name, column, level) {
  if (level == "binary") return(binary_numbers(name, column))
  if (level == "nominal" && is.numeric(column)) abort_no_order(name)
  if (is.ordered(column) || is.numeric(column) || inherits(column, c("Date", "POSIXt"))) {
    return(list(values = as.double(column)))
  }
  if (mostly_numbers(column)) abort_text_cells(study, name, column)
  values <- unique(column[!is.na(column)])
  if (!length(values)) abort_empty(name)
  abort_input(
    sprintf("%s holds text (%s), and numbers are wanted here.", name, some_values(values)),
    text_advice(values)
  )
}

abort_no_order <- function(name) {
  abort_input(
    sprintf("%s has groups without an order, and no coefficient fits that.", name),
    "If they have one, say so by its level in a codebook; or use it as the group that splits the cases."
  )
}

text_advice <- function(values) {
  kind <- unread_kind(as.character(values))
  if (!is.null(kind)) return(kind$advice)
  if (length(values) <= 2) return(NULL)
  if (length(values) > 12) return("Many different words: names or free answers have no correlation.")
  paste(
    "Words with an order: write 1, 2, 3 ... for them in a copy. Groups without an order have no correlation:",
    "compare two of them, or use them to colour or split."
  )
}

abort_empty <- function(name) {
  abort_undefined(sprintf("%s has no value at all.", name), "Choose a variable that has some.")
}

abort_text_cells <- function(study, name, column) {
  abort_input(
    sprintf("%s has %s.", name, text_cells(column, file_rows(study))),
    "Correct these cells in a copy of the file, or declare them with missing_codes."
  )
}

binary_numbers <- function(name, column) {
  values <- sort_binary(unique(column[!is.na(column)]))
  if (length(values) > 2L) {
    abort_input(
      sprintf("%s is to be binary and has %d values (%s).", name, length(values), some_values(values)),
      "Declare the others with missing_codes, or give the variable another level."
    )
  }
  if (!length(values)) abort_empty(name)
  if (length(values) == 1L) {
    abort_undefined(
      sprintf("%s is \"%s\" in every case: the other group is empty.", name, values), "Choose a variable that varies."
    )
  }
  one <- values[2]
  list(values = as.double(column == one), zero = as.character(values[1]), one = as.character(one))
}

#' A variable as numbers, converted once
#'
#' @return A list: `values` (double), and of a binary variable `zero` and `one`, what counts as which.
#' @section Errors: `unsere_error_input` when it holds text; `unsere_error_undefined` when it has no value.
#' @noRd
study_numbers <- function(study, name) {
  column <- study_column(study, name)
  level <- level_of(study, name)
  known <- study$converted[[name]]
  if (!is.null(known) && known$level == level && identical(known$column, column)) return(known$numbers)
  numbers <- convert_column(study, name, column, level)
  if (is.environment(study$converted)) {
    assign(name, list(column = column, level = level, numbers = numbers), envir = study$converted)
  }
  numbers
}
