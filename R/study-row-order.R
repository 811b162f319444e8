# Why the rows of a file stand in the order that they do.

#' The column that explains the order of the rows, or `NULL`
#'
#' Sorted numbers and blocks of a group make neighbours alike though the cases were independent; a count or a name of
#' the cases and the time explain nothing away.
#' @noRd
column_of_order <- function(study) {
  book <- study_book(study)
  names <- book$variable[book$role %in% c("measure", "group") & !named_like(book$variable, code_words)]
  Find(function(name) explains_order(study_column(study, name)), names)
}

explains_order <- function(column) {
  given <- column[!is.na(column)]
  if (length(given) < max(2, length(column) / 2)) return(FALSE)
  if (is.character(given) || is.factor(given) && !is.ordered(given)) {
    kinds <- match(given, unique(given))
    return(max(kinds) >= 2L && max(kinds) <= length(given) / 3 && sum(diff(kinds) != 0) == max(kinds) - 1L)
  }
  steps <- diff(as.double(given))
  (all(steps >= 0) || all(steps <= 0)) && any(steps != steps[1])
}
