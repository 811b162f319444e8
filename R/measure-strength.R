# Words for the size of r, each by a named, published convention: lower bounds of |r|, and the word from there on.

strength_scales <- list(
  cohen = list(source = "Cohen (1988)", below = "below small", cuts = c(small = 0.1, medium = 0.3, large = 0.5)),
  evans = list(
    source = "Evans (1996)", below = "very weak",
    cuts = c(weak = 0.2, moderate = 0.4, strong = 0.6, "very strong" = 0.8)
  ),
  gignac = list(
    source = "Gignac & Szodorai (2016)", below = "below small", cuts = c(small = 0.1, typical = 0.2, large = 0.3)
  )
)

#' The scale in force
#'
#' @param strength The name of a scale, or the user's own cut points: a named, rising numeric vector in (0, 1).
#' @return A list: `name`, `source`, `below`, `cuts`.
#' @noRd
strength_scale <- function(strength) {
  if (is.list(strength) && !is.null(strength$cuts)) return(strength)
  if (is.numeric(strength)) return(own_scale(strength))
  name <- one_of(strength, names(strength_scales), "strength")
  c(list(name = name), strength_scales[[name]])
}

own_scale <- function(cuts) {
  sound <- length(cuts) > 0 && !is.null(names(cuts)) && all(nzchar(names(cuts))) && !anyNA(cuts) &&
    all(cuts > 0 & cuts < 1) && !is.unsorted(cuts, strictly = TRUE)
  if (!sound) {
    abort_usage(
      "`strength` needs cut points that rise between 0 and 1, each with its word.",
      "For example c(small = 0.1, large = 0.4); or one of \"cohen\", \"evans\", \"gignac\"."
    )
  }
  list(name = "own", source = "the cut points set here", below = paste("below", names(cuts)[1]), cuts = cuts)
}

#' The word for a size, as it is told: of r rounded to so many digits, so that ".30" is never called less than .30
#' @noRd
strength_word <- function(r, scale, digits = 2) {
  reached <- sum(round(abs(r), digits) > scale$cuts - 1e-9)
  if (reached == 0) scale$below else names(scale$cuts)[reached]
}
