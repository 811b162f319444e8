# Tables whose variables stand in rows: times across and a variable a row, or one column that names what the next holds.

turnings <- c("rows", "never")

#' Such a table as cases and variables
#'
#' By itself it is turned where a column is headed as names of variables ("Indicator") and the rest leaves no doubt: times
#' across, or one column of values; and every case has each of them once.
#' @param table As the readers give it: `data`, `rows`, `decisions`, `decimal`.
#' @param turn `"rows"`: names of variables stand in rows; `"never"`; or `NULL`.
#' @return `table`, turned where it is one of these: with `units` of the variables where a column tells them.
#' @section Errors: `unsere_error_input` where it is to be turned and cannot be.
#' @noRd
turn_table <- function(table, turn, shown) {
  if (identical(turn, "never")) return(table)
  by_rows <- identical(turn, "rows")
  data <- table$data
  times <- times_across(names(data))
  if (length(times)) {
    names(data)[!nzchar(names(data))] <- " " # so that it can be asked for
    measure <- measure_column(unclass(data)[-times], by_rows)
    # Of one measure alone the times may be what is to be related.
    if (is.na(measure) || !by_rows && length(unique(data[[measure]])) < 2L) return(with_hint(table, data, times))
    long <- times_down(data, times, decimal_of(table))
  } else {
    long <- named_values(data, by_rows)
    measure <- if (!is.null(long)) long$measure
    if (is.null(measure)) {
      if (!by_rows) return(with_sideways_hint(table, data))
      if (may_name_variables(data)) return(cases_across(table, data))
      abort_input(
        problem("%s cannot be reshaped: no times across, no column that names the values.", file_name(shown)),
        "Leave it as it is (turn: never), or give it headings such as 2021, 2022, 2023."
      )
    }
  }
  turned <- spread_measures(long, measure)
  if (!is.null(turned$twice)) {
    if (!by_rows) return(table)
    abort_input(
      problem("%s cannot be reshaped: it has %s twice for one case.", file_name(shown), turned$twice),
      "Leave one of them out in a copy of the file."
    )
  }
  note <- if (length(times)) {
    template(
      paste(
        "reshaped to long format: %s to %s stand across, so that each row of %s is a variable (turn: never keeps",
        "the table as it is)"
      ),
      names(data)[times[1]], names(data)[times[length(times)]], column_called(measure)
    )
  } else {
    template("reshaped: %s names the variables (turn: never keeps the table as it is)", measure)
  }
  note_omitted <- if (length(turned$omitted)) template("omitted when reshaping: %s", toString(turned$omitted))
  table[c("data", "rows")] <- list(turned$data, seq_len(nrow(turned$data)))
  table$units <- c(table$units, turned$units)
  table$decisions <- c(table$decisions, note, note_omitted)
  table
}

column_called <- function(name) if (nzchar(trimws(name))) name else template("the column without a heading")

decimal_of <- function(table) or_default(table$decimal, ".")

# A table that has times across, but of what its rows tell is not sure: how it would be turned is told.
with_hint <- function(table, data, times) {
  keys <- names(data)[-times]
  if (length(keys) != 1L || nrow(data) < 2L || anyDuplicated(data[[keys]]) || anyNA(data[[keys]])) return(table)
  table$decisions <- c(table$decisions, turn = template(
    "%s to %s are times: with turn: rows (--turn rows) each row of %s is a variable over time",
    names(data)[times[1]], names(data)[times[length(times)]], column_called(keys)
  ))
  table
}

#' Whether each row may be a variable and each further column a case: the first column names each row, and all others are
#' of figures
#' @noRd
may_name_variables <- function(data) {
  first <- data[[1]]
  length(data) > 3L && nrow(data) >= 2L && is.character(first) && !anyNA(first) && all(nzchar(trimws(first))) &&
    !anyDuplicated(first) && all(vapply(unclass(data)[-1], function(column) {
    is.numeric(column) || isTRUE(mean(is_figure(as.character(column[!is_blank(column)]))) > 0.5)
  }, NA))
}

# Numbered cases stand across where their numbers run on, they are more than the rows, and the rows differ in size. The
# headings first, as looking at the cells of a large table takes a while.
with_sideways_hint <- function(table, data) {
  numbers <- suppressWarnings(as.numeric(sub("^\\D+", "", names(data)[-1])))
  stems <- unique(sub("[0-9]+$", "", names(data)[-1]))
  if (length(stems) > 1L || length(numbers) < 1.5 * nrow(data) || anyNA(numbers) || any(diff(numbers) != 1)) return(table)
  if (!all(vapply(unclass(data)[-1], is.numeric, NA)) || !may_name_variables(data)) return(table)
  values <- as.matrix(data[-1])
  sizes <- apply(abs(values), 1, stats::median, na.rm = TRUE)
  if (!isTRUE(max(sizes) > 5 * min(sizes))) return(table)
  table$decisions <- c(table$decisions, turn = template(
    "%s to %s may be cases: with turn: rows (--turn rows) each row of %s is a variable",
    names(data)[2], names(data)[length(data)], column_called(names(data)[1])
  ))
  table
}

#' A table whose columns are cases, with a case a row
#' @noRd
cases_across <- function(table, data) {
  decimal <- decimal_of(table)
  cells <- vapply(unclass(data)[-1], function(column) as_cells(column, decimal), character(nrow(data)))
  columns <- c(list(names(data)[-1]), lapply(seq_len(nrow(data)), function(row) unname(cells[row, ])))
  names(columns) <- make.unique(c(if ("case" %in% tolower(data[[1]])) "column" else "case", trimws(data[[1]])), sep = " ")
  table$data <- list2DF(columns, ncol(data) - 1L)
  table$rows <- seq_len(ncol(data) - 1L)
  table$decisions <- c(table$decisions, template(
    "reshaped: %s to %s are the cases, each row of %s a variable (turn: never keeps the table as it is)",
    names(data)[2], names(data)[length(data)], column_called(names(data)[1])
  ))
  table
}

#' The columns whose headings are times, of one kind and in order
#' @return Their places, three or more; else none.
#' @noRd
times_across <- function(names) {
  plain <- time_of_heading(names)
  dated <- which(grepl("[0-9]", plain) & nchar(plain) <= 24L)
  for (places in list(dated, dated[grepl("^[0-9]{4}", plain[dated])])) {
    if (length(places) < 3L) next
    read <- read_times(plain[places])
    if (!is.null(read) && read$step != "period" && !is.unsorted(read$at * sign(read$at[2] - read$at[1]), strictly = TRUE)) {
      return(places)
    }
  }
  integer()
}

# "2012", "X2012", "2012 [YR2012]", "Jahr 2012".
time_of_heading <- function(names) {
  plain <- trimws(gsub("_", " ", sub("\\s*[[(].*[])]$", "", names), fixed = TRUE))
  before <- "^(x|y|yr|year|jahr|ann\u00e9e|a\u00f1o|anno|jaar)[ ._]?(?=(19|20)[0-9]{2})"
  sub(before, "", plain, perl = TRUE, ignore.case = TRUE)
}

#' Times across as times down
#' @return A list: `keys` (the other columns, a row a value), `time`, `time_name`, `value`.
#' @noRd
times_down <- function(data, times, decimal) {
  columns <- unclass(data)[times]
  if (!all(vapply(columns, is.numeric, NA))) columns <- lapply(columns, as_cells, decimal = decimal)
  n <- nrow(data)
  labels <- time_of_heading(names(data)[times])
  keys <- lapply(unclass(data)[-times], function(column) rep(column, length(times)))
  step <- read_times(labels)$step
  if (all(grepl("^[0-9]{4}$", labels))) labels <- as.integer(labels)
  name <- if (tolower(step) %in% tolower(names(keys))) "time" else step
  list(keys = keys, time = rep(labels, each = n), time_name = name, value = unlist(columns, use.names = FALSE))
}

# Numbers as text with the mark that the file has.
as_cells <- function(column, decimal) {
  if (!is.numeric(column)) return(as.character(column))
  text <- ifelse(is.na(column), NA_character_, vapply(column, function(one) format(one, digits = 15), ""))
  if (decimal == ",") sub(".", ",", text, fixed = TRUE) else text
}

measure_words <- paste0(
  "^(indicator|variable|measure|measurement|metric|item|statistic|series|question|merkmal|indikator|kennzahl|",
  "kenngr\u00f6\u00dfe|messgr\u00f6\u00dfe|reihe|frage|indicateur|mesure|s\u00e9rie|indicador|medida|serie|",
  "indicatore|misura|maat)[ _.]?(name|label|code|id|bezeichnung|nom|nombre)?s?$"
)
value_words <- "^(obs[ _.]?)?(value|wert|valeur|valor|valore|waarde|figure|amount|answer|response|antwort|score)s?$"
code_heading <- "(code|id)s?$"

#' Which column names the variables
#' @param keys Columns along the values, `sure` whether it is known that one does.
#' @return Its name; `NA` where none is headed so and several might be meant.
#' @noRd
measure_column <- function(keys, sure = FALSE) {
  names <- names(keys)
  headed <- names[grepl(measure_words, tolower(names), perl = TRUE)]
  named <- headed[!grepl(code_heading, tolower(headed))]
  if (length(c(named, headed))) return(c(named, headed)[1])
  if (sure && length(names)) return(names[length(names)])
  NA_character_
}

#' A table that has one column of values and one that says of what
#' @return As [times_down()], `time` `NULL`, with `measure`; `NULL` where it is none.
#' @noRd
named_values <- function(data, requested) {
  names <- names(data)
  valued <- names[grepl(value_words, tolower(names), perl = TRUE)]
  figures <- Filter(function(name) is.numeric(data[[name]]) || mean(is_figure(utils::head(data[[name]], 50L))) > 0.5, valued)
  if (length(figures) != 1L || length(names) < 3L || length(names) > 12L) return(NULL)
  keys <- unclass(data)[setdiff(names, figures)]
  words <- keys[vapply(keys, is.character, NA)]
  measure <- measure_column(words)
  if (is.na(measure) && requested && length(words)) {
    # Not headed so: the column of the fewest words.
    measure <- names(words)[which.min(vapply(words, function(column) length(unique(column)), 0L))]
  }
  if (is.na(measure)) return(NULL)
  kinds <- length(unique(keys[[measure]]))
  if (kinds < 2L || kinds > 500L || anyNA(keys[[measure]])) return(NULL)
  list(keys = keys, time = NULL, value = data[[figures]], measure = measure)
}

#' A column a variable, a row a case
#'
#' Columns that tell the same of a variable wherever it stands (its code, its unit) do not part the cases; nor do remarks.
#' @return A list: `data`, `units`, `omitted` (columns that were left out), or `twice`, a variable that a case has twice.
#' @noRd
spread_measures <- function(long, measure) {
  of <- as.character(long$keys[[measure]])
  kinds <- unique(of[!is.na(of)])
  others <- setdiff(names(long$keys), measure)
  kind <- numbered(list(of))
  about <- Filter(function(name) !parts_further(long$keys[name], kind), others)
  keys <- long$keys[setdiff(others, about)]
  if (!is.null(long$time)) keys <- c(keys, stats::setNames(list(long$time), long$time_name))
  omitted <- character()
  for (name in rev(setdiff(names(keys), long$time_name))) {
    rest <- numbered(keys[setdiff(names(keys), name)], length(of))
    if (length(keys) < 2L || anyDuplicated(numbered(list(rest, kind))) || !parts_further(keys[name], rest)) next
    keys[[name]] <- NULL
    omitted <- c(omitted, name)
  }
  key <- numbered(keys, length(of))
  double <- which(duplicated(numbered(list(key, kind))) & !is.na(of))
  if (length(double)) return(list(twice = of[double[1]]))
  cases <- unique(key[!is.na(of)])
  first <- match(cases, key)
  columns <- lapply(stats::setNames(nm = kinds), function(kind) {
    at <- which(of == kind)
    long$value[at][match(cases, key[at])]
  })
  units <- units_of_measures(long$keys[about], of, kinds)
  data <- c(lapply(keys, `[`, first), columns)
  names(data) <- make.unique(names(data), sep = " ")
  list(
    data = list2DF(data, length(cases)), units = units$units, omitted = c(setdiff(about, units$from), omitted)
  )
}

# Rows that are alike in some columns have the same number; one for all where there is no column.
numbered <- function(columns, rows = length(columns[[1]])) {
  key <- rep(1, rows)
  for (column in columns) {
    part <- match(column, unique(column))
    key <- (key - 1) * max(part) + part
    key <- match(key, unique(key))
  }
  key
}

# Whether columns differ among rows of one number.
parts_further <- function(columns, number) max(numbered(c(list(number), unname(columns)))) > max(number)

# A column beside the names of variables that holds a unit of each.
units_of_measures <- function(about, of, kinds) {
  unit_words <- "^(unit|einheit|unit[ _.]?of[ _.]?measure|unit\u00e9|unidad|unit\u00e0|eenheid)s?$"
  headed <- grep(unit_words, tolower(names(about)))
  if (!length(headed)) return(list(units = NULL, from = character()))
  units <- trimws(as.character(about[[headed[1]]][match(kinds, of)]))
  known <- !is.na(units) & nzchar(units)
  list(units = as.list(stats::setNames(units[known], kinds[known])), from = names(about)[headed[1]])
}
