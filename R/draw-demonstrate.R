#' Draw a demonstration
#'
#' @param shown A demonstration from [demonstrate()].
#' @param title,subtitle,caption Text; `NA` for none. Default: written from the demonstration.
#' @param plain `TRUE` for a figure without title, subtitle and caption. Default: `FALSE`.
#' @return A ggplot2 object: a scatter plot for each row, or intervals by sample size.
#' @section Errors: `unsere_error_usage` if `shown` is something else.
#' @examples
#' draw_demonstration(demonstrate("groups"))
#' @export
draw_demonstration <- function(shown, title = NULL, subtitle = NULL, caption = NULL, plain = FALSE) {
  if (!inherits(shown, "unsere_demonstration")) abort_usage("`shown` must come from demonstrate().", "Make it first.")
  figure_demonstration(shown, figure_texts(title, subtitle, caption, plain))
}

#' @rawNamespace S3method(ggplot2::autoplot, unsere_demonstration)
autoplot.unsere_demonstration <- function(object, ...) figure_demonstration(object, ...)

figure_demonstration <- function(shown, texts = list()) {
  drawn <- list(
    title = text_or(texts$title, demonstration_question(shown)), subtitle = text_or(texts$subtitle, NULL),
    caption = text_or(texts$caption, say("Made-up data, seed %s.", format(shown$seed, scientific = FALSE)))
  )
  if (shown$topic == "sample-size") {
    rows <- shown$rows
    rows$name <- sprintf("%s, p %s", rows$panel, vapply(rows$p, format_p_mark, ""))
    return(figure_intervals(rows, drawn))
  }
  scatter_of_demonstration(shown) +
    ggplot2::labs(x = "x", y = "y", title = drawn$title, subtitle = drawn$subtitle, caption = drawn$caption) +
    figure_look() +
    ggplot2::theme(strip.text = ggplot2::element_text(hjust = 0, colour = look$ink), legend.position = "none")
}

scatter_of_demonstration <- function(shown) {
  data <- shown$data
  rows <- shown$rows[shown$rows$panel %in% data$panel, ]
  heads <- sprintf("%s: r = %s", panel_words(rows$panel), format_r(rows$r))
  data$panel <- factor(heads[match(data$panel, rows$panel)], heads)
  data$kind <- ifelse(is.na(data$group), "others", data$group)
  apart <- list(data$panel, if (shown$topic == "groups") data$kind else 1)
  lines <- do.call(rbind, lapply(split(data, apart, drop = TRUE), ends_of_line))
  kinds <- sort(unique(data$kind))
  colours <- c(one = look$negative, others = look$dots)[kinds]
  if (shown$topic == "groups") colours <- group_colours[seq_along(kinds)]
  ggplot2::ggplot(data, ggplot2::aes(.data$x, .data$y)) +
    ggplot2::geom_point(
      ggplot2::aes(colour = .data$kind, size = .data$kind == "one"),
      alpha = 0.65
    ) +
    ggplot2::geom_segment(
      ggplot2::aes(x = .data$x, xend = .data$xend, y = .data$y, yend = .data$yend), lines,
      colour = look$ink, linewidth = 0.6
    ) +
    ggplot2::scale_x_continuous(labels = axis_numbers) +
    ggplot2::scale_y_continuous(labels = axis_numbers) +
    ggplot2::scale_size_manual(values = c(`FALSE` = 1.6, `TRUE` = 3.2)) +
    ggplot2::scale_colour_manual(values = stats::setNames(colours, kinds)) +
    ggplot2::facet_wrap(ggplot2::vars(.data$panel), nrow = if (nrow(rows) > 3) 2 else 1)
}

ends_of_line <- function(cases) {
  at <- range(cases$x)
  slope <- sum((cases$x - mean(cases$x)) * (cases$y - mean(cases$y))) / sum((cases$x - mean(cases$x))^2)
  fit <- mean(cases$y) + slope * (at - mean(cases$x))
  data.frame(panel = cases$panel[1], x = at[1], xend = at[2], y = fit[1], yend = fit[2])
}
