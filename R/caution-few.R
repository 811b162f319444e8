#' Few pairs
#' @noRd
doubt_few <- function(sample, found) few_doubt(sample_size(sample))

few_doubt <- function(n) {
  if (n < 25L) list(new_doubt("few_cases", if (n < 10L) "warning" else "note", list(n = n)))
}
