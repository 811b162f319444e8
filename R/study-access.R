# The narrow door to a study: nothing outside the files that make and change one looks into it in any other way.

study_names <- function(study) names(study$data)

study_size <- function(study) nrow(study$data)

study_column <- function(study, name) study$data[[name]]

study_columns <- function(study, names) study$data[names]

study_book <- function(study) study$codebook

book_entries <- function(study, names) study$codebook[match(names, study$codebook$variable), ]

level_of <- function(study, names) study$codebook$level[match(names, study$codebook$variable)]

#' The variables of a role, or those of some levels among them
#' @noRd
names_with <- function(study, role = "measure", levels = level_names) {
  book <- study$codebook
  book$variable[book$role == role & book$level %in% levels]
}

#' The first variable of a role, or `NULL`
#' @noRd
role_variable <- function(study, role) {
  found <- names_with(study, role)
  if (length(found)) found[1]
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
  naming <- role_variable(study, "case")
  if (is.null(naming)) return(sprintf("row %d", file_rows(study, at)))
  as.character(study$data[[naming]][at])
}

study_origin <- function(study) {
  from <- study$provenance
  list(file = study_file(study), path = from$file, digest = from$digest, kind = from$kind, cases = study_size(study))
}

study_file <- function(study) if (!is.null(study$provenance$file)) file_name(study$provenance$file)

data_name <- function(study) if (is.null(study$provenance$file)) "The data" else study_file(study)

study_provenance <- function(study) study$provenance

#' How many cells of each variable held a missing code
#' @noRd
coded_cells <- function(study) study$provenance$coded

#' Some cases and some variables of a study
#'
#' What is known of the variables, the names of the cases, their rows in the file and where it all came from are kept.
#'
#' @param x A study.
#' @param i Cases: numbers, or `TRUE` and `FALSE` for each; all where left out.
#' @param j Variables: names, or numbers; all where left out.
#' @param ... Not used.
#' @return A study.
#' @section Errors: `unsere_error_input` when there is no such variable.
#' @examples
#' learners <- demo_study("learners")
#' learners[1:30, c("practice_hours", "speaking_score")]
#' @export
`[.unsere_study` <- function(x, i, j, ...) {
  at <- seq_len(study_size(x))
  if (!missing(i)) at <- at[if (is.logical(i)) which(rep_len(i, length(at))) else i]
  if (anyNA(at)) abort_input("There are fewer cases than were asked for.", sprintf("The data have %d.", study_size(x)))
  kept <- study_names(x)
  if (!missing(j)) kept <- if (is.character(j)) vapply(j, check_variable, "", study = x) else kept[j]
  naming <- role_variable(x, "case")
  if (!is.null(x$cases) || (!is.null(naming) && !naming %in% kept)) x$cases <- case_names(x, at)
  x$provenance$rows <- file_rows(x, at)
  x$provenance$n_rows <- length(at)
  x$data <- x$data[at, unname(kept), drop = FALSE]
  rownames(x$data) <- NULL
  x$codebook <- book_entries(x, kept)
  rownames(x$codebook) <- NULL
  x$converted <- new.env(parent = emptyenv())
  x
}

#' A study with one more variable
#' @noRd
with_column <- function(study, name, values, source) {
  study$data[[name]] <- values
  entry <- study$codebook[1, ]
  entry[] <- NA_character_
  entry[c("variable", "level", "role", "source")] <- list(name, find_level(values), "measure", source)
  study$codebook <- rbind(study$codebook, entry)
  rownames(study$codebook) <- NULL
  study
}

#' A study with other entries in its codebook
#' @param entry A named list: fields and what they become; `NULL` leaves a field as it is.
#' @noRd
with_entry <- function(study, name, entry) {
  for (field in names(entry)) {
    if (!is.null(entry[[field]])) study$codebook[[field]][study$codebook$variable == name] <- as.character(entry[[field]])
  }
  if (!is.null(entry$role)) study$cases <- NULL
  study
}

#' A study in which a role belongs to one variable alone
#' @noRd
with_role <- function(study, role, name) {
  if (is.null(name)) return(study)
  for (other in setdiff(names_with(study, role), name)) study <- with_entry(study, other, list(role = "measure"))
  with_entry(study, name, list(role = role))
}

#' A study in which some values of a variable count as missing
#' @noRd
with_codes <- function(study, name, codes) {
  study$data[[name]][matches_code(study$data[[name]], as.character(codes))] <- NA
  with_entry(study, name, list(missing_codes = paste(codes, collapse = ";")))
}

#' A variable as numbers, converted once
#'
#' @return A list: `values` (double), and of a binary variable `zero` and `one`, what counts as which.
#' @section Errors: `unsere_error_input` when it holds text; `unsere_error_undefined` when it has no value.
#' @noRd
study_numbers <- function(study, name) {
  column <- study_column(study, name)
  level <- level_of(study, name)
  known <- study$converted[[name]]
  if (!is.null(known) && known$level == level && identical(known$column, column)) return(known$numbers)
  numbers <- convert_column(study, name, column, level)
  if (is.environment(study$converted)) {
    assign(name, list(column = column, level = level, numbers = numbers), envir = study$converted)
  }
  numbers
}
