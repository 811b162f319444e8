#' Vary the choices of an analysis
#'
#' Correlates one pair under every defensible choice: the coefficient (numbers or ranks), with and without
#' influential cases, control variables in and out, cases with some or all values, and other versions of x
#' and y that you declare. Shows how much r depends on the choices, and tests all of them at once.
#'
#' @param study A study, or a data frame.
#' @param x,y The two variables: bare names or strings.
#' @eval help_arguments("choices")
#' @return Choices (class `unsere_choices`), a list of:
#'   * `x`, `y`, `confidence`, `k` (number of analyses)
#'   * `choices`: a data frame, one row per analysis, ordered by r: `x`, `y`, `coefficient`, `cases`
#'     (`"all"`, `"without influential"`), `controls` (names, or `"none"`), `missing` (`"pairwise"`,
#'     `"listwise"`), `n`, `r`, `ci_low`, `ci_high`, `p`
#'   * `median`, `lowest`, `highest` (r), `positive`, `negative` (proportions of r above and below 0),
#'     `significant` (proportion significant with the sign of the median)
#'   * `decisions`: a data frame, the most influential first: `decision`, `high`, `low` (options with the
#'     highest and lowest mean r), `r_high`, `r_low`, `difference`
#'   * `p`, `permutations`, `seed`: the joint test of the median
#'   * `influential`: the names of the cases that are left out in turn
#'   * `sets`, `imputed`: how many completed data sets (`TRUE`) or plausible values (`FALSE`) were pooled, where
#'     there are any
#' @section Method: A case is influential if Fisher's z moves by more than 4 / n times its usual spread
#'   without it. Intervals and tests are those of [relate()]. In the joint test the residuals of y on all
#'   control variables are permuted (within clusters, if there is a variable with the role cluster), and the
#'   median of z over all choices is compared with that of the permuted data (Freedman & Lane 1983; the idea
#'   of Simonsohn, Simmons & Nelson 2020). It tests whether x and y are related beyond all the control
#'   variables; `bench/choices.R` simulates its size.
#' @section Errors: `unsere_error_usage` for more than 64 analyses, or an invalid argument;
#'   `unsere_error_undefined` if r is not defined.
#' @references Simonsohn, U., Simmons, J. P., & Nelson, L. D. (2020). Specification curve analysis. *Nature
#'   Human Behaviour*, 4, 1208-1214. Freedman, D., & Lane, D. (1983). A nonstochastic interpretation of
#'   reported significance levels. *Journal of Business & Economic Statistics*, 1, 292-298.
#' @examples
#' choices <- vary_choices(
#'   demo_study("learners"), practice_hours, speaking_score,
#'   given = c(age_years, attendance_pct), permutations = 99, seed = 1
#' )
#' choices
#' draw_choices(choices)
#' @export
vary_choices <- function(study, x, y, given = NULL, x_also = NULL, y_also = NULL, confidence = 0.95, permutations = 499,
                         seed = NULL) {
  study <- check_study(study)
  several <- function(quo) pick_side(study, quo)
  answer_choices(study, list(
    x = pick_one(study, rlang::enquo(x), "x"), y = pick_one(study, rlang::enquo(y), "y"),
    given = several(rlang::enquo(given)), x_also = several(rlang::enquo(x_also)), y_also = several(rlang::enquo(y_also)),
    confidence = confidence, permutations = permutations, seed = seed
  ))
}

question_choices <- function() {
  versions <- function(side) {
    argument("variables", sprintf("other versions of %s, such as a transformed one", side),
      value = "A,B", brief = paste0(tolower(side), "_also")
    )
  }
  new_question(
    "choices", "vary_choices", "correlate one pair under every defensible choice", c("FILE", "X", "Y"),
    c(
      list(
        given = argument("variables", "control variables, each in and out", value = "A,B", brief = "given"),
        x_also = versions("X"), y_also = versions("Y")
      ),
      shared_arguments("confidence"),
      list(
        permutations = argument("whole", "the number of permutations of the joint test",
          default = 499, value = "N", from = 99, to = 1e5, brief = "permutations"
        ),
        seed = question_relate()$arguments$seed
      )
    ),
    answer_choices, "choices DEMO/learners.csv practice_hours speaking_score --given age_years,attendance_pct",
    place = 8, designed = TRUE, section = section_of_choices()
  )
}

section_of_choices <- function() {
  new_brief_section(
    "choices", 5.7, function() {
      keys <- c(list(x = string_key(), y = string_key()), question_keys(question_choices()))
      list(type = "array", description = "Pairs under every defensible choice.", items = closed(keys, c("x", "y")))
    },
    entries = identity, names = function(entry) entry[c("x", "y", "given", "x_also", "y_also")],
    about = function(entry) template("%s and %s under several choices", entry$x, entry$y),
    answer = function(study, entry, brief, settings, known) {
      answer_choices(study, c(section_arguments(question_choices(), entry, settings), entry[c("x", "y")]))
    },
    title = template("Under every choice"), many = TRUE
  )
}

answer_choices <- function(study, given) {
  options <- settle_arguments(question_choices(), given)
  sides <- list(x = unique(c(options$x, options$x_also)), y = unique(c(options$y, options$y_also)))
  for (name in c(sides$x, options$given)) {
    if (name %in% sides$y || name %in% sides$x && name %in% options$given) {
      abort_usage(problem("%s is named twice.", name), "x, y, their versions and the controls are different variables.")
    }
  }
  plan <- plan_choices(study, sides, options)
  relations <- lapply(seq_len(nrow(plan$rows)), function(k) relate_choice(study, plan, k, options))
  undefined <- vapply(relations, is.null, NA)
  if (all(undefined)) abort_undefined("r is not defined under any choice.", "Check for constant or empty variables.")
  finish_choices(study, plan, relations, options)
}
