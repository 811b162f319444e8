# The axes of figures: numbers, the words of a scale, the values of few.

#' Numbers along a side, the words of a scale, or the two words of a binary variable
#' @noRd
side_scale <- function(scale, coding, values = NULL) {
  if (!is.null(coding$steps)) return(scale(breaks = coding$steps$at, labels = wrapped_steps(coding$steps$labels)))
  if (length(values)) return(scale(breaks = values, labels = axis_numbers))
  if (is.null(coding$one)) return(scale(labels = axis_numbers))
  scale(breaks = 0:1, labels = c(coding$zero, coding$one))
}

# The values of a scale of whole numbers: its axis marks these and none beyond its ends. Of a declared range the axis
# marks no number outside it.
scale_values <- function(sample, side) {
  values <- sample[[c("x", "y")[side]]]
  ends <- scale_ends(sample, side)
  if (sample$variables$level[side] %in% "ordinal") {
    kinds <- sort(unique(c(values, ends)))
    if (length(kinds) <= 11L && all(kinds == round(kinds)) && diff(range(kinds)) <= 10) return(seq(min(kinds), max(kinds)))
  }
  # Whole numbers over a short range are marked by whole numbers.
  width <- diff(range(values))
  if (is.null(ends) && width <= 12 && width >= 4 && all(values == round(values))) ends <- range(values)
  if (is.null(ends) || any(values < ends[1] | values > ends[2])) return(NULL)
  marks <- pretty(range(values))
  if (all(values == round(values))) marks <- unique(round(marks))
  marks[marks >= ends[1] & marks <= ends[2]]
}

#' The ends of the scale of a side, as the codebook or the heading tells them
#' @noRd
scale_ends <- function(sample, side) {
  range <- sample$variables$range[side]
  if (length(range) && !is.na(range)) parse_range(range, sample$names[side])
}

#' Those ends that the panel reaches: of a scale of a few steps both
#' @noRd
steps_to_show <- function(sample, side) {
  ends <- scale_ends(sample, side)
  if (!is.null(ends) && diff(ends) <= 12 && sample$variables$level[side] %in% "ordinal") ends
}

wrapped_steps <- function(labels) {
  vapply(labels, function(one) paste(strwrap(one, 15), collapse = "\n"), "", USE.NAMES = FALSE)
}

# Room of a twentieth on each side, so that no dot touches the edge.
panel_range <- function(limits, values, dots = values) {
  if (!is.null(limits)) return(limits)
  ends <- range(values)
  # Two values stand well inside, so that their words have room.
  kinds <- count_kinds(dots)
  ends + c(-1, 1) * (if (kinds == 2L) 0.4 else if (kinds <= 7L) 0.09 else 0.05) * diff(ends)
}
