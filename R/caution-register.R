# The register of cautions: each stands in a file of its own, `caution-NAME.R`, as a function `caution_NAME()` that builds
# its record, and is found by that name; nothing else in the house lists them.
#
# The limits are set so that all warnings together touch clean data in fewer than one run of twenty (bench/cautions.R).

all_cautions <- function() collect_records("caution")

find_caution <- function(code) all_cautions()[[code]]

#' All cautions about a pair
#'
#' @param sample The sample that the result was computed on.
#' @param evidence What was found in it: `estimate`, `p`, `alpha`, `scale` (the convention for words of size). The checks are
#'   handed `once` with it, what several of them need and none but the first works out.
#' @param scheme How the cases count, by name; `residuals` the sample of residuals where variables are controlled.
#' @return A table of cautions, the gravest first.
#' @noRd
find_cautions <- function(sample, evidence, scheme = "simple", residuals = NULL) {
  evidence$record <- coefficient_record(evidence$estimate$coefficient)
  evidence$r <- evidence$estimate$r
  evidence$p <- if (is.na(evidence$p)) 0 else evidence$p
  groups <- evidence$record$categories > 0L
  checks <- Filter(function(record) {
    !is.null(record$check) && scheme %in% record$schemes && (is.na(record$of_groups) || record$of_groups == groups)
  }, all_cautions())
  # Residuals of two groups lie about two places, which bends nothing.
  grouped <- any(vapply(sample$coding, function(side) !is.null(side$one), NA))
  seen <- if (is.null(residuals)) sample else residuals
  evidence$once <- found_once(seen, evidence)
  findings <- list()
  same <- FALSE
  for (record in checks) {
    if (same && !record$always) next
    whole <- is.null(residuals) || identical(record$schemes, all_kinds_of_cases)
    if (!whole && grouped && !record$grouped) next
    findings <- c(findings, record$check(if (whole) sample else seen, evidence))
    same <- same || record$code == "same_measure" && length(findings) > 0L
  }
  cautions <- new_cautions(findings, sample$names[1], sample$names[2])
  cautions$figures <- lapply(cautions$figures, name_others, sample)
  cautions
}

#' Figures that speak of other variables than the pair, with what those are called
#' @noRd
name_others <- function(figures, sample) {
  words <- unlist(Filter(is.character, figures))
  labels <- sample$more$labels_of(setdiff(words, sample$names))
  if (length(labels)) structure(figures, labels = labels) else figures
}

#' @return An environment: `dependence`, what [dependence_of_sample()] found; `residuals`, y about its straight line in x;
#'   `clusters`, what [clusters_of_sample()] found; `effect`, how many cases are worth one independent one; `without`, r
#'   without each case; `trend`, the trend check; `others`, the study's other measures; `columns`, the pair
#'   and those.
#' @noRd
found_once <- function(sample, evidence) {
  once <- new.env(parent = emptyenv())
  delayedAssign(
    "residuals", as.vector(freed(cbind(sample$y), cbind(1, sample$x - mean(sample$x)))),
    assign.env = once
  )
  delayedAssign(
    "dependence", or_default(evidence$dependence, dependence_of_sample(sample, evidence$estimate)),
    assign.env = once
  )
  # Where the interval rests on them they were sought already, whether there are any or not.
  known <- "clusters" %in% names(evidence)
  delayedAssign("clusters", if (known) evidence$clusters else clusters_of_sample(sample, evidence), assign.env = once)
  delayedAssign("effect", effect_of_dependence(once), assign.env = once)
  delayedAssign("without", evidence$record$without_each(evidence$estimate), assign.env = once)
  delayedAssign("others", sample_others(sample), assign.env = once)
  delayedAssign("columns", columns_at_hand(sample, once$others), assign.env = once)
  delayedAssign("trend", trend_of_sample(sample, evidence$alpha), assign.env = once)
  once
}

# Cases that are alike in their classes, or like their neighbours, weigh less in a test of the shape as in that of r.
effect_of_dependence <- function(once) {
  dependence <- once$dependence
  max(1, once$clusters$effect, if (length(dependence)) dependence$n / dependence$effective)
}
