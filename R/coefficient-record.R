# What a coefficient is to the rest of the house: a record. Each stands in a file of its own, `coefficient-NAME.R`, as a
# function `record_NAME()` that builds it, and is found by that name; nothing else in the house names it.

#' A coefficient's record
#'
#' @param name What users call it; `place` its place in lists.
#' @param symbol As printed: in UTF-8, and in ASCII; `adjective` as in "All r are ...".
#' @param suits From two levels to whether it is the one to take; `why` the reason, as a clause.
#' @param two_valued How many of the two variables must have two values; `NA` where any will do.
#' @param linear Whether it sees the straight part of a relation alone, so that a bend, an uneven spread or few values
#'   mislead it; `resistant` whether it is what to turn to then; `one_scale` whether r of 1 means one measure twice.
#' @param scores From values to what is correlated; `without_each` from an estimate to r without each case in turn, `NULL`
#'   where no case can be singled out.
#' @param estimate From a sample to an estimate.
#' @param tests,intervals By kind, the analytic one first: `test(estimate, expect, draws)`,
#'   `interval(estimate, confidence, draws)`.
#' @param matrix `kernel(columns, wanted, threads, tick)` and, where pairs can be treated together,
#'   `log_p(pairs, expect)` and `limits(pairs, confidence)`; what is lacking is done pair by pair.
#' @param statistic From r, unexplained and n to the statistic reported in lists: `statistic`, `value`, `df`.
#' @param z_variance From r and n to the variance of atanh(r), by `z_method`; `interval_method` what its own
#'   interval is by; `products` whether r is that of products of scores, so that r of the same cases can be compared.
#' @param planning `shape(r, n)`: the `mean`, `variance` and `skewness` that the sample's has where the whole's is r, and
#'   `limit(n, sided)`: from where on the test is clear on one side; `sample(r, n)`, of few cases: coefficients drawn; `NULL`
#'   where power is had without.
#' @param moments Whether r is that of the moments of the values themselves, so that a case or a class is taken out
#'   by subtraction.
#' @param spread From an estimate to how far Fisher's z moves when each case is left out: see [spread_of_pairs()]; `robust`
#'   from an estimate and its spread to whether interval and test are the jackknife's; `NULL` where they never are unasked.
#' @param label What it is called in texts where that is not its name: in UTF-8, and in ASCII.
#' @param categories How many of the two variables are taken as groups without an order.
#' @param signed Whether it has a direction; of one that has none the interval goes with a one-sided test, so that it is of
#'   90 % where others are of 95 %.
#' @param scale From a scale of words for size, and an estimate, to that scale for this coefficient; `details` from an
#'   estimate to further fields of the relation.
#' @param words Clauses: `r_squared` (of what it is the share; `NULL` where it is none), `mixture` (in a matrix of several;
#'   `%s` the variables of `mixture_level`), `counts` (n where there are no degrees of freedom), `look_also` (advice).
#' @param method How it was done, a sentence; `sources` its references.
#' @noRd
new_coefficient <- function(name, place, symbol, adjective, suits, why, two_valued = NA, linear = FALSE,
                            resistant = FALSE, one_scale = TRUE, scores = as.double, estimate, tests, intervals,
                            matrix, statistic, z_variance, z_method = "fisher z", interval_method = z_method,
                            planning = NULL, products = TRUE, moments = FALSE, spread = NULL, robust = NULL, label = NULL,
                            categories = 0L, signed = TRUE,
                            scale = function(scale, estimate) scale, details = function(estimate) NULL,
                            without_each = each_without, words, method, sources) {
  structure(as.list(environment()), class = "unsere_coefficient")
}

each_without <- function(estimate) r_without_each(estimate$x, estimate$y)

#' All records, in their order
#' @noRd
coefficient_records <- function() collect_records("record")

coefficient_names <- function() names(coefficient_records())

coefficient_record <- function(name) coefficient_records()[[name]]

#' The record that a pair of levels asks for
#' @noRd
choose_coefficient <- function(levels) Find(function(record) record$suits(levels), coefficient_records())

#' The kinds of test, or of interval, that some coefficient has
#' @noRd
coefficient_kinds <- function(field) unique(unlist(lapply(coefficient_records(), function(record) names(record[[field]]))))

#' The record whose r is that of the straight line
#' @noRd
straight_record <- function() Find(function(record) record$linear, coefficient_records())

#' The record to turn to where the straight one misleads
#' @noRd
resistant_record <- function() Find(function(record) record$resistant, coefficient_records())

#' The coefficient of each pair of columns: chosen by their levels, or the one asked for where it suits
#' @param coefficient `"auto"`, or a name.
#' @return A character matrix, `NA` where the one asked for does not suit.
#' @noRd
pair_kinds <- function(levels, coefficient) {
  p <- length(levels)
  if (coefficient != "auto" && coefficient_record(coefficient)$categories) return(kinds_of_groups(levels, coefficient))
  if (coefficient != "auto" && is.na(coefficient_record(coefficient)$two_valued)) return(matrix(coefficient, p, p))
  at <- match(levels, level_names)
  of_levels <- outer(level_names, level_names, Vectorize(function(a, b) {
    if ("nominal" %in% c(a, b)) NA_character_ else choose_coefficient(c(a, b))$name
  }))
  kinds <- of_levels[at, at, drop = FALSE]
  dimnames(kinds) <- NULL
  if (coefficient != "auto") {
    binary <- outer(levels == "binary", levels == "binary", `+`)
    kinds <- matrix(ifelse(binary == coefficient_record(coefficient)$two_valued, coefficient, NA_character_), p, p)
  }
  kinds
}

#' Pairs whose levels a coefficient of groups suits
#' @noRd
kinds_of_groups <- function(levels, coefficient) {
  suits <- coefficient_record(coefficient)$suits
  matrix(ifelse(outer(levels, levels, Vectorize(function(a, b) suits(c(a, b)))), coefficient, NA_character_), length(levels))
}

#' The level of the interval that goes with a test at the level asked for
#' @noRd
interval_level <- function(record, confidence) if (record$signed) confidence else signif(2 * confidence - 1, 10)
