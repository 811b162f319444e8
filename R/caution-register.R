# The checks of a pair, in the order of the help. Each takes a sample and what was found in it, and says nothing where the
# figures give no reason.
#
# The limits are set so that all warnings together touch clean data in fewer than one run of twenty (bench/cautions.R).

pair_checks <- function() {
  list(
    doubt_codes, doubt_trend, doubt_neighbours, doubt_part, doubt_groups, doubt_averages, doubt_denominator,
    doubt_one_case, doubt_curve, doubt_spread, doubt_narrow, doubt_clusters, doubt_far, doubt_unequal, doubt_repeated,
    doubt_range, doubt_edge, doubt_third
  )
}

#' Checks that hold also where both variables are one measure
#' @noRd
column_checks <- function() list(doubt_ends, doubt_coarse, doubt_rare, doubt_few, doubt_missing)

#' All cautions about a pair
#'
#' @param sample The sample that the result was computed on.
#' @param found What was found in it: `estimate`, `p`, `alpha`, `scale` (the convention for words of size). The checks are
#'   handed `once` with it, what several of them need and none but the first works out.
#' @return A table of cautions, the gravest first.
#' @noRd
find_cautions <- function(sample, found) {
  found$record <- coefficient_record(found$estimate$coefficient)
  found$r <- found$estimate$r
  found$p <- if (is.na(found$p)) 0 else found$p
  found$once <- found_once(sample, found)
  same <- doubt_same(sample, found)
  first <- if (length(same)) list() else pair_checks()
  doubts <- lapply(c(first, column_checks()), function(check) check(sample, found))
  told <- new_cautions(c(same, do.call(c, doubts)), sample$names[1], sample$names[2])
  told$figures <- lapply(told$figures, name_others, sample)
  told
}

#' Figures that speak of other variables than the pair, with what those are called
#' @noRd
name_others <- function(figures, sample) {
  words <- unlist(Filter(is.character, figures))
  labels <- sample$more$labels_of(setdiff(words, sample$names))
  if (length(labels)) structure(figures, labels = labels) else figures
}

#' @return An environment: `left`, y about its straight line in x; `without`, r without each case; `trend`, the trend check;
#'   `others`, the study's other measures; `columns`, the pair and those.
#' @noRd
found_once <- function(sample, found) {
  once <- new.env(parent = emptyenv())
  delayedAssign(
    "left", as.vector(freed(cbind(sample$y), cbind(1, sample$x - mean(sample$x)))),
    assign.env = once
  )
  delayedAssign("without", found$record$without_each(found$estimate), assign.env = once)
  delayedAssign("others", sample_others(sample), assign.env = once)
  delayedAssign("columns", columns_at_hand(sample, once$others), assign.env = once)
  delayedAssign("trend", trend_of_sample(sample, found$alpha), assign.env = once)
  once
}
