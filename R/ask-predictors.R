#' Which predictor goes best with an outcome?
#'
#' The predictors of one outcome side by side, all on the same cases, and for each two of them a test of whether the
#' difference between their r is more than chance.
#'
#' @param study A study, or a data frame.
#' @param outcome The variable to be predicted: a bare name or a string.
#' @param ... Two predictors or more: bare names, strings, or what tidyselect understands.
#' @param coefficient `"auto"` (by the levels), or one for all, as for [relate()].
#' @param confidence The coverage of the intervals, between 0 and 1.
#' @param at What to predict the outcome for: a named list or vector, a predictor's name and its value.
#' @return Predictors (class `unsere_predictors`), a list of `outcome`, `predictors` (a data frame, strongest first:
#'   `rank`, `x`, `coefficient`, `r`, `n`, `ci_low`, `ci_high`), `comparisons` (a data frame, a row a pair of
#'   predictors: `a`, `b`, `difference` (of the sizes of r, the sign left out), `ci_low`, `ci_high`, `statistic`,
#'   `value`, `df`, `p`, `p_adjusted` by Holm), `predictions` (a data frame: `x`, and the columns of [predict_y()]),
#'   `n_dropped` (cases that lack one of the variables), `lines` (the fitted lines), `cautions`.
#' @section Errors: as for [relate()]; `unsere_error_usage` when the outcome is among its predictors or there are fewer
#'   than two.
#' @section The comparison: Sizes are compared, so a predictor that goes the other way is turned round first. Williams'
#'   t is made for Pearson's r of normal data; with other coefficients it is close, and that is said.
#' @references Williams, E. J. (1959). The comparison of regression variables. *Journal of the Royal Statistical Society
#'   B*, 21, 396-399. Steiger, J. H. (1980). Tests for comparing elements of a correlation matrix. *Psychological
#'   Bulletin*, 87, 245-251. Zou, G. Y. (2007). Toward using confidence intervals to compare correlations.
#'   *Psychological Methods*, 12, 399-413.
#' @examples
#' learners <- demo_study("learners")
#' rank_predictors(learners, speaking_score, practice_hours, attendance_pct, age_years)
#' rank_predictors(learners, speaking_score, practice_hours, attendance_pct,
#'   at = list(practice_hours = 5, attendance_pct = 90))
#' @export
rank_predictors <- function(study, outcome, ..., coefficient = "auto", confidence = 0.95, at = NULL) {
  study <- check_study(study)
  outcome <- pick_one(study, rlang::enquo(outcome), "outcome")
  rank_names(study, outcome, pick_several(study, rlang::enquos(...)), coefficient, confidence, at)
}

#' The same for names in strings
#' @noRd
rank_names <- function(study, outcome, names, coefficient = "auto", confidence = 0.95, at = NULL) {
  check_confidence(confidence)
  if (outcome %in% names) abort_usage(sprintf("%s is the outcome and among its own predictors.", outcome),
    "Leave it out.")
  if (length(names) < 2L) abort_usage("A comparison takes two predictors or more.", "Name another.")
  at <- check_at(at, names)
  shared <- shared_cases(study, c(outcome, names))
  relations <- lapply(names, function(name) {
    relate_names(shared$study, name, outcome, coefficient,
    confidence = confidence)
  })
  lines <- lapply(names, function(name) line_or_none(shared$study, name, outcome, confidence))
  order <- order(-abs(vapply(relations, `[[`, 0, "r")))
  relations <- relations[order]
  lines <- stats::setNames(lines[order], names[order])
  new_predictors(
    cautions = predictors_cautions(relations), outcome = outcome,
    predictors = data.frame(rank = seq_along(order), x = names[order],
      coefficient = vapply(relations, `[[`, "", "coefficient"), r = vapply(relations, `[[`, 0, "r"),
      n = vapply(relations, `[[`, 0L, "n"), ci_low = vapply(relations, `[[`, 0, "ci_low"),
      ci_high = vapply(relations, `[[`, 0, "ci_high")),
    comparisons = compare_predictors(relations), predictions = predictions_at(lines, at),
    n_dropped = shared$dropped, confidence = confidence, lines = lines, relations = relations,
    variables = study$codebook[match(c(outcome, names[order]), study$codebook$variable), ]
  )
}

#' The warnings of every predictor's relation, each beginning with its name
#' @noRd
predictors_cautions <- function(relations) {
  rows <- lapply(relations, function(relation) {
    told <- relation$cautions[relation$cautions$severity != "note", ]
    told$evidence <- sprintf("%s: %s", rep(label_of(relation$pair$variables, relation$x), nrow(told)), told$evidence)
    told
  })
  rows <- do.call(rbind, rows)
  rows <- rows[gravest_first(rows$severity), ]
  rownames(rows) <- NULL
  rows
}

# An ordinal or binary predictor may have no line worth fitting, a constant one none at all; its r still counts.
line_or_none <- function(study, x, y, confidence) {
  tryCatch(fit_line_names(study, x, y, confidence = confidence), unsere_error_undefined = function(e) NULL)
}

#' The study cut to the cases that have every one of some variables
#' @noRd
shared_cases <- function(study, names) {
  kept <- Reduce(`&`, lapply(names, function(name) !is.na(numbers_of(study, name)$values)))
  study$data <- study$data[kept, , drop = FALSE]
  rows <- study$provenance$rows
  study$provenance$rows <- if (is.null(rows)) which(kept) else rows[kept]
  list(study = study, dropped = sum(!kept))
}

check_at <- function(at, names) {
  if (is.null(at)) return(NULL)
  at <- as.list(at)
  unknown <- setdiff(names(at), names)
  if (is.null(names(at)) || length(unknown)) {
    abort_usage(sprintf("`at` names no predictor%s.", if (length(unknown)) paste0(": ", unknown[1]) else ""),
      sprintf("For example %s = 5.", names[1]))
  }
  at
}

compare_predictors <- function(relations) {
  k <- length(relations)
  places <- utils::combn(k, 2)
  rows <- lapply(seq_len(ncol(places)), function(c) {
    compare_shared(relations[[places[1, c]]], relations[[places[2,
    c]]])
  })
  rows <- do.call(rbind, rows)
  rows$p_adjusted <- 10^adjust_log10_p(log10(rows$p), "holm")
  rows
}

#' Two r with the same outcome, by size: the weaker sign is turned so that both are positive
#' @noRd
compare_shared <- function(a, b) {
  scores <- function(relation) if (relation$coefficient == "spearman") mid_ranks(relation$pair$x) else relation$pair$x
  between <- .Call(unsere_pearson, as.double(scores(a)), as.double(scores(b)))$r * sign(a$r) * sign(b$r)
  sizes <- lapply(list(a, b), function(one) {
    ends <- sort(c(one$ci_low, one$ci_high) * if (one$r < 0) -1 else 1, na.last = TRUE)
    list(r = abs(one$r), ci_low = ends[1], ci_high = ends[2])
  })
  tested <- test_williams(sizes[[1]]$r, sizes[[2]]$r, between, a$n)
  limits <- interval_difference(sizes[[1]], sizes[[2]], correlation_of_shared(sizes[[1]]$r, sizes[[2]]$r, between))
  data.frame(a = a$x, b = b$x, difference = sizes[[1]]$r - sizes[[2]]$r, ci_low = limits$ci_low,
    ci_high = limits$ci_high,
    statistic = tested$statistic, value = tested$value, df = tested$df, p = tested$p)
}

predictions_at <- function(lines, at) {
  rows <- lapply(names(at), function(name) {
    if (is.null(lines[[name]])) return(NULL)
    data.frame(x = name, as.data.frame(unclass_rows(predict_y(lines[[name]], at[[name]]))))
  })
  do.call(rbind, rows)
}
