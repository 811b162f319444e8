# The route of interval and test as the coefficients' records offer it.

#' The spread of an estimate, as far as it was not found before
#' @noRd
spread_of_estimate <- function(e) {
  if (!is.null(e$spread)) return(e$spread)
  if (e$n < 4L || e$unexplained == 0) return(list(variance = NA_real_, df = NA_real_))
  coefficient_record(e$coefficient)$spread(e)
}

spread_by_products <- function(e) spread_of_pairs(list(e$x, e$y), 1L, 2L, e$r, e$n, 1L)

#' The test and the interval by the jackknife, as a record offers them
#' @noRd
test_jackknife <- function(e, expect, draws) {
  spread <- spread_of_estimate(e)
  test_from_z(e$r, e$unexplained, spread$variance, spread$df, expect, "jackknife")
}

limits_jackknife <- function(e, confidence, draws) {
  spread <- spread_of_estimate(e)
  limits <- interval_from_z(e$r, e$unexplained, spread$variance, confidence, spread$df)
  if (is.na(limits$ci_low)) no_interval() else c(limits, ci_method = "jackknife")
}

# What the records of r of products ask the data, and that of tau-b, whose textbook's interval knows of no ties.
robust_by_spread <- function(e, spread) speaks_against(spread, e$n)

robust_with_ties <- function(e, spread) (anyDuplicated(e$x) > 0L || anyDuplicated(e$y) > 0L) && is.finite(spread$variance)

# Kinds of test and interval that sums give as well as cases do.
textbook_kinds <- c("auto", "analytic")

#' Which test and which interval: what was asked for, the one bringing the other; else what the data call for
#' @return A list: `test`, `interval` (kinds), `estimate`, and `chosen`, whether the data chose them.
#' @noRd
settle_route <- function(record, estimate, options) {
  route <- list(test = options$test, interval = options$interval)
  open <- vapply(route, identical, NA, "auto")
  chosen <- all(open)
  kind <- if (chosen) "analytic" else route[[which(!open)[1]]]
  # Found where it is first needed, and kept for the test, the interval and the cautions.
  delayedAssign("spread", spread_of_estimate(estimate))
  if (chosen && !is.null(record$robust) && estimate$n >= least_for_route && estimate$unexplained > 0) {
    if (record$robust(estimate, spread)) kind <- "jackknife"
    if (record$moments) estimate$spread <- spread
  }
  for (field in names(route)[open]) {
    offered <- names(record[[paste0(field, "s")]])
    route[[field]] <- if (kind %in% offered) kind else offered[1]
  }
  if ("jackknife" %in% route && !is.null(record$spread)) estimate$spread <- spread
  c(route, list(estimate = estimate, chosen = chosen, one_asked = sum(open) == 1L))
}
