# The classes that cases come in, and the groups that they fall into, as the study's columns hold them.

#' Columns that may be classes that cases come in: of groups, declared, of text or numbered, with several cases in each
#' @return Of each column the class of every case as a whole number from 1 on.
#' @noRd
class_columns <- function(study) {
  measures <- names_with(study, "measure")
  numbered <- Filter(function(name) is_label(name, study_column(study, name), group_words), measures)
  names <- unique(c(
    role_variable(study, "group"), names_with(study, "group"), names_with(study, "measure", "nominal"), numbered
  ))
  columns <- Filter(function(values) {
    kinds <- length(unique(utils::head(values[!is.na(values)], 20000L)))
    kinds >= 5L && kinds <= length(values) / 2
  }, lapply(stats::setNames(names, names), function(name) as.character(study_column(study, name))))
  lapply(columns, function(values) match(values, unique(values[!is.na(values)])))
}

#' Measures whose own values mark the classes that they were measured of, each as the class of every case
#' @noRd
block_columns <- function(study) {
  names <- names_with(study, "measure", "numeric")
  columns <- lapply(stats::setNames(names, names), function(name) {
    values <- study_column(study, name)
    first <- utils::head(values, 2000L)
    if (is.numeric(values) && length(unique(first)) <= length(first) / 2) blocks_of_values(as.double(values))
  })
  Filter(Negate(is.null), columns)
}

#' Columns of words, or of two values, that are not declared as groups and yet may split the cases
#' @noRd
split_columns <- function(study, most = 12L) {
  names <- setdiff(names_with(study, "measure", c("nominal", "binary")), role_variable(study, "group"))
  columns <- lapply(stats::setNames(names, names), function(name) as.character(study_column(study, name)))
  utils::head(Filter(function(values) {
    kinds <- length(unique(values[!is.na(values)]))
    kinds >= 2L && kinds <= min(500L, length(values) / 5)
  }, columns), most)
}
