# One score that is known by several values of each case.

#' A study in which several values of each case are one score
#' @noRd
with_plausible <- function(study, name, values, label = NULL) {
  if (!is_word(name) || !nzchar(name)) abort_usage("The score needs a name.", "For example \"reading\".")
  if (identical(study_plausible(study)[[name]], values)) return(with_entry(study, name, list(label = label)))
  if (name %in% study_names(study)) abort_input(
    problem("There is a variable \"%s\" already.", name),
    "Give the score another name."
  )
  if (length(values) < 2L) abort_usage("Plausible values are two or more.", "Name them all.")
  for (value in values) check_variable(study, value)
  columns <- lapply(values, function(value) study_numbers(study, value)$values)
  study <- with_column(study, name, rowMeans(do.call(cbind, columns)), paste("plausible values:", toString(values)))
  for (one in c(name, values)) study <- with_entry(study, one, list(role = "about"))
  study <- with_entry(study, name, list(label = label, level = "numeric"))
  study$plausible[[name]] <- values
  study$converted <- new.env(parent = emptyenv())
  study
}

with_all_plausible <- function(study, declared) {
  for (name in names(declared)) study <- with_plausible(study, name, declared[[name]]$values, declared[[name]]$label)
  study
}
