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

#' The heading of an axis: a long question is shortened at a word
#' @noRd
axis_heading <- function(variables, name, room = 64L) {
  unit <- unit_of(variables, name)
  label <- shorten_at_word(label_of(variables, name), room)
  ifelse(is.na(unit), label, sprintf("%s (%s)", label, unit))
}

shorten_at_word <- function(text, room) {
  vapply(text, function(one) {
    if (is.na(one) || nchar(one, "width") <= room) return(one)
    cut <- strtrim(one, room - 1L)
    short <- sub("\\s+\\S*$", "", cut)
    paste0(sub("[,;:. ]+$", "", if (nchar(short) < room / 2) cut else short), if (writes_utf8()) "\u2026" else "...")
  }, "", USE.NAMES = FALSE)
}

#' A label inside a sentence: small first letter, unless it is a name, an abbreviation or a question
#' @noRd
inside_of <- function(variables, name) {
  label <- as.character(label_of(variables, name))
  # A question or a statement stays as it was asked, and is set off.
  asked <- grepl("[?!.]$|^(I|My|We|Our|Ich|Je|Yo) |^(I|I'm) ", label) | lengths(strsplit(label, " ", fixed = TRUE)) > 7L
  ifelse(asked, sprintf("\"%s\"", label), small_inside(label, label == name))
}

#' "hours studied"; "IQ", "Anzahl Kinder" (the noun says in whose tongue) and a name of one word as they are
#' @noRd
small_inside <- function(label, is_name = FALSE) {
  keeps <- grepl("\\s[^[:alnum:]]*[[:upper:]][[:lower:]]", label) | (is_name & !grepl(" ", label, fixed = TRUE))
  small <- language_in_use() == "en" & grepl("^[A-Z]-?[a-z]", label) & !keeps
  ifelse(small, paste0(tolower(substr(label, 1, 1)), substring(label, 2)), label)
}

#' "additional hour": the unit of a variable as one of it
#' @noRd
unit_or_one <- function(variables, name) {
  unit <- unit_of(variables, name)
  if (is.na(unit)) return(say("unit"))
  # "for each additional year", though the axis reads "(years)"
  if (grepl("^[a-z]{3,}s$", unit)) sub("s$", "", unit) else unit
}

unit_after <- function(variables, name) {
  unit <- unit_of(variables, name)
  if (is.na(unit)) "" else paste0(" ", unit)
}

#' Texts cut to a width; those that would then look alike lose their middle, not their end
#' @noRd
shorten <- function(text, room) {
  long <- nchar(text, "width") > room
  if (!any(long)) return(text)
  short <- ifelse(long, paste0(strtrim(text, room - 1L), "~"), text)
  kinds <- !duplicated(text)
  alike <- short %in% short[kinds][duplicated(short[kinds])] & long
  if (any(alike)) {
    tail <- (room - 1L) %/% 2L
    ends <- vapply(text[alike], function(one) substring(one, nchar(one) - tail + 1L), "")
    short[alike] <- paste0(strtrim(text[alike], pmax(room - 1L - nchar(ends, "width"), 1L)), "~", ends)
  }
  short
}
