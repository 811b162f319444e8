# Whether a correlation is shown to be smaller than what matters, larger than it, or neither: two one-sided tests beside the
# usual one.

#' A relation with its verdict on the smallest correlation that matters, where one was given
#'
#' The interval whose level is 1 minus twice alpha lies inside plus and minus that size where both one-sided tests reject.
#'
#' @param options Settled arguments of the question; `smallest` the size.
#' @param again From a confidence to the same relation at that confidence, by the same route.
#' @references Goertzen & Cribbie (2010), British Journal of Mathematical and Statistical Psychology 63, 527-537; Schuirmann
#'   (1987), Journal of Pharmacokinetics and Biopharmaceutics 15, 657-680.
#' @noRd
with_smallest <- function(relation, options, again) {
  smallest <- options$smallest
  if (is.null(smallest)) return(relation)
  if (coefficient_record(relation$coefficient)$categories) {
    abort_usage(
      problem("%s has no sign, so it is not compared with a smallest correlation.", capital(relation$coefficient)),
      "Leave out `smallest`."
    )
  }
  level <- 1 - 2 * alpha_of(options$confidence)
  if (level <= 0) abort_usage("With `smallest` the confidence must be above 0.5.", "For example 0.95.")
  inner <- again(signif(level, 10))
  relation[c("smallest", "smallest_confidence", "smallest_low", "smallest_high")] <- list(
    smallest, signif(level, 10), inner$ci_low, inner$ci_high
  )
  relation$smallest_verdict <- smallest_verdict(relation)
  relation
}

#' @return `"larger"` (the interval lies beyond that size), `"smaller"` (both one-sided tests reject), `"uncertain"`
#'   (significant, but of a size on either side of it) or `"inconclusive"`; `NA` without an interval.
#' @noRd
smallest_verdict <- function(relation) {
  size <- relation$smallest
  if (anyNA(c(relation$ci_low, relation$ci_high, relation$smallest_low))) return(NA_character_)
  if (relation$ci_low > size || relation$ci_high < -size) return("larger")
  if (relation$smallest_low > -size && relation$smallest_high < size) return("smaller")
  if (is_below(relation$p, relation$tested_at)) "uncertain" else "inconclusive"
}
