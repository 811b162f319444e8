# A matrix for each group beside that of all cases.

matrices_by <- function(study, asked, sides) {
  by <- asked$by
  if (!length(asked$names)) asked$names <- matrix_sample(study, NULL)$sample$names
  asked$names <- setdiff(asked$names, by)
  values <- as.character(study_column(study, by))
  kinds <- sort(unique(values[!is.na(values)]))
  if (length(kinds) < 2L) {
    abort_usage(
      sprintf("%s has %s only.", by, count_of(length(kinds), "group")), "Choose a variable that splits the cases."
    )
  }
  if (length(kinds) > 30L) {
    abort_usage(
      sprintf("%s has %d values; here are 30 groups at most.", by, length(kinds)), "Choose a variable with fewer groups."
    )
  }
  groups <- lapply(stats::setNames(kinds, kinds), function(kind) matrix_of_study(study[values %in% kind, ], asked, sides))
  new_matrices(
    by = by, by_label = book_entries(study, by)$label, pooled = matrix_of_study(study, asked, sides), groups = groups
  )
}
