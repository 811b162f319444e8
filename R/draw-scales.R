# The axes of figures: numbers, the words of a scale, the values of few.

#' Numbers along a side, the words of a scale, or the two words of a binary variable
#' @noRd
side_scale <- function(scale, coding, values = NULL) {
  if (!is.null(coding$steps)) return(scale(breaks = coding$steps$at, labels = wrapped_steps(coding$steps$labels)))
  if (!is.null(values)) return(scale(breaks = values))
  if (is.null(coding$one)) return(scale(labels = axis_numbers))
  scale(breaks = 0:1, labels = c(coding$zero, coding$one))
}

# The values of a scale of whole numbers: its axis marks these and none beyond its ends.
scale_values <- function(sample, side) {
  if (!sample$variables$level[side] %in% "ordinal") return(NULL)
  values <- sort(unique(sample[[c("x", "y")[side]]]))
  if (length(values) <= 11L && all(values == round(values)) && diff(range(values)) <= 10) seq(min(values), max(values))
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
