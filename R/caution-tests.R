#' Many tests whose p are not adjusted for their number
#' @noRd
doubt_tests <- function(tests, multiplicity) {
  if (multiplicity != "none" || tests < 10L) return(NULL)
  step <- next_step("matrix", multiplicity = "holm", pair = FALSE)
  list(new_doubt("many_tests", "warning", list(tests = tests), step))
}
