# Questions that are answered from sums: of moments that were handed in, or that a database takes of columns that stay there.

#' The moments of some variables, for a question
#'
#' @param names The variables of a pair, those controlled after them; or those of a matrix.
#' @param record The coefficient's; `complete` whether only cases count that have every value.
#' @return A list: `moments` of the cases, or of their ranks, and `facts`, as [relation_of_moments()] takes it.
#' @noRd
take_sums <- function(source, names, record, complete = FALSE) UseMethod("take_sums")

take_sums.unsere_study <- function(source, names, record, complete = FALSE) {
  if (!holds_rows(source)) return(sums_of_columns(source, names, record, complete))
  columns <- lapply(names, function(name) record$scores(study_numbers(source, name)$values))
  ends <- vapply(columns, range, c(0, 0), na.rm = TRUE)
  list(
    moments = new_moments(
      book_entries(source, names), study_size(source), core_moments(columns, sound_threads(NULL)), ends
    ),
    facts = list()
  )
}

take_sums.unsere_moments <- function(source, names, record, complete = FALSE) {
  list(moments = part_of_moments(source, names), facts = list())
}

# Of moments every variable counts as numbers: what they were gathered as.
ranks_as_numbers <- function(source) UseMethod("ranks_as_numbers")

ranks_as_numbers.unsere_study <- function(source) FALSE

ranks_as_numbers.unsere_moments <- function(source) TRUE

#' The coefficient of a pair that is answered from sums
#' @noRd
sums_record <- function(source, options) {
  if (options$coefficient != "auto") return(coefficient_record(options$coefficient))
  if (ranks_as_numbers(source)) straight_record() else choose_coefficient(level_of(source, c(options$x, options$y)))
}

check_sums_record <- function(source, record, names) {
  if (!ranks_as_numbers(source) || record$name == straight_record()$name) return(invisible())
  abort_usage(
    problem("Moments contain no information on %s.", record$name),
    problem("They are sufficient for %s r.", straight_record()$adjective)
  )
}

#' Whether sums answer what is asked of a pair
#' @noRd
sums_relate <- function(source, options) {
  record <- sums_record(source, options)
  controlled <- length(options$given) > 0L
  all(c(options$test, options$interval) %in% textbook_kinds) && !length(options$correct_for) &&
    !length(options$correct_range) && !isTRUE(options$unmeasured) && !length(options$part) &&
    !has_design(source) && !is.null(record) &&
    (record$moments || record$resistant && record$products && !controlled) &&
    (!controlled || all(level_of(source, options$given) != "nominal"))
}

relate_by_sums <- function(source, options) {
  names <- c(options$x, options$y, options$given)
  record <- sums_record(source, options)
  if (record$categories) {
    abort_input(
      problem("With so many cases unordered groups (%s) are not analysed in the database.", toString(names)),
      "Select fewer with where."
    )
  }
  check_sums_record(source, record, names)
  if (!record$moments && !(record$resistant && record$products) || length(names) > 2L && record$resistant) abort_usage(
    problem("With so many cases %s is not computed in the database.", record$name),
    "Select fewer with where, or use coefficient = \"pearson\"."
  )
  sums <- take_sums(source, names, record, complete = length(names) > 2L)
  of_moments <- function(options) relation_of_moments(sums$moments, names[1:2], options, record, sums$facts)
  with_smallest(of_moments(options), options, function(confidence) {
    of_moments(replace(options, c("confidence", "undoubted"), list(confidence, TRUE)))
  })
}

line_by_sums <- function(source, options) {
  sums <- take_sums(source, c(options$x, options$y), straight_record())
  line_of_moments(sums$moments, options$x, options$y, options, sums$facts)
}

#' A study, moments, or counts as the study that they stand for
#' @noRd
check_source <- function(source) {
  if (inherits(source, "unsere_moments")) return(source)
  if (inherits(source, "unsere_counts")) study_of_counts(source) else check_study(source)
}
