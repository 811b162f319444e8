# How much room a figure has at its size: margins, panels, and how large its text is.

#' How much smaller than usual the text of a figure is
#' @noRd
text_scale <- function(figure) ggplot2::calc_element("text", figure$theme)$size / 13

margins_in_inches <- function(theme) {
  as.numeric(grid::convertUnit(ggplot2::calc_element("plot.margin", theme), "in"))
}

#' How many rows and columns of panels a figure has, as far as that is known before it is built
#' @noRd
panel_grid <- function(figure) {
  params <- figure$facet$params
  if (!length(params$facets)) return(c(1L, 1L))
  several <- length(unique(rlang::eval_tidy(params$facets[[1]], figure$data)))
  ggplot2::wrap_dims(max(several, 1L), params$nrow, params$ncol)
}

# Rows of panels with their headings; a single panel needs more than one of many.
panel_rows <- function(figure) {
  rows <- panel_grid(figure)[1]
  if (length(figure$facet$params$facets)) 1.6 * rows else 3
}

# In inches, without those parts that share what is left.
sum_of_units <- function(units, convert) sum(convert(units[grid::unitType(units) != "null"], "in", TRUE))

#' How wide, or how high, all panels of a table of parts are together, in inches
#' @noRd
panel_inches <- function(table, size, side) {
  if (side == "width") return(size$width - sum_of_units(table$widths, grid::convertWidth))
  size$height - sum_of_units(table$heights, grid::convertHeight)
}

changed <- function(figure) structure(figure, changed = TRUE)

#' A layer whose text has another size: the layers of a figure are shared with those it was made from
#' @noRd
with_text_size <- function(layer, size) {
  new <- ggplot2::ggproto(NULL, layer)
  new$aes_params <- utils::modifyList(layer$aes_params, list(size = size))
  new
}

#' A figure whose panels are laid out otherwise
#' @param ... Parameters of its facets.
#' @noRd
with_panels <- function(figure, ...) {
  facet <- figure$facet
  figure$facet <- ggplot2::ggproto(NULL, facet, params = utils::modifyList(facet$params, list(...)))
  figure
}

#' The text that a grob shows, also one within others
#' @noRd
text_of_grob <- function(grob) {
  if (inherits(grob, "text")) return(as.character(grob$label))
  parts <- c(if (inherits(grob, "gtable")) grob$grobs, grob$children)
  unlist(lapply(parts, text_of_grob))
}

# Square panels leave some width at their sides, and titles begin and end with them.
beside_square_panels <- function(figure, size) {
  if (is.null(figure$theme$aspect.ratio)) return(0)
  grid <- panel_grid(figure)
  room <- panel_room(figure, size)
  headings <- 3.2 * ggplot2::calc_element("text", figure$theme)$size * 0.42 * (length(figure$facet$params$facets) > 0L)
  square <- max(room[["height"]] / grid[1] - headings - 5, 5)
  max(0, room[["width"]] - square * grid[2]) / 25.4
}

lines_of <- function(text) if (is.character(text) && length(text)) length(strsplit(text, "\n", fixed = TRUE)[[1]]) else 0L

#' About how large the panels of a figure will be, in mm
#' @noRd
panel_room <- function(figure, size) {
  points <- ggplot2::calc_element("text", figure$theme)$size
  margins <- margins_in_inches(figure$theme)
  lines <- vapply(c("title", "subtitle", "caption"), function(name) lines_of(figure$labels[[name]]), 0L)
  heading <- sum(c(1.3, 1.05, 0.9) * lines)
  line <- points * 1.2 / 72
  across <- size$width - margins[2] - margins[4] - 3.6 * line
  up <- size$height - margins[1] - margins[3] - (heading + 3.6) * line
  c(width = 25.4 * max(across, 0.5), height = 25.4 * max(up, 0.5))
}
