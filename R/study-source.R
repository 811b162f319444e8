# What a source of data may be asked for, whatever it is: rows in memory, columns that stay in a database, moments. A
# question asks these and never which kind it has.

#' Whether a source hands out the cases of some variables for a question, or sums are to serve
#'
#' @param names The variables that the question asks for; those that cautions look at are fetched with them.
#' @param sums_serve Whether sums and counts can answer it.
#' @noRd
gives_rows <- function(source, names, sums_serve = TRUE) UseMethod("gives_rows")

gives_rows.unsere_study <- function(source, names, sums_serve = TRUE) {
  holds_rows(source) || few_enough(source$data, study_book(source), names, sums_serve)
}

gives_rows.unsere_moments <- function(source, names, sums_serve = TRUE) FALSE

# More cells than are fetched are summed up where they are, and ten times as many are not fetched even where sums do
# not serve.
few_enough <- function(columns, book, names, sums_serve) {
  parts <- unclass(columns)
  # A column of the study's own is not in the database.
  if (any(names %in% names(parts$added))) sums_serve <- FALSE
  at_hand <- union(names_at_hand(book, names), names(parts$database$columns))
  parts$database$n * length(at_hand) <= most_fetched() * (if (sums_serve) 1 else 10)
}

#' Whether all rows of a source are in memory
#' @noRd
holds_rows <- function(source) UseMethod("holds_rows")

holds_rows.unsere_study <- function(source) is.data.frame(source$data)

holds_rows.unsere_moments <- function(source) FALSE

#' Some variables that are going to be asked for, so that one query brings them all
#' @noRd
note_wanted <- function(study, names) {
  if (inherits(study, "unsere_study") && !holds_rows(study)) want_columns(study$data, names)
  invisible()
}

#' A study as far as its other variables are looked through for cautions: all, or, where they stay in a database, those asked
#' for, those with a role and some that split the cases
#' @noRd
study_at_hand <- function(study) {
  if (holds_rows(study)) return(study)
  names <- names_at_hand(study_book(study), held_elsewhere(study)$wanted)
  study[, intersect(study_names(study), c(names, names(unclass(study$data)$added)))]
}

#' The columns of a source as far as their kinds tell which are meant: none is fetched for it
#' @noRd
columns_to_choose <- function(study) {
  names <- study_names(study)
  if (holds_rows(study)) return(study_columns(study, names))
  known <- known_values(study)
  list2DF(stats::setNames(lapply(names, function(name) or_default(known[[name]], NA_real_)[1]), names))
}

known_values <- function(source) UseMethod("known_values")

known_values.unsere_study <- function(source) specimen_read(held_elsewhere(source))

known_values.unsere_moments <- function(source) NULL
