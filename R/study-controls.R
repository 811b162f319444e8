# Columns controlled for beside a pair: numbers as they are, words with an order by their places, groups by a column each.

#' The sample of two variables over the cases that have what is controlled for as well
#'
#' @param given Names of the control variables.
#' @return A sample; `given` is a list of `names`, `labels`, `columns` (a list of matrices, one for each), and
#'   `dropped` counts
#'   under `given` the pairs that lack one of them.
#' @noRd
sample_given <- function(study, x, y, given, categories = FALSE) {
  hold_constant(sample_pair(study, x, y, categories), study, given)
}

hold_constant <- function(sample, study, given) {
  if (!length(given)) return(sample)
  clash <- intersect(given, sample$names)
  if (length(clash)) abort_usage(
    problem("%s is one of the pair and controlled for.", clash[1]),
    "Control for another variable."
  )
  columns <- lapply(stats::setNames(given, given), function(name) control_columns(study, name, sample$row))
  known <- Reduce(`&`, lapply(columns, function(column) rowSums(is.na(column)) == 0))
  before <- sample_size(sample)
  if (!any(known)) abort_undefined("No case has every value that is controlled for.", "Control for fewer variables.")
  sample <- sample_part(sample, which(known))
  sample$dropped <- c(sample$dropped, given = before - sum(known))
  sample$given <- list(
    names = given, labels = label_of_variables(study, given),
    columns = lapply(columns, function(column) column[known, , drop = FALSE])
  )
  sample
}

#' A variable as columns to hold constant: one of numbers, or one for each group but the first
#' @noRd
control_columns <- function(study, name, row) {
  if (level_of(study, name) != "nominal") {
    return(matrix(study_numbers(study, name)$values[row], ncol = 1L, dimnames = list(NULL, name)))
  }
  words <- as.character(study_column(study, name))[row]
  kinds <- sort(unique(words[!is.na(words)]), method = "radix")
  if (length(kinds) < 2L) abort_undefined(
    problem("%s is constant in all these cases.", name),
    "Control for another variable."
  )
  if (length(kinds) > 200L) {
    abort_usage(
      problem("%s has %d groups; 200 can be controlled for at most.", name, length(kinds)),
      "Control for fewer groups."
    )
  }
  columns <- outer(words, kinds[-1], `==`) + 0
  columns[is.na(words), ] <- NA
  columns
}
