#' Many tests whose p are not adjusted
#' @noRd
caution_many_tests <- function() {
  new_caution("many_tests",
    place = 26, meaning = "Multiple testing.",
    evidence = function(f, pair) {
      template(
        "Multiple testing: of %d unadjusted tests about %s would have p < .05 by chance alone.", f$tests,
        shown(f$tests * 0.05, "number", 2)
      )
    }
  )
}

#' Many tests whose p are not adjusted for their number
#' @noRd
check_tests <- function(tests, multiplicity) {
  if (multiplicity != "none" || tests < 10L) return(NULL)
  step <- next_step("matrix", multiplicity = "holm", pair = FALSE)
  list(new_finding("many_tests", "warning", list(tests = tests), step))
}
