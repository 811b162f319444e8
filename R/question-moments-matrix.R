# A matrix of variables whose moments alone are at hand.

#' @param asked Settled arguments of the matrix.
#' @noRd
matrix_from_moments <- function(moments, asked, told = list()) {
  record <- straight_record()
  if (!asked$coefficient %in% c("auto", record$name)) {
    abort_usage(sprintf("Moments tell nothing of %s.", asked$coefficient), sprintf("They serve %s r.", record$adjective))
  }
  p <- length(moments$variables)
  table <- core_moments_table(moments$sums)
  pairs <- pair_places(matrix(record$name, p, p))
  all <- seq_along(pairs$i)
  pairs <- c(pairs, read_pairs(table$pairs, pairs, all, p)[c("r", "unexplained", "n")])
  shapes <- stats::setNames(list(list(at = all)), record$name)
  estimates <- finish_pairs(pairs, shapes, asked$expect, asked$confidence, NULL, function(share) NULL)
  sample <- moments_sample(moments, table, told)
  result <- matrix_result(estimates, with_spreads(sample, sample$spreads), NULL, asked, list(), moments$n)
  result$intake <- sample_intake(sample)
  with_matrix_cautions(result, sample, asked, by_rows = FALSE)
}

# Whether sums that a database takes answer what is asked of many pairs.
matrix_by_sums <- function(study, asked) {
  plain <- is.null(asked$by) && !length(asked$given) && !has_design(study)
  straight <- asked$coefficient == straight_record()$name
  plain && length(asked$names) > 0L && (straight || all(level_of(study, asked$names) %in% c("numeric", "binary")))
}

matrix_there <- function(study, asked) {
  names <- if (length(asked$names)) asked$names else names_with(study, "measure", c("numeric", "binary"))
  record <- straight_record()
  ranked <- names[level_of(study, names) %in% c("ordinal", "nominal")]
  if (asked$coefficient == "auto" && length(ranked)) abort_usage(
    sprintf("%s has no even steps, and ranks of so many cases are not gathered.", ranked[1]),
    "Leave it out, or ask for coefficient = \"pearson\"."
  )
  if (!is.null(asked$by) || length(asked$given)) {
    abort_usage("Of so many cases the matrix takes neither `by` nor `given`.", "Choose cases by where.")
  }
  found <- ask_there(study, names, record, complete = asked$missing == "listwise")
  matrix_from_moments(found$moments, asked, found$told)
}
