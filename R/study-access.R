# The narrow door to a study: nothing outside the files that make and change one looks into it in any other way.

study_names <- function(study) if (is.null(study$data)) study$codebook$variable else names(study$data)

study_plausible <- function(study) study$plausible

#' The scores of a study: of which items each is made
#' @noRd
study_scores <- function(study) study$scores

study_size <- function(study) nrow(study$data)

study_column <- function(study, name) study$data[[name]]

study_columns <- function(study, names) study$data[names]

study_book <- function(study) study$codebook

book_entries <- function(study, names) study$codebook[match(names, study$codebook$variable), ]

label_of_variables <- function(study, names) display_label(study_book(study), names)

level_of <- function(study, names) study$codebook$level[match(names, study$codebook$variable)]

#' The variables of a role, or those of some levels among them
#' @noRd
names_with <- function(study, role = "measure", levels = level_names) {
  book <- study$codebook
  book$variable[book$role == role & book$level %in% levels]
}

#' The measures whose values have an order, so that a coefficient can take them as they stand
#' @noRd
ordered_measures <- function(study) names_with(study, "measure", setdiff(level_names, "nominal"))

#' What a pair can be made of: measures, and groups
#' @noRd
relatable_names <- function(study) c(names_with(study, "measure"), names_with(study, "group"))

#' The first variable of a role, or `NULL`
#' @noRd
role_variable <- function(study, role) {
  names <- names_with(study, role)
  if (length(names)) names[1]
}

#' The row in the file of each case
#' @noRd
file_rows <- function(study, at = seq_len(study_size(study))) {
  rows <- study$provenance$rows
  if (is.null(rows)) at else rows[at]
}

#' What each case is called: by the variable that names cases, else by its row
#' @noRd
case_names <- function(study, at = seq_len(study_size(study))) {
  if (!is.null(study$cases)) return(study$cases[at])
  naming <- or_default(role_variable(study, "case"), naming_periods(study))
  if (is.null(naming)) return(sprintf("row %d", file_rows(study, at)))
  plain_text(as.character(study$data[[naming]][at]))
}

# Periods written as text name the cases of a series: "2012 Q1".
naming_periods <- function(study) {
  time <- if (is.data.frame(study$data)) role_variable(study, "time")
  column <- if (!is.null(time)) study$data[[time]]
  if (is.character(column) && !anyNA(column) && !anyDuplicated(column)) time
}

study_origin <- function(study) {
  from <- study$provenance
  list(
    file = study_file(study), path = from$file, state = from$state, kind = from$kind, cases = study_size(study),
    aside = if (is.null(from$aside)) 0L else nrow(from$aside), sheet = from$sheet, decimal_mark = from$decimal_mark,
    decisions = from$decisions
  )
}

study_file <- function(study) if (!is.null(study$provenance$file)) file_name(study$provenance$file)

data_name <- function(study) if (is.null(study$provenance$file)) "The data" else study_file(study)

study_provenance <- function(study) study$provenance

#' How many cells of each variable held a missing code
#' @noRd
coded_cells <- function(study) study$provenance$coded

#' Columns that stay in a database
#' @noRd
held_elsewhere <- function(study) unclass(study$data)$database

#' A study with other values of one variable, all else as it was
#' @noRd
with_values_of <- function(study, name, values) {
  study$data[[name]] <- values
  study$converted <- new.env(parent = emptyenv())
  study
}

with_score <- function(study, name, made_of) {
  study$scores[[name]] <- made_of
  study
}

with_excluded_places <- function(study, places) {
  study$provenance$excluded_places <- places
  study
}

#' The design that was set, apart from roles
#' @noRd
declared_design <- function(study) study$design

#' A study with one decision more, of a kind
#' @noRd
with_decision <- function(study, kind, decision) {
  added <- stats::setNames(list(decision), kind)
  study$provenance$decisions <- as_decisions(c(study$provenance$decisions, added))
  study
}

# Groups in their own order: steps of an ordinal variable, numbers by size, else by name.
sort_groups <- function(column, words) {
  kinds <- unique(words[!is.na(words)])
  places <- match(kinds, words)
  kinds[if (is.numeric(column) || is.factor(column)) order(column[places]) else natural_order(kinds)]
}

#' The digest of the file that a study was read from
#' @return SHA-256 in hexadecimal; `NULL` where there is no file, or where it is no longer the one that was read.
#' @noRd
digest_of <- function(provenance) {
  if (!is.null(provenance$digest) || is.null(provenance$state)) return(provenance$digest)
  if (identical(file_state(provenance$file), provenance$state)) cli::hash_file_sha256(provenance$file)
}
