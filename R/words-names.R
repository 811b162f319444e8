# What a variable is called in prose, on an axis and in a table.

label_of <- function(variables, name) display_label(variables, name)

#' The label as it was given, a whole question too
#' @noRd
whole_label_of <- function(variables, name) {
  label <- variables$label[match(name, variables$variable)]
  ifelse(is.na(label), name, label)
}

#' The whole questions of variables that go by a short label, named by it
#' @noRd
whole_questions <- function(variables, name) {
  at <- unique(match(name, variables$variable))
  at <- if (is.null(variables$short)) integer() else at[!is.na(variables$short[at])]
  stats::setNames(whole_label_of(variables, variables$variable[at]), variables$short[at])
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

#' A label inside a sentence: a small first letter where it begins with an ordinary word; a question or a statement stays as
#' it was asked, set off by marks
#' @noRd
inside_of <- function(variables, name) {
  label <- as.character(label_of(variables, name))
  asks <- grepl("[?!.\u2026]$", label) | lengths(strsplit(label, " ", fixed = TRUE)) > 7L
  states <- grepl(" ", label, fixed = TRUE) & speaks_as_person(label)
  ifelse(asks | states, sprintf(say("\"%s\""), label), small_inside(label, label == name))
}

#' A label inside a title, with no more than some letters of it
#' @noRd
title_label <- function(variables, name, room = 56L) {
  at <- match(name, variables$variable)
  label <- label_of(variables, name)
  if (nchar(label, "width") > room) variables$short[at] <- shorten_at_word(label, room)
  inside_of(variables, name)
}

#' A text at the beginning of a sentence: with a capital, unless it begins with the bare name of a variable
#' @noRd
begin <- function(text, variables) {
  bare <- variables$variable[label_of(variables, variables$variable) == variables$variable]
  bare <- bare[!is.na(bare) & !grepl(" ", bare, fixed = TRUE)]
  if (!length(bare)) return(capital(text))
  named <- vapply(text, function(one) {
    any(startsWith(one, bare) & !grepl("^[[:alnum:]_]", substring(one, nchar(bare) + 1L)))
  }, NA, USE.NAMES = FALSE)
  ifelse(named, text, capital(text))
}

#' "hours studied"; "IQ", "Rosenberg scale", "Anzahl Kinder" (the noun says in whose tongue) and a bare name as they are
#' @noRd
small_inside <- function(label, is_name = FALSE) {
  keeps <- grepl("\\s[^[:alnum:]]*[[:upper:]][[:lower:]]", label) | (is_name & !grepl(" ", label, fixed = TRUE))
  small <- language_in_use() == "en" & grepl("^[A-Z]-?[a-z]", label) & !keeps & begins_ordinary(label)
  ifelse(small, paste0(tolower(substr(label, 1, 1)), substring(label, 2)), label)
}

known_lists <- new.env(parent = emptyenv())

#' The words of a list in inst/words, read once: plain text, as every sentence asks for them
#' @noRd
listed_words <- function(name) {
  if (is.null(known_lists[[name]])) {
    path <- system.file("words", paste0(name, ".txt"), package = "unsere", mustWork = TRUE)
    known_lists[[name]] <- unlist(strsplit(readLines(path, encoding = "UTF-8"), " ", fixed = TRUE))
  }
  known_lists[[name]]
}

#' Whether a label begins with a word that is no name: one of those in inst/words/ordinary.txt, or one that ends as nouns of
#' measures do
#' @noRd
begins_ordinary <- function(labels) {
  first <- sub("^[^[:alpha:]]*([[:alpha:]]+).*$", "\\1", tolower(labels))
  endings <- "(tion|sion|ment|ness|ability|ibility|ivity|iveness|ality|ism|ings?|ency|ancy)$"
  first %in% listed_words("ordinary") | grepl(endings, first)
}

#' Whether a label speaks as a person does: with one of the words in inst/words/person.txt, which are patterns
#' @noRd
speaks_as_person <- function(labels) {
  words <- sprintf("\\b(?:%s)\\b", paste(listed_words("person"), collapse = "|"))
  # US and IT are names.
  plain <- gsub("\\b[[:upper:]]{2,}\\b", " ", labels, perl = TRUE)
  grepl(words, plain, perl = TRUE, ignore.case = TRUE)
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
  mark <- glyphs()$cut
  short <- ifelse(long, paste0(at_word(strtrim(text, room - 1L), text), mark), text)
  kinds <- !duplicated(text)
  alike <- short %in% short[kinds][duplicated(short[kinds])] & long
  if (any(alike)) {
    tail <- (room - 1L) %/% 2L
    ends <- vapply(text[alike], function(one) substring(one, nchar(one) - tail + 1L), "")
    short[alike] <- paste0(strtrim(text[alike], pmax(room - 1L - nchar(ends, "width"), 1L)), mark, ends)
  }
  short
}

#' The beginning of a text up to the end of a word, where that loses less than a third of it
#' @noRd
at_word <- function(beginnings, texts) {
  inside <- grepl("^[^ ]", substring(texts, nchar(beginnings) + 1L))
  ends <- sub("[ ,;:.(-]+[^ ]*$", "", beginnings)
  ifelse(inside & nchar(ends) >= 2 / 3 * nchar(beginnings), ends, sub("[ ,;:.(-]+$", "", beginnings))
}
