#' The reasons to doubt a result
#'
#' What a careful colleague would raise, and only where the figures give reason: each caution carries the figures that
#' earned it and what to do next. They stand on every relation, line, matrix and ranking; this gives them as a table.
#'
#' @param result A result of [relate()], [fit_line()], [correlation_matrix()], [rank_predictors()] or [flag_spurious()].
#' @return A data frame, a row a caution, the gravest first: `code`, `severity` (`"note"`, `"warning"`, `"serious"`),
#'   `evidence` (a sentence with the figures), `advice` (what to do next). No row where there is no reason.
#' @section Errors: `unsere_error_usage` when the result carries no cautions.
#' @section False alarms: `bench/cautions.R` measures how often each fires on clean data. All warnings and serious ones
#'   together touched fewer than 1 run in 20 of bivariate normal data, clean 5-point scales and clean binary splits at n
#'   = 100.
#' @section shared_trend: Two series over time whose r does not outlast their trends: `serious` when neither the changes
#'   nor what is left after the trend is tied, `warning` when only one is. Needs a variable with the role time. Method
#'   and error rates: [flag_spurious()]. Yule (1926), Granger and Newbold (1974).
#' @section serial_dependence: Durbin and Watson's d of the line below 1, the relation holding otherwise: neighbouring
#'   times are no independent cases. Durbin and Watson (1950).
#' @section one_case: One case moves Fisher's z by more than clean data ever do, (0.9 + 4 / sqrt(n)) standard errors,
#'   and without it the sign, the verdict of the test (`serious`) or the word for the size (`warning`) changes.
#'   Leave-one-out: Quenouille (1956).
#' @section curved: A curve term added to the straight line has p < .002. Pearson only.
#' @section uneven_spread: Koenker's test of the residuals has p < .004 and the spread differs by a third or more.
#'   Koenker (1981).
#' @section mixed_groups: Needs a variable with the role group. `serious`: within the groups the relation is clear (p <
#'   .01) and goes the other way; `warning`: the pooled r is more than .2 (on the z scale) and three standard errors
#'   away from that within groups, whose means differ on both variables. Robinson (1950), Simpson (1951).
#' @section group_averages: The cases are groups, one row each, or a label says average or mean. Robinson (1950).
#' @section part_whole: Some of the study's variables give the one exactly with the other among them, and not without
#'   it: tested by orthogonalisation to 9 digits. McNemar (1969).
#' @section same_measure: Equal values or an exact linear copy.
#' @section shared_denominator: Both units read "per" the same base. Pearson (1897).
#' @section floor_or_ceiling: 15 % or more of the cases share the lowest or the highest value of a numeric variable with
#'   8 values or more.
#' @section coarse_scale: Pearson's r of a variable with 5 values or fewer (`note`).
#' @section rare_category: One side of a binary variable under a tenth (`note`) or under 5 cases (`warning`).
#' @section few_cases: Fewer than 25 pairs (`note`), fewer than 10 (`warning`).
#' @section many_missing: A fifth of the cases or more left out (`note`), two fifths (`warning`).
#' @section many_tests: Ten tests or more without adjustment. Holm (1979).
#' @section codes_not_numbers: Values such as -9 or 999 far outside the others, not declared as missing codes.
#' @section outside_data: A prediction beyond the observed x.
#' @references Yule, G. U. (1926). Why do we sometimes get nonsense-correlations between time-series? *Journal of the
#'   Royal Statistical Society*, 89, 1-63. Pearson, K. (1897). On a form of spurious correlation. *Proceedings of the
#'   Royal Society of London*, 60, 489-498. Robinson, W. S. (1950). Ecological correlations and the behavior of
#'   individuals. *American Sociological Review*, 15, 351-357. Simpson, E. H. (1951). The interpretation of interaction
#'   in contingency tables. *Journal of the Royal Statistical Society B*, 13, 238-241. Quenouille, M. H. (1956). Notes
#'   on bias in estimation. *Biometrika*, 43, 353-360. McNemar, Q. (1969). *Psychological statistics* (4th ed.). Wiley.
#' @examples
#' cautions(relate(demo_study("learners"), practice_hours, speaking_score))
#' cautions(relate(demo_study("town_years"), ebook_loans, cycle_path_km))
#' @export
cautions <- function(result) {
  if (is.list(result) && is.data.frame(result$cautions)) return(result$cautions)
  abort_usage(sprintf("%s carries no cautions.", class(result)[1]), "Give a relation, a line, a matrix or a ranking.")
}

#' The cautions of a relation within its study
#' @noRd
relation_cautions <- function(relation, study) {
  doubts <- pair_doubts(doubt_input(relation, study))
  group <- role_variable(study, "group")
  cautions_of(doubts, relation$pair$variables, relation$x, relation$y, study_file(study),
    if (is.null(group)) "GROUP" else group)
}

study_file <- function(study) if (is.null(study$provenance$file)) "FILE" else file_name(study$provenance$file)

#' What the checks need to know of a pair
#' @noRd
doubt_input <- function(relation, study) {
  pair <- relation$pair
  ranked <- relation$coefficient == "spearman"
  scores <- function(v) if (ranked) mid_ranks(v) else v
  group <- role_variable(study, "group")
  list(
    x = pair$x, y = pair$y, a = scores(pair$x), b = scores(pair$y), r = relation$r, p = or_one(relation$p),
    coefficient = relation$coefficient, levels = pair$variables$level, names = c(relation$x, relation$y),
      case = pair$case,
    n_dropped = relation$n_dropped, group = if (!is.null(group)) as.character(study$data[[group]])[pair$row],
    others = other_measures(study, c(relation$x, relation$y), pair$row), units = pair$variables$unit,
    time = pair_grid(study, pair$row), strength = function(r) strength_word(r, relation$scale),
    codes = codes_in(study, c(relation$x, relation$y)), averages = averages_in(study, pair$variables),
      alpha = 1 - relation$confidence
  )
}

or_one <- function(p) if (is.na(p)) 0 else p

#' The other numeric measures among the pair's cases, thirty at most
#' @noRd
other_measures <- function(study, names, rows) {
  book <- study$codebook
  others <- setdiff(book$variable[book$role == "measure" & book$level %in% c("numeric", "ordinal")], names)
  others <- utils::head(others[vapply(others, function(name) is.numeric(study$data[[name]]), NA)], 30)
  columns <- lapply(others, function(name) study$data[[name]][rows])
  Filter(function(v) mean(is.na(v)) < 0.3 && length(unique(v[!is.na(v)])) > 1L, columns)
}

#' The grid of the study's time variable for these rows; none where the times do not make one
#' @noRd
pair_grid <- function(study, rows) {
  name <- study$codebook$variable[study$codebook$role == "time"]
  if (!length(name) || length(rows) < 3L) return(NULL)
  grid <- time_grid(study$data[[name[1]]][rows], name[1])
  if (is.null(grid$trouble)) grid
}

codes_in <- function(study, names) {
  found <- lapply(stats::setNames(names, names), function(name) suspicious_codes(study$data[[name]])$code)
  Filter(Negate(is.null), found)
}

#' Why the cases look like averages of groups, if they do
#' @noRd
averages_in <- function(study, variables) {
  labels <- variables$label[!is.na(variables$label)]
  said <- grep("^(average|mean)\\b|\\baverage of\\b|\\bmean of\\b", labels, ignore.case = TRUE, value = TRUE)
  group <- role_variable(study, "group")
  values <- if (!is.null(group)) study$data[[group]]
  one_each <- length(values) >= 3L && !anyNA(values) && !anyDuplicated(values)
  c(
    if (one_each) sprintf("Each case is a %s", label_of(study$codebook, group)),
    if (length(said)) sprintf("\"%s\" is an average by its label", said[1])
  )[1]
}

#' A matrix sums up the cautions of its strongest pairs: which code, how grave, which pairs
#' @noRd
matrix_cautions <- function(matrix, study, most = 40L) {
  tests <- sum(!is.na(matrix$pairs$p))
  own <- if (matrix$multiplicity == "none" && tests >= 10L) list(new_doubt("many_tests", "warning", tests = tests))
  pairs <- matrix$pairs[!is.na(matrix$pairs$p), ]
  clear <- pairs[pairs$highlighted | pairs$p_adjusted < 1 - matrix$confidence, ]
  clear <- utils::head(clear[order(-abs(clear$r)), ], most)
  rows <- lapply(seq_len(nrow(clear)), function(k) pair_cautions_of(study, clear[k, ], matrix))
  rows <- do.call(rbind, rows)
  rows <- rows[!is.null(rows) & rows$severity != "note", ]
  codes <- unique(rows$code)
  summed <- lapply(codes, function(code) {
    mine <- rows[rows$code == code, ]
    grave <- if ("serious" %in% mine$severity) "serious" else "warning"
    named <- sprintf("%s with %s", inside_all(matrix$variables, mine$x), inside_all(matrix$variables, mine$y))
    new_cautions(code, grave, sprintf("%s: %s%s.", count_of(nrow(mine), "pair"), paste(utils::head(named, 3),
      collapse = "; "),
      if (nrow(mine) > 3) sprintf(" and %d more", nrow(mine) - 3) else ""),
      sprintf("%s Next: unsere relate %s %s %s", caution_meanings[[code]], shell_word(study_file(study)), mine$x[1],
        mine$y[1]))
  })
  summed <- do.call(rbind, c(list(cautions_of(own)), summed))
  summed[gravest_first(summed$severity), ]
}

pair_cautions_of <- function(study, pair, matrix) {
  relation <- tryCatch(relate_names(study, pair$x, pair$y, pair$coefficient, confidence = matrix$confidence),
    unsere_error = function(e) NULL)
  if (is.null(relation) || !nrow(relation$cautions)) return(NULL)
  data.frame(relation$cautions[c("code", "severity")], x = pair$x, y = pair$y)
}
