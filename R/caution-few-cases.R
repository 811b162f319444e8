#' Few pairs
#' @noRd
caution_few_cases <- function() {
  new_caution("few_cases",
    place = 24, check = check_few_cases, of_groups = NA, schemes = all_kinds_of_cases, always = TRUE,
    meaning = "Small sample.",
    evidence = function(f, pair) template("Small sample: %d pairs.", f$n),
    advice = function(f, pair) template("Interpret the interval, not r alone.")
  )
}

#' Few pairs
#' @noRd
check_few_cases <- function(sample, evidence) few_finding(sample_size(sample))

few_finding <- function(n) {
  if (n < 25L) list(new_finding("few_cases", if (n < 10L) "warning" else "note", list(n = n)))
}
