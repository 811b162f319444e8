#' A prediction outside the data
#' @noRd
caution_outside_data <- function() {
  new_caution("outside_data",
    place = 29, meaning = "Outside the data.",
    evidence = function(f, pair) template(
      "%s = %s lies outside the data (%s): nobody has seen whether the line goes on.", shown(f$name, "heading"),
      shown(lapply(f$at, shown, "number", 6), "parts", ", "), shown(c(f$low, f$high), "reach")
    ),
    advice = function(f, pair) template("Next: predict within the data, or find cases out there.")
  )
}

#' Predictions beyond the x that were observed
#' @param at Those x; `ends` the smallest and the largest observed.
#' @noRd
check_outside <- function(x, at, ends) {
  if (!length(at)) return(NULL)
  list(new_finding("outside_data", "warning", list(name = x, at = at, low = ends[1], high = ends[2])))
}
