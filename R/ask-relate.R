#' The relation of two variables
#'
#' Computes the correlation of a pair with its test, its interval, and what was left out.
#'
#' @param study A study, or a data frame.
#' @param x,y The two variables: bare names or strings. Swapping them changes nothing but their order in the result.
#' @param coefficient `"auto"` (what suits the levels of the two variables; see [advise()]), `"pearson"`, `"spearman"`,
#'   `"point-biserial"` or `"phi"`.
#' @param expect The direction predicted before seeing the data: `"either"`, `"positive"` or `"negative"`.
#' @param confidence The coverage of the interval, between 0 and 1.
#' @param interval `"analytic"` (Pearson: Fisher's z; Spearman: Bonett and Wright's z; point-biserial: the noncentral t;
#'   phi: the delta method on the z scale) or `"bootstrap"` (BCa, for any coefficient).
#' @param test `"analytic"` (Pearson, point-biserial: Student's t; Spearman: exact where counting is quick, 14 pairs
#'   without ties and up to 60 with many, else from the moments of the permutation distribution; phi: chi-squared),
#'   `"exact"` (counts all pairings: up to 10 pairs, Spearman 14 and more with ties, point-biserial 20 million ways to
#'   choose the group, phi any number) or `"permutation"` (samples them).
#' @param strength The scale behind the word for the size of r: `"cohen"` (1988), `"evans"` (1996), `"gignac"` (Gignac &
#'   Szodorai 2016), or your own cut points, such as `c(small = 0.1, large = 0.4)`.
#' @param seed A whole number that fixes the resampling; R's own random state is then left as it is. Without it the seed
#'   is drawn from R's random state and kept in the result.
#' @param resamples How many resamples or permutations, from 99 on.
#' @param threads How many threads resample; the option `unsere.threads` or 2 when `NULL`. It never changes a digit.
#' @return A relation (class `unsere_relation`), a list of: `x`, `y`, `coefficient`, `r` (unitless, in \[-1, 1\]),
#'   `r_squared`, `n` (complete pairs), `n_dropped` (cases left out), `confidence`, `ci_low`, `ci_high`, `ci_method`,
#'   `statistic` (its name), `value`, `df`, `p`, `log10_p` (exact where p is too small for a double), `p_method`,
#'   `expect`, `direction`, `strength`, `strength_scale`, `cautions` (a data frame), `pair` (the cases used), `reason`
#'   (why this coefficient), `groups` (for a point-biserial r: value, code, n, mean, sd), `largest` (the largest r that
#'   the data's own values allow: phi always, point-biserial when a group is under 10 %), `seed`, `resamples`. When all
#'   points lie on a line there is no scatter to test against: value, p and interval are then `NA` unless a test counts
#'   pairings.
#' @section Errors: `unsere_error_input` for an unknown variable or for text where numbers are wanted;
#'   `unsere_error_undefined` for a constant variable or fewer than three pairs; `unsere_error_usage` for an argument
#'   outside what is allowed.
#' @section How sure: In simulated normal data 95 % intervals held the true value in 94 to 96 % of studies at n = 10, 30
#'   and 100 and rho = 0, .3 and .7 (`bench/coverage.R`): Fisher's z and the noncentral t everywhere, Bonett and
#'   Wright's from n = 30 on (97 % at n = 10), phi's delta method from n = 30 on (75 to 94 % at n = 10). BCa bootstrap:
#'   93 to 96 %.
#' @section How exact: r, t and p of Pearson and point-biserial agree with exact arithmetic to 14, 13 and 10 digits
#'   (`bench/accuracy.R`). Spearman's p is exact wherever counting is quick. Elsewhere it is approximate: against the
#'   exact distribution of 15 pairs without ties (`bench/spearman.R`) it was off by at most 0.8 % of itself where p is
#'   above .05, 0.7 % between .01 and .05, 7 % between .001 and .01, and by less than half of itself below .001; the
#'   errors shrink as n grows.
#' @references Pearson, K. (1895). Notes on regression and inheritance in the case of two parents. *Proceedings of the
#'   Royal Society of London*, 58, 240-242. Student (1908). Probable error of a correlation coefficient. *Biometrika*,
#'   6, 302-310. Fisher, R. A. (1921). On the "probable error" of a coefficient of correlation deduced from a small
#'   sample. *Metron*, 1, 3-32. Spearman, C. (1904). The proof and measurement of association between two things.
#'   *American Journal of Psychology*, 15, 72-101. Pitman, E. J. G. (1937). Significance tests which may be applied to
#'   samples from any populations. II. *Supplement to the Journal of the Royal Statistical Society*, 4, 225-232. Bonett,
#'   D. G., & Wright, T. A. (2000). Sample size requirements for estimating Pearson, Kendall and Spearman correlations.
#'   *Psychometrika*, 65, 23-28. Hedges, L. V., & Olkin, I. (1985). *Statistical methods for meta-analysis*. Academic
#'   Press. Yule, G. U. (1912). On the methods of measuring association between two attributes. *Journal of the Royal
#'   Statistical Society*, 75, 579-652. Bishop, Y. M. M., Fienberg, S. E., & Holland, P. W. (1975). *Discrete
#'   multivariate analysis*. MIT Press. Efron, B. (1987). Better bootstrap confidence intervals. *Journal of the
#'   American Statistical Association*, 82, 171-185.
#' @examples
#' learners <- demo_study("learners")
#' relate(learners, practice_hours, speaking_score)
#' relate(learners, "commute_min", "attendance_pct", expect = "negative")
#' relate(learners, study_partner, speaking_score)
#' relate(learners, confidence, speaking_score, interval = "bootstrap", resamples = 999, seed = 14)
#' @export
relate <- function(study, x, y, coefficient = "auto", expect = "either", confidence = 0.95, interval = "analytic",
                   test = "analytic", strength = "cohen", seed = NULL, resamples = 10000, threads = NULL) {
  study <- check_study(study)
  x <- pick_one(study, rlang::enquo(x), "x")
  y <- pick_one(study, rlang::enquo(y), "y")
  relate_names(study, x, y, coefficient, expect, confidence, interval, test, strength, seed, resamples, threads)
}

#' The same for names in strings
#' @noRd
relate_names <- function(study, x, y, coefficient = "auto", expect = "either", confidence = 0.95, interval = "analytic",
                         test = "analytic", strength = "cohen", seed = NULL, resamples = 10000, threads = NULL) {
  check_expect(expect)
  check_confidence(confidence)
  one_of(interval, c("analytic", "bootstrap"), "interval")
  one_of(test, c("analytic", "exact", "permutation"), "test")
  scale <- strength_scale(strength)
  if (!is.null(seed)) sound_seed(seed)
  pair <- pair_of(study, x, y)
  choice <- settle_coefficient(coefficient, pair)
  if (choice$coefficient %in% c("point-biserial", "phi")) pair <- zero_one_pair(pair)
  sampled <- interval == "bootstrap" || test == "permutation"
  draws <- if (sampled) resampling_plan(resamples, seed, threads)
  relation <- relation_of(pair, choice, expect, confidence, interval, test, scale, draws)
  relation$cautions <- relation_cautions(relation, study)
  relation
}

#' The relation of a pair that has been settled
#' @noRd
relation_of <- function(pair, choice, expect, confidence, interval, test, scale, draws) {
  coefficient <- choice$coefficient
  n <- length(pair$x)
  found <- measure_coefficient(pair$x, pair$y, coefficient, c(pair$x_name, pair$y_name))
  tested <- test_coefficient(found, coefficient, test, expect, draws)
  groups <- groups_of(pair, coefficient)
  around <- interval_coefficient(found, coefficient, interval, confidence, draws)
  new_relation(
    x = pair$x_name, y = pair$y_name, coefficient = coefficient, r = found$r, r_squared = 1 - found$unexplained, n = n,
    n_dropped = sum(pair$dropped), confidence = confidence, ci_low = around$ci_low, ci_high = around$ci_high,
    ci_method = around$ci_method, statistic = tested$statistic, value = tested$value, df = tested$df, p = tested$p,
    log10_p = tested$log10_p, p_method = tested$p_method, expect = expect, direction = direction_of(found$r),
    strength = strength_word(found$r, scale), strength_scale = scale$name, scale = scale, cautions = new_cautions(),
    pair = pair, reason = choice$reason, groups = groups, largest = largest_of(pair, groups, coefficient, found$r),
    seed = draws$seed, resamples = draws$resamples
  )
}

groups_of <- function(pair, coefficient) {
  if (coefficient != "point-biserial") return(NULL)
  if (length(unique(pair$x)) == 2L) {
    binary_groups(pair$x, pair$y, pair$coding$x)
  } else {
    binary_groups(pair$y, pair$x, pair$coding$y)
  }
}

#' The largest r of its sign that the values allow: for phi, and for a split with under a tenth on one side
#' @noRd
largest_of <- function(pair, groups, coefficient, r) {
  wanted <- coefficient == "phi" || (!is.null(groups) && min(groups$n) < sum(groups$n) / 10)
  if (wanted && r != 0) largest_attainable(pair$x, pair$y, sign(r)) else NULL
}

direction_of <- function(r) c("negative", "none", "positive")[sign(r) + 2]
