#' Check a relation for a shared trend and other sources of spurious correlation
#'
#' Two series that both grow over time are correlated whatever they measure. This function correlates
#' the levels, the changes from one period to the next and the detrended and prewhitened series, and
#' states in a verdict whether the relation holds beyond the trend. With a group variable it adds the
#' relation within groups. Without a time variable it checks for groups and influential cases only.
#'
#' @param study A study, or a data frame.
#' @param x,y The two variables: bare names or strings. `x` alone is checked against every other numeric
#'   measure; without either, all measures are checked against one another.
#' @param time The time variable: years, dates, or text such as 2019 Q3, 2019-07, Jul 2019, 2019-W28,
#'   2019/20. Default: the variable with the role `time`, otherwise one detected as time.
#' @param group A grouping variable. Default: the variable with the role `group`.
#' @eval help_arguments("flag", c("time", "group"))
#' @return Flags (class `unsere_flags`), a list of:
#'   * `x`, `y`, `time`
#'   * `verdict`: `"holds"`, `"weakened"`, `"cannot tell"`, `"trend only"`, `"between units"`,
#'     `"no relation"` or `"too little data"`; `NA` without a time variable
#'   * `levels`, `changes`, `detrended`, `prewhitened`: lists of `r`, `p`, `n`, `n_effective`
#'   * `durbin_watson`, `lag`, and `lags` (if several were tried: `lag`, `r`, `p`, `p_adjusted`)
#'   * `units` (panel data), `within` (groups: `r`, `p`, `by_group`)
#'   * `step` (the period), `season` (periods per season removed, 1 for none), `periods` (gaps, sorting)
#'   * `cautions`, `relation`
#'
#'   For several pairs: a table (class `unsere_flag_table`), a list of `pairs` (a data frame, one row per
#'   pair: `x`, `y`, `verdict`, `levels_r`, `changes_r`, `detrended_r`, `p_adjusted` of the prewhitened
#'   series) and `flags`.
#' @section Errors: `unsere_error_input` if the time cannot be read, or if it repeats and no grouping
#'   variable distinguishes the rows (with the row), or if several pairs are checked without a time variable;
#'   `unsere_error_undefined` for a constant series or two series without a common period.
#' @section Verdicts: Prewhitened series hold what neither the trend nor the preceding period predicts.
#'   `holds`: the prewhitened series are correlated (p < .05), also with unequally weighted periods (p < .06),
#'   without any three consecutive periods and with a step in the levels (p < .15), and without any one event
#'   of three periods up to a third of all periods that raises or lowers both (p < .10); and the changes and
#'   the detrended levels agree in sign (p < .20). `weakened`: the prewhitened series are correlated
#'   (p < .05), or the changes (p < .025) and the detrended levels (p < .10) are; all three agree in sign; and
#'   no three periods and no event account for it (p < .15). `cannot tell`: neither of these, and the interval
#'   of the prewhitened series includes .50. `trend only`: the levels are correlated and an r of .50 beyond
#'   the trend is excluded.
#'
#'   Repeated or interpolated values (yearly figures in each quarter, or values on a straight line between
#'   them) are counted once, and a note says so. The trend is a polynomial whose degree increases with the
#'   number of periods: 1 from 8 periods on, 2 from 12, 3 from 16, 4 from 40, one more for every further ten,
#'   up to 9. A shared seasonal pattern (2 to 13 periods, detected by an F test, or that of the year) is
#'   removed. All tests use an effective sample size that allows for autocorrelation.
#' @section Candidates: Each candidate is controlled for alone, and all of them together. The change in r and
#'   the partial r have jackknife intervals (leaving out one case, or one unit of a design, at a time).
#'   `explained by`: the change is significant and the partial r is shown to be small, its interval lying
#'   within .1 or a third of r, whichever is larger. `partly explained by`: the change and the partial r are
#'   both significant. `cannot tell`: the change is significant, and the partial r is neither significant nor
#'   shown to be small. `masked by` (suppression): the partial r is larger than r, or has the other sign. `not
#'   explained by`: the change is not significant, or the candidate is not related to each of the two variables
#'   controlling for the other. Measurement error in a candidate leaves part of r in place: a full cause
#'   measured with a reliability of .60 is mostly reported as `partly explained by` (Westfall & Yarkoni 2016).
#'   Error variance shared with one variable only also produces `masked by`. None of these terms implies
#'   causation: common causes and mediators cannot be told apart. `bench/designs.R` gives the rate of each.
#' @section Panel data: If times repeat and a grouping variable makes them unique (schools over years), the
#'   means of each unit and each time are removed, and p is by a jackknife over units. With fewer than five
#'   units the means over units at each time are analysed as one series. `trend only` is also given if the
#'   levels are correlated within units only. `between units`: the correlation within units is not
#'   significant, but r remains significant and at least half its size after the means of the times are
#'   removed, so that a trend cannot have produced it. Without a grouping variable, a variable in which every
#'   time occurs once per value is used.
#' @section Error rates: `bench/spurious.R` simulates independent pairs of about fifty kinds (among them shared
#'   exceptional years, dips, seasons, steps and storms) and correlated pairs. The results are in
#'   `vignette("is-it-a-shared-trend")`.
#' @references Yule, G. U. (1926). *Journal of the Royal Statistical Society*, 89, 1-63. Granger, C. W. J., & Newbold,
#'   P. (1974). Spurious regressions in econometrics. *Journal of Econometrics*, 2, 111-120. Bartlett, M. S. (1935).
#'   *Journal of the Royal Statistical Society*, 98, 536-543. Pyper, B. J., & Peterman, R. M. (1998). Comparison of
#'   methods to account for autocorrelation in correlation analyses of fish data. *Canadian Journal of Fisheries and
#'   Aquatic Sciences*, 55, 2127-2140. Durbin, J., & Watson, G. S. (1950). *Biometrika*, 37, 409-428.
#'   Westfall, J., & Yarkoni, T. (2016). Statistically controlling for confounding constructs is harder than you think.
#'   *PLoS ONE*, 11(3), e0152719.
#' @examples
#' years <- demo_study("town_years")
#' flag_spurious(years, ebook_loans, cycle_path_km)
#' flag_spurious(years, warm_days, pool_visits)
#' flag_spurious(years, ebook_loans)
#' flag_spurious(demo_study("learners"), commute_min, listening_score)
#' @export
flag_spurious <- function(study, x = NULL, y = NULL, time = NULL, group = NULL, season = NULL, lag = 0,
                          candidates = NULL, confidence = 0.95, strength = "cohen") {
  study <- check_study(study)
  given <- list(
    x = pick_optional(study, rlang::enquo(x), "x"), y = pick_optional(study, rlang::enquo(y), "y"),
    time = pick_optional(study, rlang::enquo(time), "time"), group = pick_optional(study, rlang::enquo(group), "group"),
    season = season, lag = lag, candidates = pick_side(study, rlang::enquo(candidates)), confidence = confidence,
    strength = strength
  )
  answer_flag(study, given)
}

question_flag <- function() {
  new_question(
    "flag", "flag_spurious", "check for a shared trend and other spurious correlation", "FILE",
    c(
      list(
        time = argument(
          "variable", "the time variable",
          value = "VAR", otherwise = "the variable with the role time", brief = "time"
        ),
        group = argument(
          "variable", "the grouping variable",
          value = "VAR", otherwise = "the variable with the role group", brief = "group"
        )
      ),
      series_arguments(), list(candidates = argument(
        "variables", "potential confounders, each controlled for",
        value = "A,B", brief = "candidates"
      )), shared_arguments("confidence", "strength")
    ),
    answer_flag, "flag DEMO/town_years.csv ebook_loans cycle_path_km",
    open = c("x", "y"), usage = "flag FILE [X [Y]] [--time V] [--group V]", place = 6, section = section_of_series()
  )
}

section_of_series <- function() {
  new_brief_section(
    "spurious", 6, function() {
      keys <- c(question_keys(question_flag()), list(pairs = list(type = "array", items = c(strings_key(), maxItems = 2L))))
      closed(keys, "pairs")
    },
    # An entry is a pair with what the section says of all.
    entries = function(section) {
      of_all <- section[names(section) != "pairs"]
      lapply(section$pairs, function(pair) c(of_all, list(pair = pair)))
    },
    names = function(entry) entry[c("time", "group", "candidates", "pair")],
    about = function(entry) template("the trends of %s and %s", entry$pair[[1]], entry$pair[[2]]),
    answer = function(study, entry, brief, settings, known) {
      answer_flag(study, c(
        section_arguments(question_flag(), entry, settings), list(x = entry$pair[[1]], y = entry$pair[[2]])
      ))
    },
    title = template("Over time"), many = TRUE, result = "flags"
  )
}

answer_flag <- function(study, given) {
  options <- settle_arguments(question_flag(), given)
  study <- with_role(with_role(study, "time", options$time), "group", options$group)
  study <- with_likely_time(study, c(options$x, options$y))
  if (is.null(options$time)) study <- without_arrivals(study)
  if (!is.null(options$x) && !is.null(options$y)) return(flag_pair(study, options$x, options$y, options))
  if (is.null(role_variable(study, "time"))) {
    abort_input(
      problem("%s has no time variable, so trends cannot be checked.", data_name(study)),
      "Name it as time (--time), or give both variables to check for groups and influential cases."
    )
  }
  several_flags(study, pairs_to_flag(study, options$x), options)
}

# What looks like the time serves where none is declared and it is not asked about; the answer names it.
with_likely_time <- function(study, options = character()) {
  if (!holds_rows(study) || !is.null(role_variable(study, "time"))) return(study)
  likely <- guess_time(study_columns(study, study_names(study)), study_book(study))$time
  if (isTRUE(likely %in% options)) study else with_role(study, "time", likely)
}

# A day that now more, now fewer cases share and that no column splits into units, as that of an answer, makes no series;
# where as many come at each time the units are only not named.
without_arrivals <- function(study) {
  time <- role_variable(study, "time")
  if (is.null(time) || !holds_rows(study) || !is.null(role_variable(study, "group"))) return(study)
  counts <- as.double(table(study_column(study, time)))
  often <- length(counts) > 1L && mean(counts) > 1.25 && stats::sd(counts) > 0.3 * mean(counts)
  split <- often && !is.null(guess_time(study_columns(study, study_names(study)), study_book(study))$unit)
  if (often && !split) with_entry(study, time, list(role = "about")) else study
}

flag_pair <- function(study, x, y, options) {
  time <- role_variable(study, "time")
  if (!is.null(time) && time %in% c(x, y)) {
    abort_usage(problem("%s is the time and one of the pair.", time), "Give another variable.")
  }
  sample <- sample_pair(study, x, y)
  if (!is.null(time) && !sample_size(sample)) {
    abort_undefined(problem("%s and %s share no period.", x, y), "Check which periods each of them covers.")
  }
  series <- if (!is.null(time)) series_of(sample)
  pair_asked <- utils::modifyList(settle_arguments(question_relate(), list()), options[c("confidence", "strength")])
  design <- if (is.null(series)) sample_design(sample)
  relation <- relate_sample(sample, pair_asked)
  check <- if (!is.null(series)) check_series(series, options)
  none <- list(r = NA_real_, p = NA_real_, n = 0L, n_effective = NA_real_)
  of <- function(name, default = none) or_default(check[[name]], default)
  new_flags(
    x = x, y = y, time = if (is.null(time)) NA_character_ else time, verdict = of("verdict", NA_character_),
    levels = of("levels"), changes = of("changes"), detrended = of("detrended"), prewhitened = of("prewhitened"),
    durbin_watson = of("durbin_watson", NA_real_), cautions = flag_cautions(relation, check, options),
    within = within_groups(relation), step = series$grid$step, season = of("season", 1L), lag = of("lag", 0L),
    candidates = candidates_of(study, x, y, options), lags = check$lags, units = check$units,
    periods = series_periods(series, check), weakest = check$weakest, checks = check,
    series = series, confidence = options$confidence, relation = relation,
    time_label = if (is.null(time)) NA_character_ else label_of_variables(study, time),
    unmeasured = if (is.null(series)) {
      unmeasured_of(relation, alpha_of(options$confidence))
    } else if (of("verdict", "") %in% c("holds", "weakened")) {
      unmeasured_of_changes(of("changes"), alpha_of(options$confidence))
    },
    behind = if (is.null(series) && !length(options$candidates) && is.null(design)) variables_behind(study, relation)
  )
}

#' The measures that go with both of a pair, with their labels
#' @return A data frame: `variable`, `label`, `partial`, `p`; or `NULL`.
#' @noRd
variables_behind <- function(study, relation) {
  partial <- find_behind(relation$sample, coefficient_record(relation$coefficient))
  if (!length(partial)) return(NULL)
  data.frame(
    variable = names(partial), label = label_of_variables(study, names(partial)), partial = unname(partial),
    p = p_of_r(unname(partial), relation$n - 3)
  )
}

#' What each candidate does to the relation when it is controlled for
#' @noRd
candidates_of <- function(study, x, y, options) {
  if (!length(options$candidates)) return(NULL)
  sample <- sample_given(study, x, y, options$candidates)
  record <- settle_coefficient("auto", sample)
  if (!is.na(record$two_valued)) sample <- as_zero_one(sample, record$two_valued)
  rows <- judge_candidates(sample, record, options$confidence)
  labels <- stats::setNames(sample$given$labels, sample$given$names)
  rows$label <- ifelse(rows$candidate %in% names(labels), labels[rows$candidate], rows$candidate)
  rows
}

within_groups <- function(relation) {
  sample <- relation$sample
  group <- sample$more$group_name
  if (is.null(group) || group %in% sample$names) return(NULL)
  within <- relate_within(relation$estimate$x, relation$estimate$y, sample_groups(sample))
  if (!is.null(within)) c(list(group = group), within[c("r", "p", "df", "by_group")])
}

# The verdict itself says what shared_trend would, and what goes with both stands on a line of its own; the others stay.
flag_cautions <- function(relation, check, options) {
  cautions <- relation$cautions
  settled <- c(if (is.null(check) || length(options$candidates)) "third_variable", if (!is.null(check)) "shared_trend")
  pick_cautions(cautions, !cautions$code %in% settled)
}

pairs_to_flag <- function(study, x) {
  names <- names_with(study, "measure", c("numeric", "ordinal"))
  if (!is.null(x)) return(lapply(setdiff(names, x), function(y) c(x, y)))
  if (length(names) < 2L) abort_usage("There are fewer than two numeric measures.", "Name two variables.")
  if (length(names) > 40L) {
    abort_usage(
      problem("%d variables make %d pairs.", length(names), choose(length(names), 2)),
      "Name one variable, to be checked against the others."
    )
  }
  utils::combn(names, 2, simplify = FALSE)
}

verdicts <- c("holds", "weakened", "cannot tell", "trend only", "between units", "no relation", "too little data")

several_flags <- function(study, pairs, options) {
  flags <- lapply(pairs, function(pair) {
    tryCatch(flag_pair(study, pair[1], pair[2], options), unsere_error_undefined = function(e) NULL)
  })
  flags <- Filter(Negate(is.null), flags)
  if (!length(flags)) abort_undefined("No pair can be checked.", "Check for constant or empty variables.")
  field <- function(of, type = 0) vapply(flags, of, type)
  p <- field(function(flag) if (is.null(flag$units)) flag$prewhitened$p else flag$changes$p)
  adjusted <- 10^adjust_log10_p(log10(p), "holm")
  factor <- ifelse(is.na(p) | p == 0, 1, adjusted / p)
  verdict <- vapply(seq_along(flags), function(k) {
    flag <- flags[[k]]
    alpha <- alpha_of(options$confidence)
    if (!is.null(flag$units)) return(panel_verdict(flag$checks, alpha, factor[k]))
    series_verdict(flag$checks, flag$series, alpha, factor[k])
  }, "")
  rows <- data.frame(
    x = vapply(flags, `[[`, "", "x"), y = vapply(flags, `[[`, "", "y"), verdict = verdict,
    levels_r = field(function(flag) flag$levels$r),
    changes_r = field(function(flag) flag$changes$r), detrended_r = field(function(flag) flag$detrended$r),
    p_adjusted = adjusted
  )
  order <- order(match(verdict, verdicts), -abs(rows$levels_r))
  new_result("flag_table", list(
    time = flags[[1]]$time, pairs = `rownames<-`(rows[order, ], NULL), flags = flags[order], variables = study_book(study),
    confidence = options$confidence
  ), c("time", "pairs", "flags"))
}
