# A matrix for each group beside that of all cases.

matrices_by <- function(study, names, sides, by, plan) {
  if (!length(names)) names <- study$codebook$variable[study$codebook$role == "measure"]
  names <- setdiff(names, by)
  values <- as.character(study$data[[by]])
  kinds <- sort(unique(values[!is.na(values)]))
  if (length(kinds) < 2L) abort_usage(sprintf("%s has %s only.", by, count_of(length(kinds), "group")),
    "Choose a variable that splits the cases.")
  if (length(kinds) > 30L) abort_usage(sprintf("%s has %d values; here are 30 groups at most.", by, length(kinds)),
    "Choose a variable with fewer groups.")
  part <- function(kept) {
    study$data <- study$data[kept, , drop = FALSE]
    study$provenance$rows <- study$provenance$rows[kept]
    matrix_names(study, names, if (!is.null(sides)) sides, plan = plan)
  }
  if (!is.null(sides)) names <- character()
  pooled <- matrix_names(study, names, sides, plan = plan)
  new_matrices(by = by, by_label = study$codebook$label[study$codebook$variable == by], pooled = pooled,
    groups = stats::setNames(lapply(kinds, function(kind) part(values %in% kind)), kinds)
  )
}
