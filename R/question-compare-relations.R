#' Compare two correlations
#'
#' Tests whether two correlations differ, from different cases or from the same cases, with one variable in
#' common or none. If the two samples overlap in part, both correlations are recomputed from the common
#' cases, and the result says so.
#'
#' @param a,b Relations from [relate()].
#' @param cases `"different"` or `"same"`. Default (`NULL`): from the case names and the origin of the data.
#' @param smallest The smallest difference that matters: is the difference shown to be smaller in size, by
#'   two one-sided tests (the interval at confidence 1 - 2 alpha lies between -smallest and smallest)?
#'   Default: not tested.
#' @return A comparison (class `unsere_difference`), a list of:
#'   * `a`, `b` (what was compared), `r_a`, `r_b`, `n_a`, `n_b`, `cases`
#'   * `coefficient_a`, `coefficient_b` (as computed here: both by ranks if one is)
#'   * `difference` (r of `a` minus r of `b`), `ci_low`, `ci_high` (for different cases and for a common
#'     variable), `confidence`, `statistic`, `value`, `df`, `p`
#'   * with `smallest`: `smallest`, `smallest_verdict` (see [relate()]), `smallest_confidence`,
#'     `smallest_low`, `smallest_high`
#'   * `jackknife`: `ci_low`, `ci_high`, `p`, `df` of the difference, which does not presume a normal
#'     distribution and is advised where it differs
#' @section Errors: `unsere_error_usage` if either is not a relation, both are of the same pair, their
#'   confidence levels differ, fewer than four cases are in common, or overlapping cases are declared
#'   different; `unsere_error_undefined` for r of 1 or -1, a variable that is constant in the common cases,
#'   and two variables that are copies of each other.
#' @section Tests: Different cases: the difference of Fisher's z (for Spearman's rs with the standard error
#'   of ranks). The same cases with a common variable: Williams' t; without one: Steiger's z. These tests
#'   presume a normal distribution: in uncorrelated heavy-tailed data Williams' t has p < .05 in up to a
#'   third of the samples, the jackknife in .04 to .06 (`bench/jackknife.R`).
#' @references Fisher, R. A. (1921). *Metron*, 1, 3-32. Williams, E. J. (1959). *Journal of the Royal
#'   Statistical Society B*, 21, 396-399. Steiger, J. H. (1980). *Psychological Bulletin*, 87, 245-251. Zou,
#'   G. Y. (2007). *Psychological Methods*, 12, 399-413. Bonett, D. G., & Wright, T. A. (2000).
#'   *Psychometrika*, 65, 23-28.
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
compare_relations <- function(a, b, cases = NULL, smallest = NULL) {
  check_comparable(a)
  check_comparable(b)
  if (a$confidence != b$confidence) {
    abort_usage("The two relations have different confidence levels.", "Compute both with the same.")
  }
  cases <- settle_cases(a, b, cases)
  compare <- if (cases == "same") compare_same else compare_different
  comparison <- compare(a, b)
  compared <- new_result("difference", c(
    list(a = paste(a$x, a$y, sep = " and "), b = paste(b$x, b$y, sep = " and ")), comparison,
    list(difference = comparison$r_a - comparison$r_b, confidence = a$confidence, cases = cases, relations = list(a, b))
  ), c(
    "a", "b", "r_a", "r_b", "difference", "ci_low", "ci_high", "confidence", "statistic", "value", "df", "p", "n_a",
    "n_b", "cases", "coefficient_a", "coefficient_b", "jackknife"
  ))
  if (is.null(smallest)) compared else with_smallest_difference(compared, smallest, compare)
}

#' A comparison with its verdict on the smallest difference that matters
#' @references Goertzen & Cribbie (2010); Counsell & Cribbie (2015), British Journal of Mathematical and
#'   Statistical Psychology 68, 292-309.
#' @noRd
with_smallest_difference <- function(compared, smallest, compare) {
  check_argument(smallest, argument("number", "", from = 0, to = 2, inside = TRUE), "smallest")
  level <- signif(1 - 2 * alpha_of(compared$confidence), 10)
  if (level <= 0) abort_usage("With `smallest` the confidence must be above 0.5.", "For example 0.95.")
  inner <- compare(at_confidence(compared$relations[[1]], level), at_confidence(compared$relations[[2]], level))
  limits <- function(result) {
    unlist((if (is.na(result$ci_low)) result$jackknife else result)[c("ci_low", "ci_high")], use.names = FALSE)
  }
  compared[c("smallest", "smallest_confidence")] <- list(smallest, level)
  compared[c("smallest_low", "smallest_high")] <- as.list(limits(inner))
  outer <- limits(compared)
  compared$smallest_verdict <- smallest_verdict(list(
    smallest = smallest, ci_low = outer[[1]], ci_high = outer[[2]], smallest_low = compared$smallest_low,
    smallest_high = compared$smallest_high, p = compared$p, tested_at = compared$confidence
  ))
  compared
}

# A relation with its interval at another confidence, from the spread of its z.
at_confidence <- function(relation, level) {
  textbook <- relation$scheme %in% c("simple", "moments") && !takes_own_spread(relation)
  limits <- interval_from_z(
    relation$r, (1 - relation$r) * (1 + relation$r), relation$z_variance, level, if (textbook) Inf else relation$df
  )
  relation[c("confidence", "ci_low", "ci_high")] <- list(level, limits$ci_low, limits$ci_high)
  relation
}

check_comparable <- function(one) {
  if (!inherits(one, "unsere_relation")) abort_usage("Both must be relations.", "Make them with relate().")
  if (is.na(one$r) || abs(one$r) == 1) {
    abort_undefined(problem("r of %s and %s is %s; there is nothing to compare.", one$x, one$y, format(one$r)))
  }
}

settle_cases <- function(a, b, cases) {
  if (!is.null(cases)) one_of(cases, c("same", "different"), "cases")
  common <- length(intersect(sample_cases(a$sample), sample_cases(b$sample)))
  settled <- if (is.null(cases) || cases == "different") cases_of_both(a, b)
  if (is.null(cases)) return(settled)
  if (cases == "different" && settled == "same") {
    abort_usage(
      problem("The two have %s in common, so they are not from different cases.", count_in_english(common, "case")),
      "Compare two groups without common cases, or the same cases."
    )
  }
  cases
}

cases_of_both <- function(a, b) {
  common <- intersect(sample_cases(a$sample), sample_cases(b$sample))
  origin <- function(one) one$sample$origin[c("path", "state")]
  if (!length(common) || !identical(origin(a), origin(b))) return("different")
  if (!is.null(a$sample$origin$state)) return("same")
  # Names of cases may be mere numbers; who answered alike in every variable is the same.
  shared <- intersect(c(a$x, a$y), c(b$x, b$y))
  if (!length(shared)) {
    if (length(common) <= min(a$n, b$n) / 2) return("different")
    abort_usage("It is not clear whether both are from the same cases.", "Say cases = \"same\" or cases = \"different\".")
  }
  values <- function(one) lapply(shared, function(name) one$sample$columns[[name]][match(common, sample_cases(one$sample))])
  if (length(common) >= 4L && identical(values(a), values(b))) "same" else "different"
}

compare_different <- function(a, b) {
  sides <- list(a, b)
  names <- list(
    r_a = a$r, r_b = b$r, n_a = a$n, n_b = b$n, coefficient_a = a$coefficient, coefficient_b = b$coefficient
  )
  variance <- vapply(sides, `[[`, 0, "z_variance")
  independent <- vapply(sides, function(of) of$scheme %in% c("simple", "moments") && cases_worth(of) == of$n, NA)
  if (!all(independent)) {
    # The spread of each z is that of its own scheme.
    df <- sum(vapply(sides, function(of) if (is.na(of$df)) of$n - 2 else of$df, 0))
    value <- (atanh(a$r) - atanh(b$r)) / sqrt(sum(variance))
    by_units <- any(vapply(sides, function(of) !is.null(of$design), NA))
    tested <- list(statistic = if (by_units) "t by units" else "t", value = value, df = df, p = p_two_sided(value, df))
    return(c(tested, interval_difference(a, b), names, list(jackknife = no_jackknife(df))))
  }
  replicates <- lapply(sides, function(of) left_out_each(coefficient_record(of$coefficient), of$estimate))
  spread <- sqrt(sum(vapply(replicates, jackknife_variance, 0)))
  c(
    test_two_samples(a$r, variance[1], b$r, variance[2]), interval_difference(a, b), names,
    list(jackknife = difference_by_jackknife(a$r - b$r, spread, a$n + b$n - 4, a$confidence))
  )
}

# How many independent cases its own interval counts.
cases_worth <- function(relation) {
  if (isTRUE(relation$ci_method %in% dependent_methods)) min(relation$n, 1 / relation$z_variance + 3) else relation$n
}

no_jackknife <- function(df) list(ci_low = NA_real_, ci_high = NA_real_, p = NA_real_, df = df)

compare_same <- function(a, b) {
  if (setequal(c(a$x, a$y), c(b$x, b$y))) {
    abort_usage("Both relations are of the same pair.", "Compare two different ones, or groups without common cases.")
  }
  common <- intersect(sample_cases(a$sample), sample_cases(b$sample))
  if (length(common) < 4L) abort_usage(
    "The two have fewer than four cases in common.",
    "Compare relations with more common cases."
  )
  check_same_scheme(a, b)
  records <- same_scores(lapply(list(a, b), function(one) coefficient_record(one$coefficient)))
  columns <- common_columns(a, b, common)
  constant <- vapply(columns, function(v) min(v) == max(v), NA)
  if (any(constant)) {
    abort_undefined(
      problem("%s is constant in all %d common cases.", names(columns)[constant][1], length(common)),
      "Compare relations with more common cases."
    )
  }
  columns <- lapply(columns, records[[1]]$scores)
  pairs <- list(c(a$x, a$y), c(b$x, b$y))
  estimates <- Map(function(pair, record) rated(columns[[pair[1]]], columns[[pair[2]]], record), pairs, records)
  copies <- vapply(estimates, function(e) abs(e$r) == 1, NA)
  if (any(copies)) abort_undefined(problem("r of %s is 1 or -1 here.", paste(pairs[[which(copies)[1]]], collapse = " and ")))
  if (!is.null(a$design) && !is.null(b$design)) {
    comparison <- compare_by_design(a, pairs, columns, common, records[[1]]$resistant)
    return(c(comparison, list(
      n_a = length(common), n_b = length(common), coefficient_a = records[[1]]$name, coefficient_b = records[[2]]$name,
      jackknife = no_jackknife(comparison$df)
    )))
  }
  worth <- min(length(common), cases_worth(a), cases_worth(b))
  comparison <- compare_scores(pairs, columns, a$confidence, max(worth, 4))
  replicates <- Map(left_out_each, records, estimates)
  r <- vapply(estimates, `[[`, 0, "r")
  n <- length(common)
  spread <- sqrt(jackknife_variance(replicates[[1]] - replicates[[2]]))
  robust <- if (!is.null(comparison$error)) {
    robust_difference(r[1] - r[2], replicates[[1]] - replicates[[2]], comparison$error, a$confidence)
  }
  comparison <- utils::modifyList(comparison, c(robust, list(error = NULL)))
  c(comparison, list(
    r_a = r[1], r_b = r[2], n_a = n, n_b = n, coefficient_a = records[[1]]$name, coefficient_b = records[[2]]$name,
    jackknife = difference_by_jackknife(r[1] - r[2], spread, n - 2, a$confidence)
  ))
}

# What is not compared on the same cases says so.
check_same_scheme <- function(a, b) {
  for (of in list(a, b)) if (length(of$given) || !is.null(of$plausible)) {
    abort_usage(
      problem("Two correlations of the same cases cannot be compared with %s.", find_scheme(
        if (length(of$given)) "controlled" else "plausible"
      )$described),
      if (length(of$given)) {
        "The effect of control variables is assessed by flag_spurious(candidates = ...)."
      } else {
        "rank_predictors() compares predictors of a score with plausible values."
      }
    )
  }
}

# On the same cases of a design: how r differ without each unit.
compare_by_design <- function(a, pairs, columns, common, ranked) {
  design <- sample_design(sample_part(a$sample, match(common, sample_cases(a$sample))))
  at <- lapply(pairs, match, names(columns))
  difference_by_design(do.call(cbind, columns), at[[1]], at[[2]], design, ranked, a$confidence)
}

# One kind of score for both: ranks where either is of ranks.
same_scores <- function(records) {
  if (!all(vapply(records, `[[`, NA, "products"))) {
    abort_usage(
      "These two cannot be compared in the same cases: they are not product-moment correlations.",
      "Compare r of the values or of ranks."
    )
  }
  ranked <- Find(function(record) !identical(record$scores, as.double), records)
  if (is.null(ranked)) records else list(ranked, ranked)
}

rated <- function(x, y, record) {
  r <- r_plain(x, y)
  new_estimate(record$name, x, y, r, (1 - r) * (1 + r))
}

#' The test and the interval from the r among three or four columns
#' @noRd
compare_scores <- function(pairs, columns, confidence, n) {
  r <- function(x, y) r_plain(columns[[x]], columns[[y]])
  shared <- intersect(pairs[[1]], pairs[[2]])
  others <- c(setdiff(pairs[[1]], shared), setdiff(pairs[[2]], shared))
  copies <- function(x, y) abs(r(x, y)) >= 1 - 1e-14
  if (length(shared) && copies(others[1], others[2])) {
    abort_undefined(
      problem("%s and %s are the same measure, so both correlations are equal.", others[1], others[2]),
      "Compare two measures."
    )
  }
  if (!length(shared)) {
    four <- unlist(pairs)
    all <- outer(four, four, Vectorize(function(x, y) if (x == y) 1 else r(x, y)))
    return(c(test_steiger(all, n), list(ci_low = NA_real_, ci_high = NA_real_)))
  }
  r_a <- r(shared, others[1])
  r_b <- r(shared, others[2])
  between <- r(others[1], others[2])
  limits <- interval_difference(
    fisher_limits(r_a, n, confidence), fisher_limits(r_b, n, confidence), correlation_of_shared(r_a, r_b, between)
  )
  c(test_williams(r_a, r_b, between, n), limits)
}

common_columns <- function(a, b, common) {
  out <- list()
  for (one in list(a, b)) for (name in one$sample$names) {
    out[[name]] <- one$sample$columns[[name]][match(common, sample_cases(one$sample))]
  }
  out
}
