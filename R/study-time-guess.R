# What a file itself suggests a variable is for: told where the data are looked at, and taken up by one line of a codebook.

#' The variable that is the time, or looks like it where none is declared, and what looks like the units that have it
#'
#' By its name, and by values that can be read as times and come once, or once in each unit.
#' @return `NULL`, or a list: `time` and `unit` (or `NULL`), their names.
#' @noRd
guess_time <- function(data, book) {
  if (nrow(data) < 8L) return(NULL)
  declared <- book$variable[book$role == "time"]
  if (length(declared)) {
    values <- data[[declared[1]]]
    return(list(time = declared[1], unit = if (anyDuplicated(values)) guess_units(values, data, book, declared)))
  }
  measures <- book$variable[book$role == "measure"]
  for (name in measures[named_like(measures, time_words)]) {
    values <- data[[name]]
    if (anyNA(values)) next
    kinds <- unique(values)
    once <- length(kinds) == length(values)
    counted <- is.numeric(values) && if (once) is_running(sort(kinds)) else all(diff(sort(kinds)) == 1)
    read <- if (!is.numeric(values) || all_years(values) || counted) read_times(kinds)
    if (is.null(read) || anyNA(read$at)) next
    if (once) return(list(time = name))
    unit <- guess_units(values, data, book, name)
    if (!is.null(unit)) return(list(time = name, unit = unit))
  }
  NULL
}

# The group that is declared, where it is one, else what is named like groups or persons, else a column of words.
guess_units <- function(at, data, book, time) {
  declared <- book$variable[book$role == "group"]
  units <- if (length(declared)) units_of_times(at, as.list(data[declared]), declared)
  if (!is.null(units)) return(units)
  open <- setdiff(book$variable[book$role %in% c("measure", "case") & book$level != "binary"], time)
  named <- open[named_like(open, c(group_words, person_words, code_words))]
  units_of_times(at, as.list(data[open]), named)
}

#' What is said of variables that look like more than a measure
#' @noRd
role_sentences <- function(data, book) {
  time <- if (!any(book$role == "time")) guess_time(data, book)$time
  open <- book$role == "measure" & is.na(book$values) & !book$variable %in% time
  open <- book$variable[open & named_like(book$variable, group_words)]
  # Numbers need a heading that says nothing else: "class", but not "times of classes" or "class size".
  open <- open[vapply(open, function(name) is.character(data[[name]]) || is_named(name, group_words), NA)]
  group <- if (!any(book$role == "group")) Filter(function(name) looks_like_group(data[[name]]), open)
  c(
    if (!is.null(time)) role_sentence(time, template("the time"), "time"),
    if (length(group)) role_sentence(group[1], template("a group"), "group")
  )
}

role_sentence <- function(name, like, role) {
  c(role = template("%s appears to be %s; set its role to %s (in a codebook or a brief)", name, like, role))
}

looks_like_group <- function(column) {
  if (is.numeric(column) && any(column != round(column), na.rm = TRUE)) return(FALSE)
  kinds <- length(unique(column[!is.na(column)]))
  kinds >= 2L && kinds <= length(column) / 3
}
