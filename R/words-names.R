# What a variable is called in prose, on an axis and in a table: its label, or its name where it has none.

label_of <- function(variables, name) {
  entry <- variables$label[match(name, variables$variable)]
  ifelse(is.na(entry), name, entry)
}

unit_of <- function(variables, name) variables$unit[match(name, variables$variable)]

#' "Label (unit)"
#' @noRd
heading_of <- function(variables, name) {
  unit <- unit_of(variables, name)
  ifelse(is.na(unit), label_of(variables, name), sprintf("%s (%s)", label_of(variables, name), unit))
}

#' A label inside a sentence: small first letter, unless the word is an abbreviation or a plain variable name
#' @noRd
inside_of <- function(variables, name) {
  label <- label_of(variables, name)
  plain <- grepl("^[A-Z](-?)[a-z]", label)
  ifelse(plain, paste0(tolower(substr(label, 1, 1)), substring(label, 2)), label)
}

#' "additional hour": the unit of a variable as one of it
#' @noRd
unit_or_one <- function(variables, name) {
  unit <- unit_of(variables, name)
  if (is.na(unit)) return("unit")
  # "for each additional year", though the axis reads "(years)"
  if (grepl("^[a-z]{3,}s$", unit)) sub("s$", "", unit) else unit
}

unit_after <- function(variables, name) {
  unit <- unit_of(variables, name)
  if (is.na(unit)) "" else paste0(" ", unit)
}

shorten <- function(text, room) ifelse(nchar(text, "width") > room, paste0(strtrim(text, room - 1L), "~"), text)
