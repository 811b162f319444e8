#' Predictions beyond the x that were observed
#' @param at Those x; `ends` the smallest and the largest observed.
#' @noRd
doubt_outside <- function(x, at, ends) {
  if (!length(at)) return(NULL)
  list(new_doubt("outside_data", "warning", list(name = x, at = at, low = ends[1], high = ends[2])))
}
