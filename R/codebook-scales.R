# Which columns of whole numbers hold steps of a scale rather than measurements: those whose heading says so, and the items
# of a battery. Everything else that is whole (absences, ages, points) stays a number, whatever values it happens to have.

#' Columns of whole numbers that are steps of a scale
#'
#' @param columns A list of columns by name; `headings` the texts of each: its name and its labels.
#' @return Their names.
#' @noRd
scale_columns <- function(columns, headings) {
  whole <- vapply(columns, is_whole_column, NA)
  names <- names(columns)[whole]
  # All headings at once tell which may name a scale, or count something.
  texts <- tolower(vapply(headings[names], paste, "", collapse = "\n"))
  may <- grepl("=|[(\\[]|scale|skala|chelle|escala|scala|schaal|rat[ei]", texts, perl = TRUE)
  ranges <- vapply(seq_along(names), function(k) {
    may[k] && fits_scale(columns[[names[k]]], scale_in_heading(headings[[names[k]]]))
  }, NA)
  counts <- grepl(counting_words, texts, perl = TRUE)
  items <- names[!ranges & !counts]
  union(names[ranges], c(items_by_name(columns[items]), items_side_by_side(columns, items)))
}

is_whole_column <- function(column) {
  if (!is.numeric(column)) return(FALSE)
  first <- utils::head(column, 1000L)
  if (length(unique(first)) > 13L || any(first != round(first), na.rm = TRUE)) return(FALSE)
  given <- unique(column[!is.na(column)])
  length(given) >= 2L && length(given) <= 13L && all(given == round(given)) && min(given) >= 0 && max(given) <= 10
}

#' The ends of a scale that a heading names: "(1 to 5)", "on a scale from 0 to 10", "0 = not at all, 4 = very much"
#' @return Two numbers, or `NULL`.
#' @noRd
scale_in_heading <- function(texts) {
  for (text in tolower(texts)) {
    ends <- scale_in_text(text)
    if (!is.null(ends)) return(ends)
  }
}

scale_in_text <- function(text) {
  if (grepl("\\b(points?|pts|punkte?n?|marks?|score|percent|%)\\b", text, perl = TRUE)) return(NULL)
  for (pattern in scale_patterns) {
    parts <- regmatches(text, regexec(pattern, text, perl = TRUE))[[1]]
    if (length(parts)) return(as.numeric(utils::tail(parts, 2)))
  }
  codes <- regmatches(text, gregexpr("(?<![0-9.,])[0-9]{1,2}(?= ?= ?[[:alpha:]])", text, perl = TRUE))[[1]]
  if (length(codes)) c(min(as.numeric(codes)), NA)
}

scale_patterns <- local({
  range <- "(?<![0-9.,])([01]) ?(?:to|bis|through|\u2013|-|\\.\\.\\.?|\u00e0|a|tot|and|und) ?([2-9]|10)(?![0-9]|[.,][0-9])"
  c(
    sprintf("[(\\[](?:scale |skala |from |von )*%s[)\\]]$", range),
    # "(0 no trust - 10 full trust)", "0 (none) to 10 (full)"
    "[(\\[]([01])[ :\u2013-]+[[:alpha:]][^()0-9]*[-\u2013,;/.] *([2-9]|10)[ :\u2013-]+[[:alpha:]][^()0-9]*[)\\]]$",
    "(?<![0-9.,])([01]) ?\\([^()]+\\) ?(?:to|bis|through|\u2013|-|\u00e0|a|tot|and|und) ?([2-9]|10) ?\\([^()]+\\)",
    sprintf("(?:scales?|skala|\u00e9chelle|escala|scala|schaal|rate|rating)\\b[^0-9]{0,25}%s", range)
  )
})

fits_scale <- function(column, ends) {
  if (is.null(ends)) return(FALSE)
  given <- unique(column[!is.na(column)])
  top <- if (is.na(ends[2])) 10 else ends[2]
  length(given) > 2L && min(given) >= ends[1] && max(given) <= top
}

# Items whose names differ in a number or a letter at their end, or in what follows their common question.
items_by_name <- function(columns) {
  if (length(columns) < 3L) return(character())
  stem <- sub("[_. ]?([0-9]+[a-z]?|[a-z])$", "", question_of(names(columns)))
  # The same thing at several times is no battery.
  times <- grepl(time_endings, tolower(names(columns)), perl = TRUE)
  sets <- split(names(columns)[!times], stem[!times])
  unlist(Filter(function(items) length(items) >= 3L && share_scale(columns[items]), sets), use.names = FALSE)
}

time_endings <- paste0(
  "(^|[_. ])(w|t|wave|welle|time|term|year|week|month|day|semester|visit)[_. ]?[0-9]+$|[_. ](pre|post)$|",
  "[_. ](19|20)[0-9]{2}$"
)

# Three or more beside each other that all go from 1 to the same end.
items_side_by_side <- function(columns, items) {
  ends <- stats::setNames(character(length(columns)), names(columns))
  ends[items] <- vapply(columns[items], function(column) paste(range(column, na.rm = TRUE), collapse = " "), "")
  runs <- rle(unname(ends))
  run <- rep(seq_along(runs$lengths), runs$lengths)
  sets <- split(names(columns)[nzchar(ends)], run[nzchar(ends)])
  is_battery <- function(set) length(set) >= 3L && share_scale(columns[set]) && startsWith(ends[[set[1]]], "1 ")
  unlist(Filter(is_battery, sets), use.names = FALSE)
}

#' Whether columns use one scale: steps from 0 or 1 to 3 up to 7, or to 10, all of them used, its end by most columns
#' @noRd
share_scale <- function(columns) {
  kinds <- sort(unique(unlist(lapply(columns, unique))))
  top <- kinds[length(kinds)]
  if (!kinds[1] %in% 0:1 || !top %in% c(3:7, 10) || length(kinds) != top - kinds[1] + 1) return(FALSE)
  reaches <- vapply(columns, function(column) max(column, na.rm = TRUE) == top, NA)
  many <- sum(!is.na(columns[[1]])) >= 2 * length(kinds)
  mean(reaches) >= 0.5 && many
}
