# The strip of r as a picture, for where it cannot be a drawing of the page's own.

#' A rail from -1 (or 0) to 1 with zero marked, the interval as a bar, r as a dot
#' @param points The size of the numbers under the rail.
#' @noRd
figure_strip <- function(relation, points = 10) {
  start <- strip_start(relation$coefficient)
  marks <- unique(c(start, 0, 1))
  ends <- data.frame(at = marks, shown = axis_numbers(marks))
  colour <- if (relation$r < 0) look$negative else look$dots
  bar <- if (!is.na(relation$ci_low)) {
    ggplot2::annotate("segment",
      x = relation$ci_low, xend = relation$ci_high, y = 0, yend = 0, colour = look$ink, linewidth = points / 8
    )
  }
  ggplot2::ggplot(ends, ggplot2::aes(.data$at, 0)) +
    ggplot2::annotate("segment", x = start, xend = 1, y = 0, yend = 0, colour = look$rule, linewidth = points / 20) +
    ggplot2::geom_segment(ggplot2::aes(xend = .data$at, y = -0.3, yend = 0.3), colour = look$soft, linewidth = points / 20) +
    bar +
    ggplot2::annotate("point", x = relation$r, y = 0, colour = colour, size = points / 4.5) +
    ggplot2::geom_text(ggplot2::aes(y = -0.85, label = .data$shown), colour = look$soft, size = points / ggplot2::.pt) +
    ggplot2::coord_cartesian(xlim = c(start, 1) + c(-0.03, 0.03) * (1 - start), ylim = c(-1.25, 0.45), expand = FALSE) +
    ggplot2::theme_void()
}
