#' The relation of two variables
#'
#' Computes the correlation of a pair with its test, its interval, and what was left out.
#'
#' @param study A study, or a data frame.
#' @param x,y The two variables: bare names or strings. Swapping them changes nothing but their order in the result.
#' @param coefficient `"auto"` (what suits the levels of the two variables) or `"pearson"`.
#' @param expect The direction predicted before seeing the data: `"either"`, `"positive"` or `"negative"`.
#' @param confidence The coverage of the interval, between 0 and 1.
#' @param strength The scale behind the word for the size of r: `"cohen"` (1988), `"evans"` (1996), `"gignac"` (Gignac &
#'   Szodorai 2016), or your own cut points, such as `c(small = 0.1, large = 0.4)`.
#' @return A relation (class `unsere_relation`), a list of: `x`, `y`, `coefficient`, `r` (unitless, in \[-1, 1\]),
#'   `r_squared`, `n` (complete pairs), `n_dropped` (cases left out), `confidence`, `ci_low`, `ci_high`, `ci_method`,
#'   `statistic` (its name), `value`, `df`, `p`, `log10_p` (exact where p is too small for a double), `p_method`,
#'   `expect`, `direction`, `strength`, `strength_scale`, `cautions` (a data frame), `pair` (the cases used). When all
#'   points lie on a line there is no scatter to test against, and value, p and interval are `NA`.
#' @section Errors: `unsere_error_input` for an unknown variable or for text where numbers are wanted;
#'   `unsere_error_undefined` for a constant variable or fewer than three pairs; `unsere_error_usage` for an argument
#'   outside what is allowed.
#' @references Pearson, K. (1895). Notes on regression and inheritance in the case of two parents. *Proceedings of the
#'   Royal Society of London*, 58, 240-242. Student (1908). Probable error of a correlation coefficient. *Biometrika*,
#'   6, 302-310. Fisher, R. A. (1921). On the "probable error" of a coefficient of correlation deduced from a small
#'   sample. *Metron*, 1, 3-32.
#' @examples
#' learners <- demo_study("learners")
#' relate(learners, practice_hours, speaking_score)
#' relate(learners, "commute_min", "attendance_pct", expect = "negative")
#' @export
relate <- function(study, x, y, coefficient = "auto", expect = "either", confidence = 0.95, strength = "cohen") {
  study <- check_study(study)
  x <- pick_one(study, rlang::enquo(x), "x")
  y <- pick_one(study, rlang::enquo(y), "y")
  relate_names(study, x, y, coefficient, expect, confidence, strength)
}

#' The same for names in strings
#' @noRd
relate_names <- function(study, x, y, coefficient = "auto", expect = "either", confidence = 0.95, strength = "cohen") {
  one_of(coefficient, c("auto", "pearson"), "coefficient")
  check_expect(expect)
  check_confidence(confidence)
  scale <- strength_scale(strength)
  pair <- pair_of(study, x, y)
  n <- length(pair$x)
  found <- measure_pearson(pair$x, pair$y, c(x, y))
  test <- test_student(found$r, found$unexplained, n, expect)
  interval <- interval_fisher(found$r, found$unexplained, n, confidence)
  new_relation(
    x = x, y = y, coefficient = "pearson", r = found$r, r_squared = 1 - found$unexplained, n = n,
    n_dropped = sum(pair$dropped), confidence = confidence, ci_low = interval$ci_low, ci_high = interval$ci_high,
    ci_method = interval$ci_method, statistic = test$statistic, value = test$value, df = test$df, p = test$p,
    log10_p = test$log10_p, p_method = "analytic", expect = expect, direction = direction_of(found$r),
    strength = strength_word(found$r, scale), strength_scale = scale$name, scale = scale, cautions = new_cautions(),
    pair = pair
  )
}

direction_of <- function(r) c("negative", "none", "positive")[sign(r) + 2]
