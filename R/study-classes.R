# The classes that cases come in, and the groups that they fall into, as the study's columns hold them.

#' Columns that may be classes that cases come in: of groups, declared, of text or numbered, with several cases in each
#' @return Of each column the class of every case as a whole number from 1 on.
#' @noRd
class_columns <- function(study) {
  measures <- names_with(study, "measure")
  numbered <- Filter(function(name) is_label(name, study_column(study, name), group_words), measures)
  names <- unique(c(
    role_variable(study, "group"), names_with(study, "group"), names_with(study, "measure", "nominal"), numbered,
    unit_columns(study)
  ))
  columns <- Filter(function(values) {
    kinds <- length(unique(utils::head(values[!is.na(values)], 20000L)))
    kinds >= 5L && kinds <= length(values) / 2
  }, lapply(stats::setNames(names, names), function(name) as.character(study_column(study, name))))
  lapply(columns, function(values) match(values, unique(values[!is.na(values)])))
}

#' The periods in which cases come several at a time, each as the place of every case's period in their order
#' @param time The name of the time, or `NULL`.
#' @return A list of one, by its name, or none.
#' @noRd
period_columns <- function(study, time) {
  if (is.null(time)) return(list())
  values <- study_column(study, time)
  kinds <- unique(values[!is.na(values)])
  if (length(kinds) < 5L || length(kinds) > length(values) / 2) return(list())
  read <- read_times(kinds)
  kinds <- if (is.null(read)) sort(kinds) else kinds[order(read$at)]
  stats::setNames(list(match(values, kinds)), time)
}

#' Whole numbers that name units which come several times, by whatever name: in blocks, or each about as often, and another
#' measure has one value in each of them and goes up and down from one unit to the next
#' @return Names.
#' @noRd
unit_columns <- function(study) {
  names <- names_with(study, "measure", "numeric")
  columns <- lapply(stats::setNames(names, names), function(name) utils::head(study_column(study, name), 20000L))
  columns <- Filter(is.numeric, columns)
  may_name <- vapply(columns, function(v) {
    kinds <- length(unique(v))
    kinds >= 5L && kinds <= length(v) / 2 && names_units(v)
  }, NA)
  Filter(function(name) {
    unit <- columns[[name]]
    first <- match(unit, unit)
    any(vapply(columns[names(columns) != name], function(v) {
      is_measure_of_units(v, unit, first) && !(all(v == round(v), na.rm = TRUE) && room_between(v) <= room_between(unit))
    }, NA))
  }, names(columns)[may_name])
}

# Of two such columns the one whose numbers lie closer together names the units.
room_between <- function(v) diff(range(v, na.rm = TRUE)) / length(unique(v))

#' A measure that units have, added to each of their cases: nearly as many values as units, in no order along their numbers
#' @param first Of each case the place of the first of its unit.
#' @noRd
is_measure_of_units <- function(v, unit, first) {
  some <- seq_len(min(length(v), 200L))
  if (!identical(v[some], v[first[some]]) || !identical(v, v[first])) return(FALSE)
  of_units <- v[match(sort(unique(unit)), unit)]
  of_units <- of_units[!is.na(of_units)]
  steps <- sign(diff(of_units))
  length(unique(of_units)) >= 0.6 * length(unique(unit)) && sum(diff(steps) != 0) >= length(of_units) / 4
}

#' Measures whose own values mark the classes that they were measured of, each as the class of every case
#' @noRd
block_columns <- function(study) {
  names <- names_with(study, "measure", "numeric")
  columns <- lapply(stats::setNames(names, names), function(name) {
    values <- study_column(study, name)
    first <- utils::head(values, 2000L)
    if (is.numeric(values) && length(unique(first)) <= length(first) / 2) blocks_of_values(as.double(values))
  })
  Filter(Negate(is.null), columns)
}

#' Columns of words, or of two values, that are not declared as groups and yet may split the cases
#' @noRd
split_columns <- function(study, most = 12L) {
  names <- setdiff(names_with(study, "measure", c("nominal", "binary")), role_variable(study, "group"))
  columns <- lapply(stats::setNames(names, names), function(name) as.character(study_column(study, name)))
  utils::head(Filter(function(values) {
    kinds <- length(unique(values[!is.na(values)]))
    kinds >= 2L && kinds <= min(500L, length(values) / 5)
  }, columns), most)
}
