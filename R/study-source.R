# Where the columns of a study are, and what may be asked of them there.

#' Some variables that are going to be asked for, so that one query brings them all
#' @noRd
note_wanted <- function(study, names) {
  if (!is_elsewhere(study)) return(invisible())
  held <- unclass(study$data)$held
  held$wanted <- union(held$wanted, intersect(names, names(held$from)))
  invisible()
}

#' A study as far as its other variables are looked through for doubts: all, or, where they stay in a database, those asked
#' for, those with a role and some that split the cases
#' @noRd
study_at_hand <- function(study) {
  if (!is_elsewhere(study)) return(study)
  names <- names_at_hand(study_book(study), unclass(study$data)$held$wanted)
  study[, intersect(study_names(study), c(names, names(unclass(study$data)$added)))]
}

#' Whether a question is answered by the database: where it asks for more cells than are fetched, and sums can answer it, or
#' where it asks for more than may be fetched at all
#' @param names The variables it asks for; those that cautions look at are fetched with them.
#' @param by_sums Whether sums and counts can answer it.
#' @noRd
is_vast <- function(study, names, by_sums = TRUE) {
  if (!is_elsewhere(study)) return(FALSE)
  columns <- unclass(study$data)
  # A column of the study's own is not in the database.
  if (any(names %in% names(columns$added))) by_sums <- FALSE
  at_hand <- union(names_at_hand(study_book(study), names), names(columns$held$columns))
  columns$held$n * length(at_hand) > most_fetched() * (if (by_sums) 1 else 10)
}

#' The columns of a study as far as their kinds tell which are meant: none is fetched for it
#' @noRd
columns_to_choose <- function(study) {
  if (!is_elsewhere(study)) return(study_columns(study, study_names(study)))
  known <- specimen_read(unclass(study$data)$held)
  names <- study_names(study)
  list2DF(stats::setNames(lapply(names, function(name) or_default(known[[name]], NA_real_)[1]), names))
}

is_elsewhere <- function(study) inherits(study$data, "unsere_columns")
