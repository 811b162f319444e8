#' The textbook's interval is too narrow for these data
#' @noRd
caution_interval_too_narrow <- function() {
  new_caution("interval_too_narrow",
    place = 13, check = check_narrow, meaning = "The textbook interval is too narrow.",
    evidence = function(f, pair) {
      template(
        "Interval too narrow: the textbook interval assumes nearly normal data; by the jackknife it is %s, not %s.",
        shown(c(f$wide_low, f$wide_high), "interval"), shown(c(f$low, f$high), "interval")
      )
    },
    advice = function(f, pair) template("Report the jackknife interval."),
    clause = function(f, digits) {
      template(
        "The jackknife interval (leaving out one case at a time) was %s.", shown(c(f$wide_low, f$wide_high), "interval")
      )
    },
    clause_from = "warning"
  )
}

#' The interval of the textbook, where it was asked for, is clearly narrower than the jackknife's
#' @noRd
check_narrow <- function(sample, evidence) {
  record <- evidence$record
  estimate <- evidence$estimate
  n <- estimate$n
  # Of cases that are alike the jackknife of single cases would be too narrow as well.
  if (is_by_jackknife(evidence$interval) || evidence$once$effect > 1) return(NULL)
  # Where each case is taken out by hand, as with ranks, it is not done unasked.
  if (n < least_for_route || !record$moments || estimate$unexplained == 0) return(NULL)
  estimate$spread <- spread_of_estimate(estimate)
  if (!is_wider(estimate$spread, n) %in% TRUE) return(NULL)
  confidence <- 1 - evidence$alpha
  wide <- limits_jackknife(estimate, confidence, NULL)
  usual <- record$intervals[[1]](estimate, confidence, NULL)
  if (anyNA(c(wide$ci_low, usual$ci_low))) return(NULL)
  figures <- list(low = usual$ci_low, high = usual$ci_high, wide_low = wide$ci_low, wide_high = wide$ci_high)
  list(new_finding("interval_too_narrow", "warning", figures, next_step("relate", interval = "jackknife")))
}
