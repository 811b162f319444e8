# Numbers in brackets at the end of a heading: a maximum, a range or a weight, and none of them a unit.

#' "Midterm (100)" to 0 to 100, "Mood (1 to 5)" to 1 to 5; "Homework (20 %)" is a weight, which tells nothing of the values
#'
#' @param values The column's numbers, which must lie within it.
#' @return The two ends, or `NULL`.
#' @noRd
range_in_heading <- function(name, values) {
  if (!endsWith(name, ")") && !endsWith(name, "]")) return(range_of_scale(name, values))
  parts <- regmatches(name, regexec("[(\\[] *([^()\\[\\]]{1,20}?) *[)\\]]$", name, perl = TRUE))[[1]]
  if (!length(parts) || !is.numeric(values) || all(is.na(values))) return(NULL)
  number <- "([0-9]+(?:[.][0-9]+)?)"
  range <- sprintf("^(?:[a-z]+ )?%s ?(?:to|bis|\u2013|-|\\.\\.|\u00e0|a|tot) ?%s(?: [a-z]+)?$", number, number)
  ends <- regmatches(parts[2], regexec(range, tolower(parts[2]), perl = TRUE))[[1]][-1]
  if (!length(ends)) {
    most <- sprintf("^(?:max(?:imum)?[.:]? ?|out of |von |of |/ ?)?%s(?: ?(?:points?|pts|punkte|marks?))?$", number)
    most <- regmatches(tolower(parts[2]), regexec(most, tolower(parts[2]), perl = TRUE))[[1]][-1]
    if (length(most)) ends <- c("0", most)
  }
  ends <- as.numeric(ends)
  fits <- length(ends) == 2L && ends[1] < ends[2] && all(values >= ends[1] & values <= ends[2], na.rm = TRUE)
  # A year is no maximum, and neither is what no value comes near.
  if (fits && max(values, na.rm = TRUE) > ends[1] + diff(ends) / 4) ends
}

#' "On a scale from 0 to 10, ...": the ends of whole-number answers to a question that says them
#' @noRd
range_of_scale <- function(name, values) {
  if (!is.numeric(values) || !grepl("s[ck]al[ae]|\u00e9chelle|schaal", tolower(name))) return(NULL)
  pattern <- paste(
    "(?:s[ck]ala?e?|\u00e9chelle|escala|schaal) (?:from|of|between|von|zwischen|de|van|da) ([0-9]+)",
    "(?:to|and|bis|und|\u00e0|a|tot) ([0-9]+)"
  )
  ends <- as.numeric(regmatches(tolower(name), regexec(pattern, tolower(name), perl = TRUE))[[1]][-1])
  known <- values[!is.na(values)]
  if (length(ends) == 2L && ends[1] < ends[2] && length(known) && all(known >= ends[1] & known <= ends[2])) ends
}
