#' Two rates per the same base, by their units
#' @noRd
doubt_denominator <- function(sample, found) {
  units <- sample$variables$unit
  base <- ifelse(grepl("\\bper\\b", units), trimws(tolower(sub("^.*\\bper\\b", "", units))), NA)
  if (anyNA(base) || base[1] != base[2]) return(NULL)
  list(new_doubt("shared_denominator", "warning", list(base = base[1])))
}
