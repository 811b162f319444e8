# Groups without an order, as a sample takes them.

#' A nominal variable as whole numbers, with the words that they stand for
#'
#' @return A list: `values` (double), `kinds` (words, in the order of the numbers).
#' @section Errors: `unsere_error_input` where nearly every case has a word of its own; `unsere_error_undefined` without any.
#' @noRd
study_categories <- function(study, name) {
  column <- study_column(study, name)
  if (is.character(column) && mostly_numbers(column)) abort_text_cells(study, name, column)
  known <- column[!is.na(column)]
  if (!length(known)) abort_empty(name)
  kinds <- in_order(unique(known), "radix")
  share <- length(kinds) / length(known)
  if (share > 1 / 2 || length(kinds) > 12L && share > 1 / 3 || length(kinds) > 200L) {
    abort_input(
      problem(
        "%s has %s different values in %s (%s): names or free answers, not groups.", name, length(kinds),
        count_in_english(length(known), "case"), some_values(kinds)
      ),
      "Choose a variable whose groups have several cases each."
    )
  }
  list(values = as.double(match(column, kinds)), kinds = plain_text(as.character(kinds)))
}
