#' Correlate two variables over waves
#'
#' The same persons two or more times: r at each wave, stability (test-retest), cross-lagged correlations and
#' the test of their difference, the correlation of changes, r between and within persons, and who was lost.
#'
#' @param study A study, or a data frame: long (one row per person and wave) or wide (one column per wave).
#' @param x,y The two variables. Long: one name each. Wide: the columns of each, in the order of the waves:
#'   names, a pattern such as `"score_t*"`, or a tidyselect expression.
#' @eval help_arguments("waves", except = c("case", "time"))
#' @param case The variable that names the persons (long form). Default: the variable with the role case.
#' @param time The variable with the wave (long form). Default: the variable with the role time.
#' @return Waves (class `unsere_waves`), a list of:
#'   * `x`, `y` (names), `waves` (their names), `persons` (number), `confidence`, `coefficient`
#'   * `relations`: a data frame of `kind` (`"wave"`: x with y at a wave; `"stability"`; `"cross-lagged"`: one
#'     earlier, the other later; `"change"`: change in x with change in y; `"between"`, `"within"`: person
#'     means, and deviations from them), `first`, `second` (`"x"` or `"y"`), `from`, `to` (waves), `distance`,
#'     `n`, `r`, `ci_low`, `ci_high`, `p`
#'   * `differences`: a data frame, one row per pair of neighbouring waves: `from`, `to`, `n`, `r_x_first` (x
#'     earlier, y later), `r_y_first`, `difference`, `ci_low`, `ci_high`, `statistic`, `value`, `df`, `p`
#'   * `attrition`: a data frame of `wave`, `n`; `lost`: a data frame of `variable`, `n_stayed`, `n_lost`,
#'     `mean_stayed`, `mean_lost`, `r` (with staying until the last wave), `p`; `lost_difference`: the p value
#'     of the difference between r at the first wave of those who stayed and of those who were lost
#'   * `sets`, `imputed`: how many completed data sets (`TRUE`) or plausible values (`FALSE`) were pooled, where
#'     there are any
#' @section Method: Each r comes from [relate()], under the study's design if it has one. Two cross-lagged
#'   correlations share no variable; their difference is tested by [compare_relations()] (Steiger 1980, or the
#'   jackknife over persons if the data require it). Intervals between and within persons are by the jackknife
#'   over persons. `bench/waves.R` simulates them.
#' @section What a cross-lagged difference does not show: That x comes before y more than y before x is not
#'   shown by it: it also arises if one variable is more stable than the other, or if persons differ in
#'   lasting ways (Rogosa 1980; Hamaker, Kuiper & Grasman 2015). In `bench/waves.R`, with nothing crossing, it
#'   was significant in .03 to .10 of samples with equal stabilities, but in .19 to .22 (60 persons) and .52
#'   to .60 (200 persons) with unequal ones.
#' @section Errors: `unsere_error_usage` if persons or waves are not named; `unsere_error_input` if a person
#'   occurs twice in a wave; `unsere_error_undefined` for fewer than two waves with enough persons.
#' @references Steiger, J. H. (1980). Tests for comparing elements of a correlation matrix. *Psychological
#'   Bulletin*, 87, 245-251. Raghunathan, T. E., Rosenthal, R., & Rubin, D. B. (1996). Comparing correlated
#'   but nonoverlapping correlations. *Psychological Methods*, 1, 178-183. Rogosa, D. (1980). A critique of
#'   cross-lagged correlation. *Psychological Bulletin*, 88, 245-258. Hamaker, E. L., Kuiper, R. M., &
#'   Grasman, R. P. P. P. (2015). A critique of the cross-lagged panel model. *Psychological Methods*, 20,
#'   102-116.
#' @examples
#' waves <- relate_waves(demo_study("three_terms"), practice_hours, speaking_score, case = learner, time = term)
#' waves
#' draw_waves(waves)
#' @export
relate_waves <- function(study, x, y, case = NULL, time = NULL, coefficient = "auto", confidence = 0.95) {
  study <- check_study(study)
  answer_waves(study, list(
    x = pick_several(study, list(rlang::enquo(x))), y = pick_several(study, list(rlang::enquo(y))),
    case = pick_optional(study, rlang::enquo(case), "case"), time = pick_optional(study, rlang::enquo(time), "time"),
    coefficient = coefficient, confidence = confidence
  ))
}

question_waves <- function() {
  variable <- function(help, otherwise, brief) {
    argument("variable", help, value = "VAR", otherwise = otherwise, brief = brief)
  }
  new_question(
    "waves", "relate_waves", "correlate two variables over waves of the same persons", c("FILE", "X", "Y"),
    c(
      list(
        case = variable("the variable that names the persons", "the variable with the role case", "case"),
        time = variable("the variable with the wave", "the variable with the role time", "time")
      ),
      shared_arguments("coefficient", "confidence")
    ),
    answer_waves, "waves DEMO/three_terms.csv practice_hours speaking_score --case learner --time term",
    usage = "waves FILE X Y [--case VAR --time VAR]   (wide files: X1,X2,... or \"X*\", and the same of Y)",
    place = 8, designed = TRUE, section = section_of_waves(), lists = c("x", "y")
  )
}

section_of_waves <- function() {
  new_brief_section(
    "waves", 5.8, function() {
      one_or_several <- list(type = list("string", "array"), items = string_key())
      keys <- c(list(x = one_or_several, y = one_or_several), question_keys(question_waves()))
      list(type = "array", description = "Pairs over waves of the same persons.", items = closed(keys, c("x", "y")))
    },
    entries = identity, names = function(entry) lapply(entry[c("x", "y", "case", "time")], unlist),
    about = function(entry) template("%s and %s over waves", unlist(entry$x)[1], unlist(entry$y)[1]),
    answer = function(study, entry, brief, settings, known) {
      answer_waves(study, c(
        section_arguments(question_waves(), entry, settings), lapply(entry[c("x", "y")], unlist)
      ))
    },
    title = template("Over waves"), many = TRUE
  )
}

answer_waves <- function(study, given) {
  options <- settle_arguments(question_waves(), given)
  if (length(options$x) != length(options$y)) {
    abort_usage(
      problem("x has %d columns and y %d.", length(options$x), length(options$y)), "Name one of each for every wave."
    )
  }
  sets <- completed_studies(study, c(options$x, options$y))
  results <- lapply(sets, function(one) {
    wave_relations(if (length(options$x) > 1L) wide_persons(one, options) else long_persons(one, options), options)
  })
  do.call(new_waves, c(combine_waves(results), told_sets(study, sets)))
}
