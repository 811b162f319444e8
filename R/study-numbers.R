# Columns as numbers.

convert_column <- function(study, name, column, level) {
  if (level == "binary") return(binary_numbers(name, column))
  if (level == "nominal" && is.numeric(column)) abort_no_order(name)
  if (inherits(column, c("Date", "POSIXt"))) return(days_since_first(column, name))
  if (is.ordered(column) || is.numeric(column)) {
    steps <- if (level == "ordinal") steps_of(column, book_entries(study, name)$values, name)
    return(c(list(values = as.double(column)), if (!is.null(steps)) list(steps = steps)))
  }
  if (mostly_numbers(column)) abort_text_cells(study, name, column)
  values <- unique(column[!is.na(column)])
  if (!length(values)) abort_empty(name)
  abort_input(
    problem("%s contains text (%s), but numbers are needed here.", name, some_values(values)),
    text_advice(values, name, suggested_order(study, name))
  )
}

#' Dates as days since the first of them
#' @noRd
days_since_first <- function(column, name) {
  days <- as.double(column) / if (inherits(column, "POSIXt")) 86400 else 1
  if (all(is.na(days))) abort_empty(name)
  first <- floor(min(days, na.rm = TRUE))
  list(values = days - first, unit = sprintf("days since %s", format(as.Date(first, origin = "1970-01-01"))))
}

#' The words along a scale: where each stands, and what it says
#' @noRd
steps_of <- function(column, values, name) {
  if (is.ordered(column)) return(list(at = seq_along(levels(column)), labels = levels(column)))
  steps <- if (!is.na(values)) parse_order(values, name)
  if (is.null(steps$codes)) return(NULL)
  codes <- format_code(steps$codes)
  list(at = steps$codes, labels = ifelse(steps$order == codes, codes, sprintf("%s (%s)", codes, steps$order)))
}

text_advice <- function(values, name, order) {
  kind <- unread_kind(as.character(values))
  if (!is.null(kind)) return(kind$advice)
  if (length(values) <= 2) return(NULL)
  if (length(values) > 12) return("Many different words: names or free answers have no correlation.")
  if (is.null(order)) {
    return(paste(
      "If they have an order, say it, lowest first, in the form values: \"low < middle < high\".",
      "Groups without one can split the cases."
    ))
  }
  sprintf(
    paste(
      "If they have an order, say it, lowest first: values: \"%s\" (--values \"%s=...\").",
      "Groups without one can split the cases."
    ), order, name
  )
}

abort_empty <- function(name) {
  abort_undefined(problem("%s has no value at all.", name), "Choose a variable that has some.")
}

abort_text_cells <- function(study, name, column) {
  abort_input(
    problem("%s has %s.", name, in_english(text_cells(column, file_rows(study)))),
    "Correct these cells in a copy of the file, or declare them with missing_codes."
  )
}

binary_numbers <- function(name, column) {
  values <- sort_binary(unique(column[!is.na(column)]))
  if (length(values) > 2L) {
    abort_input(
      problem("%s should be binary and has %d values (%s).", name, length(values), some_values(values)),
      "Declare the others with missing_codes, or give the variable another level."
    )
  }
  if (!length(values)) abort_empty(name)
  if (length(values) == 1L) {
    abort_undefined(
      problem("%s is \"%s\" in every case: the other group is empty.", name, values), "Choose a variable that varies."
    )
  }
  one <- values[2]
  list(values = as.double(column == one), zero = as.character(values[1]), one = as.character(one))
}

#' A variable as numbers, converted once
#'
#' @return A list: `values` (double), and of a binary variable `zero` and `one`, what counts as which.
#' @section Errors: `unsere_error_input` if it holds text; `unsere_error_undefined` if it has no value.
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

#' The rows of a study that repeat an earlier one, looked for once and not for every pair
#' @noRd
study_repeats <- function(study) {
  material <- list(data = study_columns(study, study_names(study)), role = study_book(study)$role)
  kept_with_study(study, "repeats", material, function() repeated_rows(material$data, study_book(study)))
}

#' The values that look like codes, by variable
#' @noRd
suspicious_columns <- function(study) {
  columns <- as.list(study_columns(study, ordered_measures(study)))
  kept_with_study(study, "suspicious", columns, function() find_suspicious(columns))
}

find_suspicious <- function(columns) {
  suspicions <- Filter(Negate(is.null), Map(suspicious_codes, columns, names(columns)))
  shared <- shared_codes(columns[setdiff(names(columns), names(suspicions))])
  c(suspicions, shared)[intersect(names(columns), c(names(suspicions), names(shared)))]
}

#' What is found once for a study and kept with it, as long as what it was found of stays the same
#' @noRd
kept_with_study <- function(study, place, material, find) {
  place <- paste("\r", place) # no variable is named so
  known <- study$converted[[place]]
  if (!is.null(known) && identical(known$material, material)) return(known$result)
  result <- find()
  if (is.environment(study$converted)) assign(place, list(material = material, result = result), envir = study$converted)
  result
}
