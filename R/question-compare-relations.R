#' Is one r larger than another?
#'
#' Two relations of different cases, or of the same cases with one variable in common or none.
#'
#' @param a,b Relations from [relate()].
#' @param cases `"different"` or `"same"`; found from the cases' names and the data's origin when `NULL`.
#' @return A comparison (class `unsere_difference`), a list of `a`, `b` (what was compared), `r_a`, `r_b`, `difference`
#'   (r of `a` less r of `b`), `ci_low`, `ci_high` (for different cases and for a shared variable), `confidence`,
#'   `statistic`, `value`, `df`, `p`, `n_a`, `n_b`, `cases`.
#' @section Errors: `unsere_error_usage` when either is no relation, both are the same pair, or the same cases have
#'   fewer than four in common; `unsere_error_undefined` for r of 1 or -1.
#' @section The test: Different cases: the difference of Fisher's z, of Spearman's with the wider spread of ranks. The
#'   same cases, one variable shared: Williams' t. None shared: Steiger's z.
#' @references Fisher, R. A. (1921). *Metron*, 1, 3-32. Williams, E. J. (1959). *Journal of the Royal Statistical
#'   Society B*, 21, 396-399. Steiger, J. H. (1980). *Psychological Bulletin*, 87, 245-251. Zou, G. Y. (2007).
#'   *Psychological Methods*, 12, 399-413. Bonett, D. G., & Wright, T. A. (2000). *Psychometrika*, 65, 23-28.
#' @examples
#' learners <- demo_study("learners")
#' compare_relations(
#'   relate(learners, practice_hours, speaking_score),
#'   relate(learners, practice_hours, listening_score)
#' )
#' week_14 <- relate(demo_study("pulse_week_14"), energy, support)
#' week_15 <- relate(demo_study("pulse_week_15"), energy, support)
#' compare_relations(week_14, week_15, cases = "different")
#' @export
compare_relations <- function(a, b, cases = NULL) {
  check_comparable(a)
  check_comparable(b)
  if (is.null(cases)) cases <- cases_of_both(a, b)
  one_of(cases, c("same", "different"), "cases")
  found <- if (cases == "same") compare_same(a, b) else compare_different(a, b)
  new_result("difference", c(
    list(a = paste(a$x, a$y, sep = " and "), b = paste(b$x, b$y, sep = " and ")), found,
    list(difference = found$r_a - found$r_b, confidence = a$confidence, cases = cases, relations = list(a, b))
  ), c(
    "a", "b", "r_a", "r_b", "difference", "ci_low", "ci_high", "confidence", "statistic", "value", "df", "p", "n_a",
    "n_b", "cases"
  ))
}

check_comparable <- function(one) {
  if (!inherits(one, "unsere_relation")) abort_usage("Both must be relations.", "Make them with relate().")
  if (abs(one$r) == 1) {
    abort_undefined(sprintf("r of %s and %s is %s; there is nothing to compare.", one$x, one$y, format(one$r)))
  }
}

compare_different <- function(a, b) {
  variance <- function(one) coefficient_record(one$coefficient)$z_variance(one$r, one$n)
  c(
    test_two_samples(a$r, variance(a), b$r, variance(b)), interval_difference(a, b),
    list(r_a = a$r, r_b = b$r, n_a = a$n, n_b = b$n)
  )
}

cases_of_both <- function(a, b) {
  common <- intersect(sample_cases(a$sample), sample_cases(b$sample))
  origin <- function(one) one$sample$origin[c("path", "digest")]
  if (length(common) <= min(a$n, b$n) / 2 || !identical(origin(a), origin(b))) return("different")
  if (!is.null(a$sample$origin$digest)) return("same")
  shared <- intersect(c(a$x, a$y), c(b$x, b$y))
  if (!length(shared)) {
    abort_usage("It cannot be seen whether both are of the same cases.", "Say cases = \"same\" or cases = \"different\".")
  }
  values <- function(one) one$sample$columns[[shared[1]]][match(common, sample_cases(one$sample))]
  if (identical(values(a), values(b))) "same" else "different"
}

compare_same <- function(a, b) {
  variables <- unique(c(a$x, a$y, b$x, b$y))
  if (length(variables) == 2L) abort_usage("Both relations are of the same pair.", "Compare two different ones.")
  records <- lapply(list(a, b), function(one) coefficient_record(one$coefficient))
  if (!all(vapply(records, `[[`, NA, "products"))) {
    abort_usage(
      "These two cannot be compared on the same cases: their r are not of products.", "Compare r of the values or of ranks."
    )
  }
  common <- intersect(sample_cases(a$sample), sample_cases(b$sample))
  if (length(common) < 4L) abort_usage("The two share fewer than four cases.", "Use cases = \"different\".")
  # One kind of score for both: ranks where either is of ranks.
  ranked <- Find(function(record) !identical(record$scores, as.double), records)
  columns <- common_columns(a, b, common)
  if (!is.null(ranked)) columns <- lapply(columns, ranked$scores)
  r <- function(x, y) r_plain(columns[[x]], columns[[y]])
  shared <- intersect(c(a$x, a$y), c(b$x, b$y))
  n <- length(common)
  if (length(shared) == 1L) return(compare_with_shared(a, b, shared, r, n))
  four <- c(a$x, a$y, b$x, b$y)
  all <- outer(four, four, Vectorize(function(x, y) if (x == y) 1 else r(x, y)))
  c(
    test_steiger(all, n),
    list(ci_low = NA_real_, ci_high = NA_real_, r_a = all[1, 2], r_b = all[3, 4], n_a = n, n_b = n)
  )
}

compare_with_shared <- function(a, b, shared, r, n) {
  others <- c(setdiff(c(a$x, a$y), shared), setdiff(c(b$x, b$y), shared))
  r_a <- r(shared, others[1])
  r_b <- r(shared, others[2])
  between <- r(others[1], others[2])
  limits <- interval_difference(
    fisher_limits(r_a, n, a$confidence), fisher_limits(r_b, n, a$confidence), correlation_of_shared(r_a, r_b, between)
  )
  c(test_williams(r_a, r_b, between, n), limits, list(r_a = r_a, r_b = r_b, n_a = n, n_b = n))
}

fisher_limits <- function(r, n, confidence) c(list(r = r), interval_fisher(r, (1 - r) * (1 + r), n, confidence))

common_columns <- function(a, b, common) {
  out <- list()
  for (one in list(a, b)) for (name in one$sample$names) {
    out[[name]] <- one$sample$columns[[name]][match(common, sample_cases(one$sample))]
  }
  out
}
