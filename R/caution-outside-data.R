#' A prediction outside the data
#' @noRd
caution_outside_data <- function() {
  new_caution("outside_data",
    place = 29, meaning = "Extrapolation.",
    evidence = function(f, pair) {
      template(
        "Extrapolation: %s = %s lies outside the data (%s).", shown(f$name, "heading"),
        shown(lapply(f$at, shown, "number", 6), "parts", ", "), shown(c(f$low, f$high), "reach")
      )
    },
    advice = function(f, pair) template("Predict within the range of the data, or collect cases beyond it.")
  )
}

#' Predictions beyond the x that were observed
#' @param at Those x; `ends` the smallest and the largest observed.
#' @noRd
check_outside <- function(x, at, ends) {
  if (!length(at)) return(NULL)
  list(new_finding("outside_data", "warning", list(name = x, at = at, low = ends[1], high = ends[2])))
}
