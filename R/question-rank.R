#' Compare predictors of one outcome
#'
#' Correlates several predictors with one outcome in the same cases, orders them by the size of r, and tests
#' for each two of them whether their correlations differ.
#'
#' @param study A study, or a data frame.
#' @param outcome The outcome: a bare name or a string.
#' @param ... Two predictors or more: bare names, strings, or tidyselect expressions.
#' @eval help_arguments("rank", "at")
#' @param at Values for which the outcome is predicted: a named list or vector of predictors and values.
#' @return Predictors (class `unsere_predictors`), a list of:
#'   * `outcome`
#'   * `predictors`: a data frame, strongest first, of `rank`, `x`, `coefficient`, `r`, `n`, `ci_low`, `ci_high`
#'   * `comparisons`: a data frame, one row per two predictors, of `a`, `b`, `difference` (of the absolute r),
#'     `ci_low`, `ci_high`, `statistic`, `value`, `df`, `p`, `p_adjusted` (Holm)
#'   * `predictions`: a data frame of `x` and the columns of [predict_y()]
#'   * `n_dropped` (cases with a missing value in any of the variables), `lines` (the fitted lines), `cautions`
#' @section Errors: As for [relate()]; `unsere_error_usage` if the outcome is among the predictors or there are
#'   fewer than two.
#' @section Comparison: Absolute correlations are compared, so a negatively related predictor is reversed first.
#'   Williams' t applies to Pearson's r of normal data; with other coefficients it is approximate, and the
#'   result says so.
#' @references Williams, E. J. (1959). The comparison of regression variables. *Journal of the Royal Statistical Society
#'   B*, 21, 396-399. Steiger, J. H. (1980). Tests for comparing elements of a correlation matrix. *Psychological
#'   Bulletin*, 87, 245-251. Zou, G. Y. (2007). Toward using confidence intervals to compare correlations.
#'   *Psychological Methods*, 12, 399-413.
#' @examples
#' learners <- demo_study("learners")
#' rank_predictors(learners, speaking_score, practice_hours, attendance_pct, age_years)
#' rank_predictors(learners, speaking_score, practice_hours, attendance_pct,
#'   at = list(practice_hours = 5, attendance_pct = 90)
#' )
#' @export
rank_predictors <- function(study, outcome, ..., coefficient = "auto", confidence = 0.95, at = NULL,
                            strength = "cohen", interval = "auto") {
  study <- check_study(study)
  given <- list(
    outcome = pick_one(study, rlang::enquo(outcome), "outcome"), names = pick_several(study, rlang::enquos(...)),
    coefficient = coefficient, confidence = confidence, at = at, strength = strength,
    interval = interval
  )
  answer_rank(study, given)
}

question_rank <- function() {
  new_question(
    "rank", "rank_predictors", "compare predictors of one outcome", c(
      "FILE", "OUTCOME",
      "VAR", "VAR"
    ),
    c(
      shared_arguments("coefficient", "confidence", "interval"),
      list(at = argument(
        "values", "values at which the outcome is predicted: name=value,name=value",
        value = "A=5,B=90", brief = "predict_at"
      )),
      shared_arguments("strength")
    ),
    answer_rank, "rank DEMO/learners.csv speaking_score practice_hours attendance_pct",
    open = "names", usage = "rank FILE OUTCOME VAR VAR ...", place = 5, designed = TRUE,
    section = section_of_rank()
  )
}

section_of_rank <- function() {
  new_brief_section(
    "rank", 3, function() {
      keys <- c(list(outcome = string_key(), predictors = strings_key()), question_keys(question_rank()))
      closed(keys, c("outcome", "predictors"))
    },
    names = function(entry) entry[c("outcome", "predictors")],
    about = function(entry) template("the predictors of %s", entry$outcome),
    answer = function(study, entry, brief, settings, known) {
      arguments <- section_arguments(question_rank(), entry, settings)
      if (is.null(arguments$at)) arguments$at <- predictions_of_pairs(brief)
      answer_rank(study, c(arguments, list(outcome = entry$outcome, names = unlist(entry$predictors))))
    }
  )
}

#' What the pairs predict is predicted beside the other predictors too
#' @noRd
predictions_of_pairs <- function(brief) {
  at <- list()
  for (pair in brief$pairs) {
    ranked <- pair$y == brief$rank$outcome && pair$x %in% unlist(brief$rank$predictors)
    if (ranked && length(pair$predict_at)) at[[pair$x]] <- as.numeric(unlist(pair$predict_at))[1]
  }
  if (length(at)) at
}

answer_rank <- function(study, given) {
  settled <- settle_arguments(question_rank(), given)
  outcome <- settled$outcome
  names <- unique(settled$names)
  if (outcome %in% names) {
    abort_usage(problem("%s is the outcome and among its own predictors.", outcome), "Leave it out.")
  }
  if (length(names) < 2L) abort_usage("A comparison needs two predictors or more.", "Name another.")
  at <- check_at(settled$at, names)
  shared <- shared_sample(study, c(outcome, names))
  samples <- lapply(names, function(name) narrow_sample(shared, name, outcome))
  options <- relation_options(settled)
  versions <- plausible_versions(study, c(outcome, names))
  of_versions <- if (length(versions) == 1L) list(samples) else lapply(versions, function(version) {
    whole <- sample_part(shared_sample(study, version, complete = FALSE), shared$row)
    lapply(version[-1], function(name) narrow_sample(whole, name, version[1]))
  })
  evidence <- lapply(of_versions, lapply, evidence_of_sample, options)
  relations <- lapply(seq_along(names), function(k) {
    each <- lapply(evidence, `[[`, k)
    finish_relation(if (length(each) == 1L) each[[1]] else combine_evidence(each, samples[[k]], options), options)
  })
  lines <- lapply(seq_along(names), function(k) {
    of_pair <- list(each = lapply(of_versions, `[[`, k), shown = samples[[k]])
    line_or_none(of_pair, settled$confidence, relations[[k]], settled$interval)
  })
  order <- order(-abs(vapply(relations, `[[`, 0, "r")))
  relations <- relations[order]
  lines <- stats::setNames(lines[order], names[order])
  evidence <- lapply(evidence, `[`, order)
  new_predictors(
    outcome = outcome, predictors = predictor_rows(relations),
    comparisons = compare_predictors(evidence, relations, settled$confidence, settled$interval),
    predictions = predictions_at(lines, at), n_dropped = study_size(study) - sample_size(shared),
    confidence = settled$confidence, cautions = predictors_cautions(relations, lines, at), lines = lines,
    relations = relations, variables = book_entries(study, c(outcome, names[order])), intake = sample_intake(shared)
  )
}

predictor_rows <- function(relations) {
  field <- function(name, type) vapply(relations, `[[`, type, name)
  data.frame(
    rank = seq_along(relations), x = field("x", ""), coefficient = field("coefficient", ""), r = field("r", 0),
    n = field("n", 0L), ci_low = field("ci_low", 0), ci_high = field("ci_high", 0)
  )
}

predictors_cautions <- function(relations, lines, at) {
  cautions <- lapply(relations, function(relation) pick_cautions(relation$cautions, relation$cautions$severity != "note"))
  beyond <- lapply(names(at), function(name) {
    line <- lines[[name]]
    if (is.null(line)) return(NULL)
    outside <- at[[name]][outside_data(line, at[[name]])]
    new_cautions(check_outside(name, outside, range(line$sample$x)), name, line$y)
  })
  do.call(bind_cautions, c(cautions, beyond))
}

# An ordinal or binary predictor may have no line worth fitting, a constant one none at all; its r still counts.
line_or_none <- function(samples, confidence, relation, interval) {
  options <- list(shape = "linear", confidence = confidence, interval = interval)
  tryCatch(line_of_samples(samples, options, relation), unsere_error_undefined = function(e) NULL)
}

#' The sample over the cases that have the outcome and every predictor
#' @noRd
shared_sample <- function(study, names, complete = TRUE) {
  sample <- sample_columns(study, names, lapply(names, function(name) study_numbers(study, name)))
  if (!complete) return(sample)
  sample_part(sample, which(Reduce(`&`, lapply(sample$columns, function(column) !is.na(column)))))
}

check_at <- function(at, names) {
  if (is.null(at)) return(NULL)
  at <- lapply(as.list(at), function(value) check_numbers(value, "at"))
  unknown <- setdiff(names(at), names)
  if (is.null(names(at)) || length(unknown)) {
    abort_usage(
      problem("`at` names no predictor%s.", if (length(unknown)) paste0(": ", unknown[1]) else ""),
      problem("For example %s = 5.", names[1])
    )
  }
  at
}

#' @param evidence For each plausible value, else once, the evidence of every predictor.
#' @noRd
compare_predictors <- function(evidence, relations, confidence, interval) {
  names <- vapply(relations, `[[`, "", "x")
  worth <- vapply(relations, cases_worth, 0)
  places <- utils::combn(length(names), 2)
  rows <- apply(places, 2, function(at) {
    each <- lapply(evidence, function(of) {
      compare_sizes(of[[at[1]]], of[[at[2]]], confidence, interval, min(worth[at]))
    })
    differences <- if (length(each) == 1L) each[[1]] else combine_differences(each, confidence)
    data.frame(a = names[at[1]], b = names[at[2]], differences[comparison_fields])
  })
  rows <- do.call(rbind, rows)
  rows$p_adjusted <- 10^adjust_log10_p(log10(rows$p), "holm")
  rows
}

predictions_at <- function(lines, at) {
  rows <- lapply(names(at), function(name) {
    if (is.null(lines[[name]])) return(NULL)
    data.frame(x = name, plain_rows(predict_y(lines[[name]], at[[name]])))
  })
  do.call(rbind, rows)
}
