# A matrix of variables whose moments alone are at hand.

#' @param estimated From [take_sums()]; `sides` of a rectangle.
#' @noRd
matrix_of_moments <- function(estimated, options, sides) {
  moments <- estimated$moments
  record <- straight_record()
  p <- length(moments$variables)
  table <- core_moments_table(moments$sums)
  pairs <- pair_places(keep_sides(matrix(record$name, p, p), moments$variables, sides))
  all <- seq_along(pairs$i)
  pairs <- c(pairs, read_pairs(table$pairs, pairs, all, p)[c("r", "unexplained", "n")])
  shapes <- stats::setNames(list(list(at = all)), record$name)
  estimates <- finish_pairs(pairs, shapes, options$expect, options$confidence, NULL, function(share) NULL)
  sample <- moments_sample(moments, table, estimated$facts)
  result <- matrix_result(estimates, with_spreads(sample, sample$spreads), sides, options, list(), moments$n)
  result$intake <- sample_intake(sample)
  with_matrix_cautions(result, sample, options, by_rows = FALSE)
}

# Whether sums answer what is asked of many pairs.
sums_make_matrix <- function(study, options) {
  plain <- is.null(options$by) && !length(options$given) && !has_design(study)
  straight <- options$coefficient == straight_record()$name
  plain && length(options$names) > 0L && (straight || all(level_of(study, options$names) %in% c("numeric", "binary")))
}

matrix_by_sums <- function(study, options, sides) {
  levels <- c("numeric", "binary", if (ranks_as_numbers(study)) "ordinal")
  names <- if (length(options$names)) options$names else names_with(study, "measure", levels)
  record <- straight_record()
  check_sums_record(study, if (options$coefficient == "auto") record else coefficient_record(options$coefficient), names)
  ranked <- names[!level_of(study, names) %in% levels]
  if (options$coefficient == "auto" && length(ranked)) abort_usage(
    problem("%s has no equal steps, and so many cases are not ranked.", ranked[1]),
    "Omit it, or use coefficient = \"pearson\"."
  )
  if (!is.null(options$by) || length(options$given)) {
    abort_usage("A matrix from sums cannot use `by` or `given`.", "Select cases with where.")
  }
  matrix_of_moments(take_sums(study, names, record, complete = options$missing == "listwise"), options, sides)
}
