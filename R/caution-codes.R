#' Values that look like codes for "no answer" and count as numbers
#' @noRd
doubt_codes <- function(sample, found = NULL) {
  codes <- sample_codes(sample)
  lapply(names(codes), function(name) {
    figures <- as.list(codes[[name]])
    figures$code <- codes[[name]]$code
    step <- next_step("relate", missing_codes = figures$code)
    new_doubt("codes_not_numbers", "serious", c(list(name = name), figures), step)
  })
}
