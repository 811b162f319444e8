# Numbers that people write with something beside them: the unit in some cells only, ratios to one, rows of stars.

# Words of one unit, as headings and cells write it.
unit_families <- list(
  hours = "h|hrs?|hours?|std[.]?|stunden?|heures?|horas?|ore|uren|uur",
  minutes = "mins?|min[.]|minutes?|minuten?|minutos?|minuti",
  seconds = "s|secs?|seconds?|sek[.]?|sekunden?|secondes?|segundos?", days = "d|days?|tage?|jours?|d\u00edas?|giorni|dagen",
  weeks = "wks?|weeks?|wochen?|semaines?|semanas?", months = "months?|monate?|mois|mes(es)?|mesi|maanden",
  years = "y|yrs?|years?|years? old|y/?o|jahre?|j\\.|ans?|a\u00f1os?|anni|anos?|jaar",
  kilograms = "kg|kgs|kilos?|kilograms?",
  grams = "g|grams?|gramm", centimetres = "cm|centimet(re|er)s?|zentimeter", metres = "m|met(re|er)s?",
  kilometres = "km|kms|kilomet(re|er)s?", miles = "mi|miles?", pounds = "lbs?|pounds?", inches = "in|inch(es)?",
  points = "pts?[.]?|points?|punkte?n?|puntos?|punti", pages = "pages?|seiten?|p[a\u00e1]ginas?",
  times = "x|times?|mal|fois|veces"
)

#' Numbers among which some cells repeat the unit of the heading: "46h" or "38 hours" beside 40 under "Hours a week"
#'
#' A unit that the heading does not name may be another one, so those cells stay text.
#' @param name Name and label.
#' @return `NULL`, or a list: `text` with bare numbers in those cells, and `note`.
#' @noRd
without_heading_unit <- function(text, name) {
  begin <- utils::head(text[!is.na(text)], 1000L)
  if (!length(begin) || mean(grepl("^[-+]?[0-9]", begin)) < 0.5) return(NULL)
  at <- grep("^[-+]?[0-9][0-9.,]* ?[[:alpha:]][[:alpha:]./ ]{0,11}$", text)
  if (!length(at) || length(at) == sum(!is.na(text))) return(NULL)
  number <- sub("^([-+]?[0-9][0-9.,]*).*$", "\\1", text[at])
  unit <- trimws(tolower(sub("^[-+]?[0-9][0-9.,]*", "", text[at])))
  # "hours per week" are hours.
  heading <- gsub("(\\b(per|a|an|each|every|pro|par|por|al?|in an?)|/) (\\w+ )?\\w+", " ", tolower(gsub("[_.]+", " ", name)))
  named <- Filter(function(words) {
    # A letter alone is a unit only in brackets.
    whole <- gsub("(^|[|])[a-z](?=[|]|$)", "", words, perl = TRUE)
    whole <- sub("^[|]", "", whole)
    grepl(sprintf("(^|[^[:alpha:]])(%s)([^[:alpha:]]|$)", whole), heading, perl = TRUE) ||
      grepl(sprintf("[(\\[,] ?(%s)[])]?$", words), heading, perl = TRUE)
  }, unit_families)
  if (length(named) != 1L) return(NULL)
  ours <- grepl(sprintf("^(%s)$", named[[1]]), unit, perl = TRUE)
  plain <- !is.na(text) & grepl("^[-+]?[0-9][0-9.,]*$", text)
  if (!any(ours) || !any(plain)) return(NULL)
  text[at[ours]] <- number[ours]
  shown <- toString(utils::head(unique(unit[ours]), 3))
  list(text = text, note = template("the unit \"%s\" removed from %s", shown, counted(sum(ours), "cell")))
}

#' "16.1:1", and under a heading that says ratio "1:16.1" too
#' @noRd
ratios_as <- function(name) {
  named <- grepl("\\b(ratio|verh\u00e4ltnis|relation|raz\u00f3n|rapporto|verhouding)\\b", tolower(gsub("[_.]+", " ", name)),
    perl = TRUE
  )
  function(text, decimal) {
    number <- "[0-9]+([.,][0-9]+)?"
    forms <- c(sprintf("^(%s) ?: ?1$", number), if (named) sprintf("^1 ?: ?(%s)$", number))
    for (form in forms) {
      if (!all(is.na(text) | grepl(form, text))) next
      values <- plain_numbers(sub(form, "\\1", text), decimal, comma = TRUE)
      note <- template("ratios such as \"%s\" read as numbers", text[!is.na(text)][1])
      if (is.numeric(values)) return(list(values = values, note = note))
    }
    NULL
  }
}

#' "7.1/10" of the same number in each cell, where it is no day of a month
#' @noRd
points_as <- function(name) {
  dated <- named_like(gsub("[^[:alnum:]]+", " ", name), time_words)
  function(text, decimal) {
    form <- "^([0-9]+([.,][0-9]+)?) ?/ ?([0-9]{1,4})$"
    given <- text[!is.na(text)]
    if (dated || !length(given) || !all(grepl(form, given))) return(NULL)
    of <- unique(sub(form, "\\3", given))
    values <- plain_numbers(sub(form, "\\1", text), decimal, comma = TRUE)
    if (length(of) != 1L || !is.numeric(values) || any(values > as.numeric(of), na.rm = TRUE)) return(NULL)
    list(values = values, note = template("\"/%s\" removed from each value", of))
  }
}

#' "1 1/2" and "3/4" among whole numbers, of halves, thirds, quarters and the like
#' @noRd
read_fractions <- function(text, decimal) {
  given <- text[!is.na(text)]
  if (!any(grepl("/", given, fixed = TRUE)) || !all(nzchar(given))) return(NULL)
  parts <- captured(given, "^([0-9]{1,4})?(?:(?:^| )([0-9]{1,2})/([2348]|16|32))?$")
  if (is.null(parts)) return(NULL)
  number <- function(k) ifelse(nzchar(parts[, k]), suppressWarnings(as.numeric(parts[, k])), NA)
  # What is never beside a whole number, or more than its whole, may be a date or a score.
  proper <- all(number(2) < number(3), na.rm = TRUE) && any(nzchar(parts[, 1]))
  if (!proper || !any(grepl(" ", given, fixed = TRUE) | !grepl("/", given, fixed = TRUE))) return(NULL)
  values <- in_places(text, rowSums(cbind(number(1), number(2) / number(3)), na.rm = TRUE))
  list(values = values, note = template("fractions read as decimals"))
}

#' 5'11": feet and inches, as inches
#' @noRd
read_feet <- function(text, decimal) {
  parts <- twelfths(text[!is.na(text)], paste0(
    "^([0-9]{1,2}) ?(?:'|\u2019|\u2032|ft[.]?|feet) ?",
    "(?:([0-9]{1,2}(?:[.][0-9]+)?) ?(?:\"|''|\u201d|\u2033|in[.]?|inches)?)?$"
  ))
  if (is.null(parts) || !any(parts[, 2] > 0) || any(parts[, 2] >= 12)) return(NULL)
  list(values = in_places(text, parts %*% c(12, 1)), unit = "in", note = template("feet and inches read as inches"))
}

#' "7 yrs 3 mths": years and months, as months
#' @noRd
read_tenures <- function(text, decimal) {
  parts <- twelfths(text[!is.na(text)], paste0(
    "^(?i:(?=[0-9])(?:([0-9]{1,3}) ?(?:y|yrs?[.]?|years?|j|jahre?|ans?|a\u00f1os?|anni|anos?))?,? ?(?:and |und |et |y |e )?",
    "(?:([0-9]{1,3}) ?(?:m|mo|mos|mths?[.]?|mons?|months?|monate?|mois|mes(?:es)?|mesi))?)$"
  ))
  if (is.null(parts)) return(NULL)
  list(values = in_places(text, parts %*% c(12, 1)), unit = "months", note = template("years and months read as months"))
}

#' Two counts, the second in twelfths of the first
#' @return A column each, 0 where one is not told; `NULL` for fewer than three texts, or where one of the two is told of none
#'   and the other is a unit.
#' @noRd
twelfths <- function(given, form) {
  parts <- if (length(given) >= 3L) captured(given, form)
  if (is.null(parts) || any(colSums(parts != "") == 0L)) return(NULL)
  matrix(as.numeric(ifelse(parts == "", "0", parts)), ncol = 2L)
}

#' "(17)" among numbers: less than zero, as accounts write it
#' @return As [without_heading_unit()].
#' @noRd
without_brackets <- function(text) {
  if (!any(startsWith(text, "("), na.rm = TRUE)) return(NULL)
  money <- sprintf("(%s|)", currencies)
  at <- grep(sprintf("^[(]%s ?[0-9][0-9.,]*[)]$", money), text)
  beside <- sprintf("^[-+]?%s ?[0-9][0-9.,]*$", money)
  if (!length(at) || !any(grepl(beside, text[-at])) || length(at) == sum(!is.na(text))) return(NULL)
  text[at] <- paste0("-", substring(text[at], 2L, nchar(text[at]) - 1L))
  list(text = text, note = template("%s in brackets read as negative", counted(length(at), "cell")))
}

#' "0.123 \u00b1 0.01": the value without what it may be off by
#' @return As [without_heading_unit()].
#' @noRd
without_error <- function(text) {
  if (!any(grepl("\u00b1|[+]/-", utils::head(text, 100L)))) return(NULL)
  form <- "^([-+]?[0-9][0-9.,]*) ?(\u00b1|[+]/-) ?[0-9][0-9.,]*(.*)$"
  fits <- grepl(form, text)
  if (sum(fits) < 0.95 * sum(!is.na(text))) return(NULL)
  text[fits] <- trimws(paste(sub(form, "\\1", text[fits]), trimws(sub(form, "\\3", text[fits]))))
  list(text = text, note = template("\"\u00b1\" and what follows it removed from each value"))
}

#' Numbers of which some carry a mark that a note explains: "92.7*", "21 345 [b]", "78.7 (e)", "12.3 p" in official tables
#'
#' Fewer than half carry one: what all carry is a unit.
#' @return As [without_heading_unit()].
#' @noRd
without_flags <- function(text) {
  mark <- "[*\u2020\u2021\u00a7\u00b9\u00b2\u00b3\u2070-\u2079]+|[(][[:alpha:]]{1,2}[)]|\\[[[:alnum:]]{1,2}\\]| [bepru]{1,2}"
  form <- sprintf("^([-+]?[0-9][0-9.,' \u00a0\u202f]*[0-9]|[-+]?[0-9]) ?(%s)$", mark)
  at <- grep(form, text, perl = TRUE)
  if (!length(at)) return(NULL)
  plain <- grepl("^[-+]?[0-9][0-9.,' \u00a0\u202f]*$", text, perl = TRUE)
  if (length(at) >= sum(plain)) return(NULL)
  marks <- unique(trimws(sub(form, "\\2", text[at], perl = TRUE)))
  if (length(marks) > 6L) return(NULL)
  text[at] <- trimws(sub(form, "\\1", text[at], perl = TRUE))
  shown <- paste(sprintf("\"%s\"", marks), collapse = ", ")
  list(text = text, note = template(
    if (length(marks) == 1L) "the mark %s removed from %s" else "the marks %s removed from %s",
    shown, counted(length(at), "cell")
  ))
}

#' Rows of stars, filled and empty, as an ordinal scale of how many are filled
#' @noRd
read_stars <- function(text, decimal) {
  given <- text[!is.na(text)]
  filled <- "[\u2605\u2b50\u272d\u272e\u2bea\u25cf]"
  empty <- "[\u2606\u2729\u25cb]"
  # A sign that asks for colour goes.
  kinds <- gsub("\ufe0f", "", unique(given), fixed = TRUE)
  starred <- grepl(sprintf("^%s*%s*$", filled, empty), kinds, perl = TRUE)
  if (!length(kinds) || !all(starred)) return(NULL)
  count <- function(of) nchar(gsub(of, "", kinds))
  stars <- count(sprintf("[^%s", substring(filled, 2)))
  all <- stars + count(sprintf("[^%s", substring(empty, 2)))
  # Marks of which each row holds one are a tick and no number of stars.
  if (max(all) < 3L || anyDuplicated(stars)) return(NULL)
  steps <- seq_len(max(all))
  if (any(stars == 0L)) steps <- c(0L, steps)
  list(
    values = factor(stars[match(text, unique(given))], steps, ordered = TRUE),
    note = template("stars counted, as an ordinal scale from %d to %d", steps[1], max(steps))
  )
}
