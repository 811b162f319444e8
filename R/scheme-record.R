# How an estimate is worked out and how sure it is: a scheme. Each stands in a file of its own, `scheme-NAME.R`, as a
# function `scheme_NAME()`, and is found by that name. Every question takes its evidence from the scheme of its sample.

#' A scheme
#'
#' @param name A word; `place` the place in which schemes are tried, the first that suits is taken.
#' @param described As errors name it, after "with": "a sampling design".
#' @param suits From a sample to whether its cases come so.
#' @param evidence From a sample, a coefficient's record and settled options to the evidence, see [new_evidence()].
#' @param tests,intervals The kinds that may be asked for; `NULL` where the coefficient decides.
#' @param products Whether r must be that of products of scores.
#' @param corrected Whether r may be corrected for unreliability.
#' @noRd
new_scheme <- function(name, place, described, suits, evidence, tests = NULL, intervals = NULL, products = TRUE,
                       corrected = FALSE) {
  structure(as.list(environment()), class = "unsere_scheme")
}

#' All schemes, in the order in which they are tried
#' @noRd
all_schemes <- function() collect_records("scheme")

find_scheme <- function(name) all_schemes()[[name]]

sample_scheme <- function(sample) Find(function(scheme) scheme$suits(sample), all_schemes())

#' What a scheme found about a pair: all that a relation, a row of a matrix or a comparison reports
#'
#' @param sample As it was used; `estimate` of its scores.
#' @param r,unexplained r and 1 - r squared; `n` cases; `z_variance` the variance of Fisher's z, `df` its degrees of freedom.
#' @param test From `new_test()`; `interval` a list of `ci_low`, `ci_high`, `ci_method`.
#' @param ... Further fields of the relation.
#' @noRd
new_evidence <- function(scheme, sample, estimate, r, unexplained, n, z_variance, test, interval, ...) {
  list(
    scheme = scheme, sample = sample, estimate = estimate, r = r, unexplained = unexplained, n = n,
    z_variance = z_variance, test = test, interval = interval, further = list(...)
  )
}

#' The evidence about a sample's pair under its scheme
#'
#' @param options Settled arguments of the relation.
#' @section Errors: `unsere_error_usage` for what the scheme does not offer, by name.
#' @noRd
evidence_of_sample <- function(sample, options) {
  scheme <- sample_scheme(sample)
  part_side(sample, options$part)
  record <- settle_coefficient(options$coefficient, sample)
  check_offered(scheme, record, options)
  if (!is.na(record$two_valued)) sample <- as_zero_one(sample, record$two_valued)
  scheme$evidence(sample, record, options)
}

check_offered <- function(scheme, record, options) {
  if (!record$signed && options$expect != "either") {
    abort_usage(problem("%s has no direction.", capital(record$name)), "Leave out `expect`.")
  }
  if (scheme$products && !record$products) {
    abort_usage(
      problem("%s is not available with %s.", capital(record$name), scheme$described),
      if (record$categories) "Correlate the two without it, or use an ordered variable." else "Use pearson or spearman."
    )
  }
  for (kind in c("test", "interval")) {
    offered <- scheme[[paste0(kind, "s")]]
    if (is.null(offered) || options[[kind]] %in% c("auto", offered)) next
    abort_usage(
      problem("There is no `%s` \"%s\" with %s.", kind, options[[kind]], scheme$described),
      problem("Allowed: %s.", paste0("\"", offered, "\"", collapse = ", "))
    )
  }
  if (!scheme$corrected && length(options$correct_for)) {
    abort_usage(
      problem("r is not corrected for attenuation with %s.", scheme$described), "Leave out `correct_for`."
    )
  }
}
