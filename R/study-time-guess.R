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
  # Five numbers or more that are no labels count something: "schools" of a town.
  labels <- function(column) {
    length(unique(column[!is.na(column)])) < 5L && !any(column == 0, na.rm = TRUE) || names_units(column)
  }
  open <- open[vapply(open, function(name) {
    is.character(data[[name]]) || is_named(name, group_words) && labels(data[[name]])
  }, NA)]
  group <- if (!any(book$role == "group")) Filter(function(name) looks_like_group(data[[name]]), open)
  measures <- book$variable[book$role == "measure"]
  weight <- if (!any(book$role == "weight")) Find(function(name) looks_like_weight(name, data[[name]]), measures)
  c(
    if (!is.null(time)) role_sentence(time, template("the time"), "time"),
    if (length(group)) role_sentence(group[1], template("a group"), "group"),
    if (!is.null(weight)) role_sentence(weight, template("a case weight"), "weight"),
    unlist(unname(Map(plausible_sentence, plausible_groups(measures))), recursive = FALSE)
  )
}

plausible_sentence <- function(values) {
  shown <- if (length(values) > 3L) c(values[1:2], "...", values[length(values)]) else values
  c(role = template(
    "%s appear to be plausible values of one score; declare them as one (in a brief, plausible: {%s: [%s]})",
    toString(shown), score_of_plausible(values[1]), toString(shown)
  ))
}

# Called as a weight of cases is, and no kilograms: positive, with decimals; "weight" alone has the mean 1.
looks_like_weight <- function(name, column) {
  if (!is.numeric(column) || anyNA(column) || any(column < 0) || !any(column != round(column))) return(FALSE)
  name <- tolower(name)
  sure <- paste0(
    "(^|[_ .-])(\\w*wgh?t|w_?f?stuwt|[pdafh]?sp?weight|",
    "(design|survey|sampling|sample|case|student|house|senate|person|final|probability|post.?strat\\w*|",
    "analysis)[_ .-]?weights?|",
    "gewichtung\\w*|\\w+gewicht|ponderation|hochrechnung\\w*)([_ .-]|$)"
  )
  plain <- "^(weights?|wt|w|gewicht|poids|peso)$"
  grepl(sure, name, perl = TRUE) && !grepl("birth|body|k\u00f6rper|geburts", name) ||
    grepl(plain, name) && abs(mean(column) - 1) < 0.05 && min(column) > 0
}

role_sentence <- function(name, like, role) {
  c(role = template("%s appears to be %s; set its role to %s (in a codebook or a brief)", name, like, role))
}

looks_like_group <- function(column) {
  if (is.numeric(column) && any(column != round(column), na.rm = TRUE)) return(FALSE)
  kinds <- length(unique(column[!is.na(column)]))
  kinds >= 2L && kinds <= length(column) / 3
}
