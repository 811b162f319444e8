# A study with fewer cases or variables, with one more variable, or of which more is known. The one it was made from stays
# as it is.

#' Select cases and variables of a study
#'
#' The codebook, the case names, their rows in the file and the provenance are kept.
#'
#' @param x A study.
#' @param i Cases: numbers, or `TRUE` and `FALSE` for each. Default: all.
#' @param j Variables: names or numbers. Default: all.
#' @param ... Not used.
#' @return A study.
#' @section Errors: `unsere_error_input` for an unknown variable.
#' @examples
#' learners <- demo_study("learners")
#' learners[1:30, c("practice_hours", "speaking_score")]
#' @export
`[.unsere_study` <- function(x, i, j, ...) {
  at <- seq_len(study_size(x))
  if (!missing(i)) at <- at[if (is.logical(i)) which(rep_len(i, length(at))) else i]
  if (anyNA(at)) abort_input("There are fewer cases than were asked for.", problem("The data have %d.", study_size(x)))
  names <- study_names(x)
  if (!missing(j)) names <- if (is.character(j)) vapply(j, check_variable, "", study = x) else names[j]
  naming <- role_variable(x, "case")
  if (!is.null(x$cases) || (!is.null(naming) && !naming %in% names)) x$cases <- case_names(x, at)
  x$provenance$rows <- file_rows(x, at)
  x$provenance$n_rows <- length(at)
  x$data <- x$data[at, unname(names), drop = FALSE]
  if (is.data.frame(x$data)) rownames(x$data) <- NULL
  x$codebook <- book_entries(x, names)
  rownames(x$codebook) <- NULL
  x$converted <- new.env(parent = emptyenv())
  x
}

#' Select the cases of a study that meet a condition
#'
#' @param x A study.
#' @param subset A condition in the variables of the study. Cases for which it is missing are excluded. Default:
#'   all cases.
#' @param select Variables to keep: bare names, `c()` of them, or strings. Default: all.
#' @param ... Not used.
#' @return A study. For conditions that a report states and a database evaluates, see `where` of [read_study()].
#' @section Errors: `unsere_error_input` for an unknown variable; `unsere_error_usage` if `subset` is not `TRUE` or
#'   `FALSE` for each case.
#' @examples
#' learners <- demo_study("learners")
#' subset(learners, age_years >= 30, select = c(practice_hours, speaking_score))
#' @export
subset.unsere_study <- function(x, subset, select, ...) {
  names <- if (missing(select)) study_names(x) else pick_several(x, list(rlang::enquo(select)))
  if (missing(subset)) return(x[, names])
  condition <- rlang::enquo(subset)
  used <- intersect(all.vars(rlang::quo_get_expr(condition)), study_names(x))
  holds <- rlang::eval_tidy(condition, study_columns(x, used))
  if (!is.logical(holds) || !length(holds) %in% c(1L, study_size(x))) {
    abort_usage("`subset` must be TRUE or FALSE for each case.", "For example subset(study, age >= 30).")
  }
  x[holds %in% TRUE, names]
}

#' A study with one more variable
#' @noRd
with_column <- function(study, name, values, source) {
  study$data[[name]] <- values
  with_new_entry(study, name, find_level(values), source)
}

#' A study whose codebook has an entry more
#' @noRd
with_new_entry <- function(study, name, level, source) {
  entry <- study$codebook[1, ]
  entry[] <- NA_character_
  entry[c("variable", "level", "role", "source")] <- list(name, level, "measure", source)
  study$codebook <- rbind(study$codebook, entry)
  rownames(study$codebook) <- NULL
  study
}

#' A study with other entries in its codebook
#' @param entry A named list: fields and what they become; `NULL` leaves a field as it is.
#' @noRd
with_entry <- function(study, name, entry) {
  # Words become steps of a scale in the order that their codes or they themselves tell.
  if (identical(entry$level, "ordinal") && is.null(entry$values) && is.character(study$data[[name]])) {
    order <- suggested_order(study, name)
    if (!is.null(order)) study <- with_values(study, name, order)
  }
  for (field in names(entry)) {
    if (!is.null(entry[[field]])) study$codebook[[field]][study$codebook$variable == name] <- as.character(entry[[field]])
  }
  if (!is.null(entry$label) && is.null(entry$short)) study <- with_proposed_short(study, name)
  if (!is.null(entry$role)) study$cases <- NULL
  study
}

#' A study in which a variable's short label is proposed anew, because it has another label
#' @noRd
with_proposed_short <- function(study, name) {
  book <- study$codebook
  at <- book$variable == name
  others <- ifelse(at, NA, book$short)
  study$codebook$short <- ifelse(at, propose_short(ifelse(is.na(book$label), book$variable, book$label), others), book$short)
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

#' A study with a codebook of its own, its rows in the file, and the cases excluded
#' @noRd
with_book <- function(study, book, rows, aside) {
  study$codebook <- book
  study$provenance$rows <- rows
  study$provenance$aside <- if (length(aside)) do.call(rbind, lapply(aside, as.data.frame))
  study$converted <- new.env(parent = emptyenv())
  study$cases <- NULL
  study
}

#' A study in which a variable's words stand in a given order
#' @noRd
with_values <- function(study, name, text) {
  order <- declared_order(words_of(study$data[[name]]), text, name)
  study$data[[name]] <- with_words(order$values, words_of(study$data[[name]]))
  with_entry(study, name, list(values = text, level = "ordinal"))
}

#' The order that the words of a variable most likely have, as text: by the codes that they had in the file, by what they
#' say, as grades, or by the numbers in them; `NULL` where nothing tells, for the alphabet never does
#' @noRd
suggested_order <- function(study, name) {
  by_codes <- study$provenance$by_codes
  if (name %in% names(by_codes)) return(by_codes[[name]])
  words <- few_words(as.character(words_of(study$data[[name]])))
  if (is.null(words)) return(NULL)
  known <- order_known(words)
  if (!is.null(known$order)) return(spell_values(known[names(known) != "apart"]))
  order <- or_default(known$readings[[1]], or_default(order_of_grades(words), order_by_number(words)))
  if (!is.null(order)) paste(spell_words(order), collapse = " < ")
}
