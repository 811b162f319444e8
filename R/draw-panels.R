# A scatter plot for each group, with the line within it and that of all cases.

#' A panel a group: its own line over that of all cases
#' @noRd
figure_panels <- function(fitted, group, texts = list()) {
  if (is.null(group)) abort_usage("Panels need a grouping variable.", "Give it as `by`.")
  sample <- fitted$sample
  dots <- data.frame(x = sample$x, y = sample$y, group = group$values)
  dots <- dots[!is.na(dots$group), ]
  parts <- lines_by_group(fitted, group$values)
  if (!length(parts)) abort_undefined("No group has enough pairs for a line.", "Choose a variable with larger groups.")
  intervals <- vapply(parts, function(part) {
    sprintf("%s\n%sn = %s", part$kind, if (is.na(part$r)) "" else
      sprintf("r = %s, ", format_r(part$r)), format_count(part$n))
  }, "")
  as_panel <- function(kind) factor(intervals[match(kind, vapply(parts, `[[`, "", "kind"))], intervals)
  dots$panel <- as_panel(dots$group)
  paths <- do.call(rbind, lapply(parts, `[[`, "path"))
  paths$panel <- as_panel(paths$group)
  pooled <- line_path(fitted, range(dots$x))
  figure <- ggplot2::ggplot(dots[!is.na(dots$panel), ], ggplot2::aes(.data$x, .data$y)) +
    ggplot2::geom_line(ggplot2::aes(.data$x, .data$y),
      data = pooled, colour = look$soft, linewidth = 0.7,
      linetype = "42"
    ) +
    ggplot2::geom_ribbon(ggplot2::aes(ymin = .data$low, ymax = .data$high),
      data = paths, fill = look$band,
      alpha = 0.12
    ) +
    ggplot2::geom_point(colour = look$dots, size = 2, alpha = 0.65, stroke = 0) +
    ggplot2::geom_line(data = paths, colour = look$ink, linewidth = 0.9) +
    ggplot2::facet_wrap(ggplot2::vars(.data$panel)) +
    ggplot2::scale_x_continuous(labels = axis_numbers) +
    ggplot2::scale_y_continuous(labels = axis_numbers) +
    ggplot2::labs(
      x = axis_heading(sample$variables, fitted$x), y = axis_heading(sample$variables, fitted$y),
      title = text_or(texts$title, panels_title(fitted, parts)),
      subtitle = text_or(texts$subtitle, scatter_subtitle(fitted)),
      caption = text_or(
        texts$caption,
        paste(c(
          say("Solid line: within the group, with the confidence interval of the mean. Dashed: all cases."),
          if (group$all > nlevels(group$values)) say("The %d largest of %d groups.", nlevels(group$values), group$all)
        ), collapse = " ")
      )
    ) +
    figure_look() +
    ggplot2::theme(
      strip.text = ggplot2::element_text(
        hjust = 0, colour = look$ink, size = ggplot2::rel(if (length(parts) > 12L) 0.7 else 0.8)
      ),
      panel.spacing = ggplot2::unit(if (length(parts) > 12L) 6 else 14, "pt")
    )
  with_title(figure, function(room) panels_title(fitted, parts, room))
}

panels_title <- function(fitted, parts, room = 56L) {
  r <- vapply(parts, `[[`, 0, "r")
  turned <- sum(sign(r) == -sign(fitted$r), na.rm = TRUE)
  y <- title_label(fitted$sample$variables, fitted$y, room)
  x <- title_label(fitted$sample$variables, fitted$x, room)
  if (is.na(fitted$r) || !turned) return(begin(say("%s by %s, within each group", y, x), fitted$sample$variables))
  many <- if (turned == length(parts)) "all" else turned
  text <- say("%s and %s: in %s of %d groups the correlation has the opposite sign")
  say(text, begin(x, fitted$sample$variables), y, many, length(parts))
}
