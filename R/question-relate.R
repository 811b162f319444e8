#' Correlate two variables
#'
#' Computes the correlation of two variables with its significance test, confidence interval, number of
#' cases and cautions. By default the coefficient follows from the levels of measurement.
#'
#' @param study A study, or a data frame; or moments from [gather_moments()], or counts from
#'   [gather_counts()].
#' @param x,y The two variables: bare names or strings. Their order affects only the order in the result.
#' @eval help_arguments("relate")
#' @return A relation (class `unsere_relation`), a list of:
#'   * `x`, `y`, `coefficient`, `chosen` (`"auto"`, or `"asked"` if the coefficient was given)
#'   * `r` (unitless, in \[-1, 1\]), `r_squared`, `direction`, `strength`, `strength_scale`
#'   * `n` (complete pairs), `n_dropped` (cases excluded), `sample` (the cases used)
#'   * `confidence`, `ci_low`, `ci_high`, `ci_method`
#'   * `textbook` (if another interval and test were chosen): `ci_low`, `ci_high`, `ci_method`, `statistic`,
#'     `value`, `df`, `p`; `n_effective` (the effective sample size)
#'   * `statistic` (its name), `value`, `df`, `p`, `log10_p` (exact even if p underflows), `p_method`,
#'     `expect`, `seed`, `resamples`
#'   * `cautions`: see [cautions()]
#'   * `groups`: for a point-biserial r the value, code, n, mean and sd of each group
#'   * `largest`: the maximum possible r given the group sizes (phi always; point-biserial if a group holds
#'     less than 10 %)
#'   * for eta: `group_means` (value, n, mean, sd), `df_residual`, `epsilon_squared`; for Cramer's V:
#'     `counts` (x, y, n, expected), `bias_corrected`. Both have no sign, so `direction` is `NA`. Their
#'     interval is of 90 %, which corresponds to a test at 5 %; `tested_at` holds the confidence asked for.
#'   * with `correct_for`: `reliability` (by name), `corrected` (r corrected for attenuation, which may
#'     exceed 1), `corrected_low`, `corrected_high`
#'   * with `correct_range`: `unrestricted`, a list of `name`, `restriction`, `sd` (observed),
#'     `population_sd`, `r`, `ci_low`, `ci_high`
#'   * with `unmeasured`, if r is significant: `unmeasured`, a list of `impact` (product of the two partial
#'     correlations that an unmeasured variable would need), `each` (its square root), `least_r` (the
#'     smallest significant r), `replaced` and `cases` (proportion and number of cases to be replaced),
#'     `measured`, `stronger` (number of variables compared, and of those as strong), `strongest`,
#'     `strongest_impact`
#'   * with imputed data: `imputed` (number of completed data sets), `missing_information` (fraction)
#'   * with `smallest`: `smallest`, `smallest_verdict`, and the interval of the two one-sided tests
#'     (`smallest_confidence`, `smallest_low`, `smallest_high`)
#'
#'   If all points lie on a line, `value`, `p` and the interval are `NA`, except for permutation tests.
#' @eval help_coefficients()
#' @section Errors: `unsere_error_input` for an unknown variable, or for text where numbers are needed;
#'   `unsere_error_undefined` for a constant variable or fewer than three pairs; `unsere_error_usage` for an
#'   invalid argument.
#' @section Coverage: In simulated normal data, 95 % intervals covered the true value in 94 to 96 % of
#'   samples at n = 10, 30 and 100 and rho = 0, .3 and .7 (`bench/coverage.R`). This holds for Fisher's z
#'   and Tate's interval throughout (also with random group sizes), and for Bonett and Wright's and phi's
#'   from n = 30 on (Bonett and Wright's: 97 % at n = 10; phi's with shares of .05 to .5 and n of 20 to 200:
#'   94 to 100 %, `bench/phi.R`). The BCa bootstrap covered it in 93 to 96 %. In non-normal data (heavy
#'   tails, skew, excess zeros, heteroscedasticity, unequal groups) Fisher's z alone covered it in as few as
#'   half of the samples; `bench/route.R` simulates what is reported by default. The 90 % intervals of eta
#'   covered the true value in 88 to 92 % of normal samples with eta up to .4, in at least 84 % at eta = .7
#'   with random group sizes, and in 82 % with unequal variances and group sizes, for which a caution
#'   reports Welch's test. Those of Cramer's V covered it in 87 to 97 % for tables up to 3 by 4 and in 79 to
#'   91 % for 6 by 6 (`bench/nominal.R`).
#' @section Choice of interval and test: `interval` and `test` are `"auto"` by default. If one of them is
#'   given, the other follows it. With 12 cases or more, the jackknife standard error of Fisher's z is
#'   compared with the textbook's, 1 / sqrt(n - 3). If it is larger by a share of more than 1.2 / sqrt(n) +
#'   1 / n (at least 2 %), or the 95 % interval wider by more than 2.3 / sqrt(n) + 4.5 / n, interval and
#'   test are the jackknife's (Tukey 1958), with Student's t and Satterthwaite's (1946) degrees of freedom,
#'   between 3 and n - 2. `ci_method` and `p_method` name the method, and `textbook` holds the usual result.
#'   Tau-b with ties always uses the jackknife. In normal data about one sample in nine is treated in this
#'   way, which costs some power in small samples. Moments and databases hold no cases to leave out, so they
#'   give the textbook's result.
#' @section Cases that are not independent: If the cases come in classes, or are times, rows or places that
#'   resemble their neighbours, a caution says so, and interval and test allow for it: the jackknife over the
#'   classes (`ci_method` is `"clusters"`), or Student's t with the effective sample size (Bartlett 1935; Pyper
#'   and Peterman 1998; `"effective size"`, its number in `n_effective`). The same holds in a matrix (of
#'   classes for its 1,000 largest pairs), a ranking and a line. `textbook` holds what
#'   independent cases would give, as do `interval = "analytic"` and `test = "analytic"`.
#' @section Restriction of range: `correct_range = c(x = 9)` gives r as it would be if the standard
#'   deviation of that variable were 9, as in the population that the cases were selected from: of x or y by
#'   Thorndike's (1949) case 2 with the limits of r transformed; of a third variable by case 3; with
#'   `restriction = "indirect"` (selection by something that goes with x) by Hunter, Schmidt and Le (2006),
#'   for which `correct_for` gives the reliability of x among these cases. The limits of the last two come
#'   from leaving out each case. All assume a straight line with an equal spread over the whole range. In
#'   `bench/range.R` the intervals held the population's r in .93 to .98 of samples (n = 60 and 250, four
#'   kinds of data); where y or x is curved over the third variable, in as few as .60.
#' @section An unmeasured confounder: The impact threshold is (|r| - r#) / (1 - r#), with r# the smallest r
#'   that is significant with one more control variable (Frank 2000); the proportion of cases to be replaced
#'   is 1 - r#/|r| (Frank et al. 2013). Where the test is not the textbook's, r# comes from its own standard
#'   error and degrees of freedom. The measured variables are compared by the part of the product of x and y
#'   that lies in them, for a numeric one the product of its correlations with x and y. Other forms of x or
#'   y (r of .95 or more) are left out.
#' @section The smallest correlation that matters: With `smallest`, two one-sided tests (Goertzen and
#'   Cribbie 2010) ask whether the correlation is smaller in size than that value: it is if the interval
#'   with confidence 1 - 2 alpha (90 % at a level of .05) lies between -smallest and smallest. It is larger
#'   if the usual interval lies beyond it. `smallest_verdict` is `"larger"`, `"smaller"` (whether r is
#'   significant or not), `"uncertain"` (significant, but possibly smaller) or `"inconclusive"` (neither).
#'   Both intervals are computed by the same method. At a true r equal to `smallest`, "smaller" was given in
#'   at most 6.4 % and "larger" in at most 4.0 % of samples (nominal 5 and 2.5 %; five kinds of data, n =
#'   50, 200 and 800, `bench/smallest.R`).
#' @section Accuracy: r, t and p of Pearson and point-biserial correlations agree with exact arithmetic to
#'   14, 13 and 10 digits (`bench/accuracy.R`). Spearman's p is exact wherever enumeration is fast.
#'   Otherwise it is approximate: compared with the exact distribution for 15 pairs without ties
#'   (`bench/spearman.R`) its relative error was at most 0.8 % for p above .05, 0.7 % between .01 and .05, 7
#'   % between .001 and .01, and 50 % below .001. The errors decrease with n.
#' @references Pearson, K. (1895). Notes on regression and inheritance in the case of two parents.
#'   *Proceedings of the Royal Society of London*, 58, 240-242. Student (1908). Probable error of a
#'   correlation coefficient. *Biometrika*, 6, 302-310. Fisher, R. A. (1921). On the "probable error" of a
#'   coefficient of correlation deduced from a small sample. *Metron*, 1, 3-32. Spearman, C. (1904). The
#'   proof and measurement of association between two things. *American Journal of Psychology*, 15, 72-101.
#'   Pitman, E. J. G. (1937). Significance tests which may be applied to samples from any populations. II.
#'   *Supplement to the Journal of the Royal Statistical Society*, 4, 225-232. Bonett, D. G., & Wright, T.
#'   A. (2000). Sample size requirements for estimating Pearson, Kendall and Spearman correlations.
#'   *Psychometrika*, 65, 23-28. Tate, R. F. (1954). Correlation between a discrete and a continuous
#'   variable. *Annals of Mathematical Statistics*, 25, 603-607. Yule, G. U. (1912). On the methods of
#'   measuring association between two attributes. *Journal of the Royal Statistical Society*, 75, 579-652.
#'   Wilks, S. S. (1938). The large-sample distribution of the likelihood ratio for testing composite
#'   hypotheses. *Annals of Mathematical Statistics*, 9, 60-62. Kelley, T. L. (1935). An unbiased
#'   correlation ratio measure. *Proceedings of the National Academy of Sciences*, 21, 554-559. Steiger, J.
#'   H. (2004). Beyond the F test: Effect size confidence intervals and tests of close fit in the analysis
#'   of variance and contrast analysis. *Psychological Methods*, 9, 164-182. Bergsma, W. (2013). A
#'   bias-correction for Cramer's V and Tschuprow's T. *Journal of the Korean Statistical Society*, 42,
#'   323-328. Goertzen, J. R., & Cribbie, R. A. (2010). Detecting a lack of association: An equivalence
#'   testing approach. *British Journal of Mathematical and Statistical Psychology*, 63, 527-537. Efron, B.
#'   (1987). Better bootstrap confidence intervals. *Journal of the American Statistical Association*, 82,
#'   171-185.
#' @examples
#' learners <- demo_study("learners")
#' relate(learners, practice_hours, speaking_score)
#' relate(learners, "commute_min", "attendance_pct", expect = "negative")
#' relate(learners, study_partner, speaking_score)
#' relate(learners, centre, speaking_score)
#' relate(learners, commute_min, listening_score, given = centre)
#' relate(learners, confidence, speaking_score, interval = "bootstrap", resamples = 999, seed = 14)
#' @export
relate <- function(study, x, y, coefficient = "auto", expect = "either", confidence = 0.95, interval = "auto",
                   test = "auto", given = NULL, part = NULL, correct_for = NULL, correct_range = NULL,
                   restriction = "direct", smallest = NULL, unmeasured = FALSE, strength = "cohen", seed = NULL,
                   resamples = 10000, threads = NULL) {
  study <- check_source(study)
  controls <- pick_side(study, rlang::enquo(given))
  given <- list(
    x = pick_one(study, rlang::enquo(x), "x"), y = pick_one(study, rlang::enquo(y), "y"), coefficient = coefficient,
    given = controls, part = pick_part(study, rlang::enquo(part)), correct_for = correct_for,
    correct_range = correct_range, restriction = restriction, smallest = smallest, unmeasured = unmeasured,
    expect = expect, confidence = confidence, interval = interval, test = test, strength = strength,
    seed = seed, resamples = resamples, threads = threads
  )
  answer_relate(study, given)
}

question_relate <- function() {
  new_question(
    "relate", "relate", "correlate two variables: r, interval and test", c("FILE", "X", "Y"),
    c(
      shared_arguments("coefficient", "expect", "confidence"),
      list(
        test = argument(
          "choice", "the test (auto: textbook, or jackknife if the data require it)",
          default = "auto", value = "KIND",
          allowed = c("auto", coefficient_kinds("tests")), brief = "test"
        ),
        interval = argument(
          "choice", "the confidence interval (auto: textbook, or jackknife if the data require it)",
          default = "auto", value = "KIND",
          allowed = c("auto", coefficient_kinds("intervals")), brief = "interval"
        ),
        given = argument(
          "variables", "control variables (partial correlation)",
          value = "A,B", brief = "given"
        ),
        part = argument(
          "text", "the variable (X or Y) that alone is residualised (semipartial correlation)",
          value = "VAR", brief = "part"
        )
      ),
      corrected_arguments(),
      list(
        seed = argument(
          "whole", "a whole number that makes resampling reproducible",
          value = "N", from = -2^53, to = 2^53, brief = "settings"
        ),
        resamples = argument(
          "whole", "the number of bootstrap samples or permutations",
          default = 10000, value = "N", from = 99, to = 1e7,
          brief = "settings"
        )
      ),
      shared_arguments("threads", "strength")
    ),
    answer_relate, "relate DEMO/learners.csv practice_hours speaking_score",
    place = 2, designed = TRUE
  )
}

# What is asked beside r itself: r without errors or restrictions, and how it stands against doubts.
corrected_arguments <- function() {
  list(
    correct_for = argument(
      "texts",
      "correct r for attenuation: the name of a score computed from items, or a reliability such as NAME=0.8",
      value = "X,Y", brief = "correct_for"
    ),
    correct_range = argument(
      "texts", "correct r for a restricted range: the variable of selection with its SD in the population",
      value = "NAME=SD", brief = "correct_range"
    ),
    restriction = argument(
      "choice", "whether cases were selected by that variable, or by something that goes with it",
      default = "direct", value = "KIND", allowed = c("direct", "indirect"), brief = "restriction"
    ),
    unmeasured = argument(
      "flag", "how strong an unmeasured confounder would have to be for r not to be significant",
      default = FALSE, brief = "unmeasured"
    ),
    smallest = argument(
      "number", "the smallest correlation that matters: tests whether r is larger or smaller in size",
      value = "R", from = 0, to = 1, inside = TRUE, brief = "smallest"
    )
  )
}

answer_relate <- function(study, given) {
  options <- settle_arguments(question_relate(), given)
  if (!gives_rows(study, c(options$x, options$y, options$given), sums_relate(study, options))) {
    return(relate_by_sums(study, options))
  }
  relate_study(study, options$x, options$y, options)
}
