# One pair's relation: the evidence of its scheme, put together in one way, whichever question asks.

#' The samples of a pair of a study: one, or one for each plausible value
#'
#' @param categories Whether groups without an order are taken as such; else they are refused.
#' @return A list: `each` (samples), `shown` (that of the pair as it stands, for figures and cautions).
#' @noRd
samples_of_pair <- function(study, x, y, given = NULL, categories = FALSE) {
  versions <- plausible_versions(study, c(x, y, given))
  shown <- sample_given(study, x, y, given, categories)
  if (length(versions) == 1L) return(list(each = list(shown), shown = shown))
  list(
    each = lapply(versions, function(names) sample_given(study, names[1], names[2], names[-(1:2)])), shown = shown
  )
}

#' The relation of two variables of a study
#' @param samples From [samples_of_pair()], where they were taken already.
#' @noRd
relate_study <- function(study, x, y, options, samples = NULL) {
  if (is.null(samples)) samples <- samples_of_pair(study, x, y, options$given, categories = TRUE)
  relation <- with_correction(study, finish_relation(evidence_of_pair(samples, options), options), options)
  relation <- with_unrestricted(study, relation, options)
  if (isTRUE(options$unmeasured)) relation <- with_unmeasured(relation, options)
  with_smallest(relation, options, function(confidence) {
    undoubted <- !identical(relation$ci_method, "clusters")
    again <- replace(options, c("confidence", "undoubted"), list(confidence, undoubted))
    again$seed <- relation$seed
    finish_relation(evidence_of_pair(samples, again), again)
  })
}

#' @param samples From [samples_of_pair()].
#' @noRd
evidence_of_pair <- function(samples, options) {
  if (length(samples$each) == 1L) return(evidence_of_sample(samples$each[[1]], options))
  check_offered(find_scheme("plausible"), settle_coefficient(options$coefficient, samples$each[[1]]), options)
  combine_evidence(lapply(samples$each, evidence_of_sample, options), samples$shown, options)
}

#' The relation that a sample shows
#' @param options Settled arguments of the question.
#' @noRd
relate_sample <- function(sample, options) finish_relation(evidence_of_sample(sample, options), options)

#' A relation from the evidence about it
#' @param cautions Those that are known already; `NULL` to seek them, unless `options` say that none is told.
#' @noRd
finish_relation <- function(evidence, options, cautions = NULL) {
  sample <- evidence$sample
  record <- coefficient_record(evidence$estimate$coefficient)
  scale <- record$scale(options$strength, evidence$estimate)
  make <- if (record$categories) new_group_relation else new_relation
  if (is.null(cautions)) cautions <- if (isTRUE(options$undoubted)) new_cautions() else seek_cautions(evidence, options)
  relation <- do.call(make, c(
    list(
      x = sample$names[1], y = sample$names[2], coefficient = record$name, r = evidence$r,
      r_squared = if (is.null(record$words$r_squared)) NA_real_ else 1 - evidence$unexplained, n = evidence$n,
      n_dropped = sum(sample$dropped), confidence = interval_level(record, options$confidence)
    ),
    evidence$interval[c("ci_low", "ci_high", "ci_method")],
    evidence$test[c("statistic", "value", "df", "p", "log10_p", "p_method")],
    list(
      expect = options$expect, direction = if (record$signed) direction_of(evidence$r) else NA_character_,
      strength = strength_word(evidence$r, scale), strength_scale = options$strength$name, scale = scale,
      cautions = cautions, sample = sample, estimate = evidence$estimate,
      chosen = if (options$coefficient == "auto") "auto" else "asked", scheme = evidence$scheme,
      z_variance = evidence$z_variance, tested_at = options$confidence
    ),
    evidence$further
  ))
  over_classes(relation, options)
}

#' A relation whose cases are clustered in classes that nobody declared: the interval and test over the classes, which its
#' caution found, in place of the textbook's; a design and several values have their own, and controls have these already
#' @noRd
over_classes <- function(relation, options) {
  figures <- relation$cautions$figures[relation$cautions$code == "clustered_cases"]
  independent <- relation$scheme %in% c("simple", "moments")
  told <- if (length(figures) && independent && all(c(options$test, options$interval) == "auto")) {
    told_over_classes(figures[[1]], options$expect)
  }
  if (is.null(told)) return(relation)
  if (is.null(relation$textbook)) {
    relation$textbook <- unclass(relation)[c("ci_low", "ci_high", "ci_method", "statistic", "value", "df", "p")]
  }
  relation[names(told)] <- told
  relation
}

direction_of <- function(r) c("negative", "none", "positive")[sign(r) + 2]

#' The cautions that hold under the scheme of the evidence
#' @noRd
seek_cautions <- function(evidence, options) {
  sample <- evidence$sample
  material <- c(list(
    estimate = evidence$estimate, interval = evidence$interval, p = evidence$test$p, alpha = alpha_of(options$confidence),
    scale = options$strength, expect = options$expect, route = options[c("test", "interval")],
    dependence = evidence$dependence
  ), evidence[names(evidence) == "clusters"])
  if (evidence$scheme != "controlled") return(find_cautions(sample, material, evidence$scheme))
  # Bends and unequal spreads are sought in the residuals, whether r is clear or not.
  material$estimate$coefficient <- straight_record()$name
  material$p <- 0
  find_cautions(sample, material, evidence$scheme, evidence$further$residual_sample)
}
