#' A code for "no answer" counts as a number
#' @noRd
caution_codes_not_numbers <- function() {
  new_caution("codes_not_numbers",
    place = 2, check = check_codes, schemes = c("simple", "design"),
    meaning = "A missing-value code may count as a number.",
    evidence = function(f, pair) {
      template(
        "%s contains %s, far outside its other values: possibly a missing-value code that is treated as a number.",
        shown(f$name, "Label"), toString(format(f$code, trim = TRUE))
      )
    }
  )
}

#' Values that look like codes for "no answer" and count as numbers
#' @noRd
check_codes <- function(sample, evidence = NULL) {
  codes <- sample_codes(sample)
  lapply(names(codes), function(name) {
    figures <- as.list(codes[[name]])
    figures$code <- codes[[name]]$code
    step <- next_step("relate", missing_codes = figures$code)
    new_finding("codes_not_numbers", "serious", c(list(name = name), figures), step)
  })
}
