# The strip of r as a picture, for where it cannot be a drawing of the page's own.

#' A rail from -1 to 1, a bar from zero to r, the interval over it
#' @param points The size of the numbers under the rail.
#' @noRd
figure_strip <- function(relation, points = 10) {
  cells <- data.frame(column = 0, row = 0, r = relation$r, ci_low = relation$ci_low, ci_high = relation$ci_high)
  ends <- data.frame(at = c(-1, 0, 1), shown = axis_numbers(c(-1, 0, 1)))
  ggplot2::ggplot(cells) +
    cell_strips(cells, 0, 0.22, half = 1) +
    ggplot2::geom_text(ggplot2::aes(.data$at, -0.75, label = .data$shown),
      data = ends, colour = look$soft, size = points / ggplot2::.pt
    ) +
    ggplot2::scale_fill_identity() +
    ggplot2::coord_cartesian(xlim = c(-1.04, 1.04), ylim = c(-1.1, 0.4), expand = FALSE) +
    ggplot2::theme_void()
}
