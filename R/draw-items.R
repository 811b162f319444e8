#' Draw the items of a scale: how hard each is, and how it goes with the rest
#'
#' @param items From [check_items()].
#' @param title,subtitle,caption Texts; written from the items when `NULL`, absent when `NA`.
#' @param plain `TRUE` for a figure without title, subtitle and caption.
#' @return A ggplot2 object.
#' @section Errors: `unsere_error_usage` when `items` come from elsewhere.
#' @examples
#' draw_items(check_items(demo_study("learners"), m1, m2, m3, m4, m5, m6))
#' @export
draw_items <- function(items, title = NULL, subtitle = NULL, caption = NULL, plain = FALSE) {
  if (!inherits(items, "unsere_items")) abort_usage("`items` must come from check_items().", "Check them first.")
  figure_items(items, figure_texts(title, subtitle, caption, plain))
}

#' @rawNamespace S3method(ggplot2::autoplot, unsere_items)
autoplot.unsere_items <- function(object, ...) figure_items(object, ...)

figure_items <- function(items, texts = list()) {
  rows <- items$items[!is.na(items$items$item_rest), ]
  rows$flagged <- nzchar(rows$flags)
  keyed <- length(items$keyed) > 0L
  rlang::check_installed("ggrepel", "to name items in a figure.")
  ggplot2::ggplot(rows, ggplot2::aes(.data$mean, .data$item_rest)) +
    ggplot2::geom_hline(yintercept = 0, colour = look$soft, linewidth = 0.6) +
    ggplot2::geom_linerange(ggplot2::aes(ymin = .data$ci_low, ymax = .data$ci_high), colour = look$soft, linewidth = 0.7) +
    ggplot2::geom_point(ggplot2::aes(shape = .data$flagged, colour = .data$flagged), size = 3.6) +
    ggrepel::geom_text_repel(ggplot2::aes(label = .data$item), size = 4, colour = look$ink, seed = 1, max.overlaps = Inf) +
    ggplot2::scale_shape_manual(values = c("FALSE" = 16, "TRUE" = 17), guide = "none") +
    ggplot2::scale_colour_manual(values = c("FALSE" = look$dots, "TRUE" = look$negative), guide = "none") +
    ggplot2::scale_x_continuous(name = if (keyed) "share right" else "mean", labels = axis_numbers) +
    ggplot2::scale_y_continuous(name = "r with the rest", labels = axis_numbers) +
    ggplot2::labs(
      title = text_or(
        texts$title,
        sprintf(
          "%d items, alpha = %s %s", nrow(items$items), format_r(items$alpha),
          format_interval(items$alpha_low, items$alpha_high)
        )
      ),
      subtitle = text_or(texts$subtitle, sprintf("n = %s persons answered all", format_count(items$n))),
      caption = text_or(
        texts$caption,
        wrap_lines("Lines: intervals by leaving out one person at a time. Triangles: items to look at.", 100)
      )
    ) +
    theme_unsere()
}
