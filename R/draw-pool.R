#' Draw pooled correlations
#'
#' Draws a ladder: r of each group with its interval (the dot's area grows with the group's weight), and below it the
#' random-effects mean with its interval and, thin, the range in which r is expected in a new group.
#'
#' @param pooled Pooled correlations from [pool_relations()].
#' @param sort `"r"` for the largest r first, `"given"` for the groups' own order.
#' @param title,subtitle,caption Text; `NA` for none. Default: written from the result.
#' @param plain `TRUE` for a figure without title, subtitle and caption. Default: `FALSE`.
#' @return A ggplot2 object.
#' @section Errors: `unsere_error_usage` if `pooled` is something else.
#' @examples
#' draw_pooled(pool_relations(demo_study("learners"), practice_hours, speaking_score, by = centre))
#' @export
draw_pooled <- function(pooled, sort = "r", title = NULL, subtitle = NULL, caption = NULL, plain = FALSE) {
  if (!inherits(pooled, "unsere_pooled")) abort_usage("`pooled` must come from pool_relations().", "Compute them first.")
  one_of(sort, c("r", "given"), "sort")
  figure_pooled(pooled, figure_texts(title, subtitle, caption, plain), sort)
}

#' @rawNamespace S3method(ggplot2::autoplot, unsere_pooled)
autoplot.unsere_pooled <- function(object, ...) figure_pooled(object, ...)

figure_pooled <- function(pooled, texts = list(), sort = "r") {
  rows <- ladder_rows(pooled, sort)
  title <- pooled_title(pooled)
  figure <- ladder_of(rows, pooled) +
    ggplot2::labs(
      x = say("%s, %s%% interval", coefficient_symbol(pooled$coefficient), percent(pooled$confidence)), y = NULL,
      title = text_or(texts$title, title()), subtitle = text_or(texts$subtitle, pooled_subtitle(pooled)),
      caption = text_or(texts$caption, pooled_caption(pooled))
    )
  with_title(figure, title)
}

pooled_title <- function(pooled) {
  function(room = 56L) {
    if (pooled$of_table) return(say("Correlations of %s studies", format_count(pooled$k)))
    x <- title_label(pooled$variables, pooled$x, room)
    say(
      "%s and %s, by %s", begin(x, pooled$variables), title_label(pooled$variables, pooled$y, room),
      inside_of(pooled$variables, pooled$by)
    )
  }
}

pooled_subtitle <- function(pooled) {
  say(
    "Mean %s %s; %s", sprintf("%s = %s", coefficient_symbol(pooled$coefficient), format_r(pooled$r)),
    format_interval(pooled$ci_low, pooled$ci_high), paste(spread_clause(pooled)[-2], collapse = "; ")
  )
}

pooled_caption <- function(pooled) {
  if (is.na(pooled$prediction_low)) return(say("Area of a dot: weight. Mean: random effects, Hartung-Knapp interval."))
  say(
    "Area of a dot: weight. Mean: random effects, Hartung-Knapp interval. Thin line: %s%% prediction interval.",
    percent(pooled$confidence)
  )
}

ladder_rows <- function(pooled, sort) {
  rows <- pooled$groups[c("name", "n", "r", "ci_low", "ci_high", "weight")]
  if (sort == "r") rows <- rows[order(-rows$r), ]
  rows$kind <- "group"
  mean <- data.frame(
    name = say("Mean of %s", format_count(pooled$k)), n = pooled$n, r = pooled$r, ci_low = pooled$ci_low,
    ci_high = pooled$ci_high, weight = NA, kind = "mean"
  )
  rows <- rbind(rows, mean)
  rows$name <- make.unique(as.character(rows$name), " ")
  rows$at <- rev(seq_len(nrow(rows))) + c(rep(0.4, nrow(rows) - 1L), 0)
  rows
}

ladder_of <- function(rows, pooled) {
  groups <- rows[rows$kind == "group", ]
  mean <- rows[rows$kind == "mean", ]
  limits <- c(pooled$ci_low, pooled$ci_high, pooled$prediction_low, pooled$prediction_high)
  ends <- range(0, groups$ci_low, groups$ci_high, limits, na.rm = TRUE)
  ends <- pmin(pmax(ends + c(-0.05, 0.05), -1), 1)
  low <- max(pooled$prediction_low, ends[1], na.rm = TRUE)
  high <- min(pooled$prediction_high, ends[2], na.rm = TRUE)
  figure <- ggplot2::ggplot(groups, ggplot2::aes(.data$r, .data$at)) +
    ggplot2::geom_vline(xintercept = 0, colour = look$ink, linewidth = 0.4) +
    ggplot2::geom_vline(xintercept = pooled$r, colour = look$negative, linewidth = 0.4, linetype = "dotted") +
    ggplot2::geom_segment(
      ggplot2::aes(x = .data$ci_low, xend = .data$ci_high, yend = .data$at),
      colour = look$dots, linewidth = if (nrow(rows) > 25) 0.9 else 1.6, lineend = "round"
    ) +
    ggplot2::geom_point(ggplot2::aes(size = .data$weight), colour = look$ink) +
    ggplot2::scale_size_area(max_size = if (nrow(rows) > 25) 2.6 else 5, guide = "none")
  if (!is.na(pooled$prediction_low)) {
    figure <- figure + ggplot2::annotate("segment",
      x = low, xend = high, y = mean$at, yend = mean$at,
      colour = look$negative, linewidth = 0.5
    )
  }
  figure +
    ggplot2::annotate("segment",
      x = mean$ci_low, xend = mean$ci_high, y = mean$at, yend = mean$at,
      colour = look$negative, linewidth = 2.6, lineend = "round"
    ) +
    ggplot2::annotate("point", x = mean$r, y = mean$at, colour = look$ink, size = 4) +
    ggplot2::scale_y_continuous(
      breaks = rows$at, labels = sprintf("%s (n = %s)", shorten(rows$name, 34), format_count(rows$n)),
      expand = ggplot2::expansion(add = 0.6)
    ) +
    ggplot2::scale_x_continuous(limits = ends, labels = function(v) format_r(v)) +
    figure_look() +
    ggplot2::theme(
      axis.text.y = ggplot2::element_text(colour = look$ink, hjust = 1), panel.grid.major.y = ggplot2::element_blank(),
      panel.grid.minor.y = ggplot2::element_blank()
    )
}

drawing_pooled <- function() {
  arguments <- question_pool()$arguments[c("by", "moderator", "given")]
  new_drawing("pooled", 11, 2L, 2L, function(study, names, options, texts) {
    figure_pooled(answer_pool(study, c(list(x = names[1], y = names[2]), options[c(names(arguments), "confidence")])), texts)
  }, arguments, height = function(n) 5.5)
}
