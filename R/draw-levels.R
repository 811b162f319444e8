#' Draw a relation between and within groups
#'
#' Draws r of all cases, of the group means and within groups, each with its interval, on one scale from -1 to 1.
#'
#' @param levels Levels from [relate_levels()].
#' @param title,subtitle,caption Text; `NA` for none. Default: written from the result.
#' @param plain `TRUE` for a figure without title, subtitle and caption. Default: `FALSE`.
#' @return A ggplot2 object.
#' @section Errors: `unsere_error_usage` if `levels` is something else.
#' @examples
#' draw_levels(relate_levels(demo_study("learners"), commute_min, listening_score, group = centre))
#' @export
draw_levels <- function(levels, title = NULL, subtitle = NULL, caption = NULL, plain = FALSE) {
  if (!inherits(levels, "unsere_levels")) abort_usage("`levels` must come from relate_levels().", "Compute them first.")
  figure_levels(levels, figure_texts(title, subtitle, caption, plain))
}

#' @rawNamespace S3method(ggplot2::autoplot, unsere_levels)
autoplot.unsere_levels <- function(object, ...) figure_levels(object, ...)

figure_levels <- function(levels, texts = list()) {
  rows <- levels$levels
  rows$name <- between_words[rows$level]
  title <- function(room = 56L) {
    x <- title_label(levels$variables, levels$x, room)
    say("%s and %s, between and within", begin(x, levels$variables), title_label(levels$variables, levels$y, room))
  }
  figure <- figure_intervals(rows, list(
    title = text_or(texts$title, title()),
    subtitle = text_or(
      texts$subtitle,
      say("By %s: %s", inside_of(levels$variables, levels$group), levels_cases(levels))
    ),
    caption = text_or(texts$caption, say(
      "Bars: %s%% intervals (jackknife, leaving out one group at a time).", percent(levels$confidence)
    ))
  ))
  with_title(figure, title)
}

#' Draw several correlations with their intervals
#'
#' Compares correlations of several pairs, or of one pair analysed in several ways, such as with and without a design or
#' with and without control variables.
#'
#' @param ... Relations from [relate()]; their names are used as row labels.
#' @param title,subtitle,caption Text. Default: none.
#' @return A ggplot2 object.
#' @section Errors: `unsere_error_usage` if an argument is not a relation, or none is given.
#' @examples
#' learners <- demo_study("learners")
#' draw_intervals(
#'   alone = relate(learners, commute_min, listening_score),
#'   "centre controlled for" = relate(learners, commute_min, listening_score, given = centre)
#' )
#' @export
draw_intervals <- function(..., title = NULL, subtitle = NULL, caption = NULL) {
  relations <- list(...)
  if (!length(relations) || !all(vapply(relations, inherits, NA, "unsere_relation"))) {
    abort_usage("All must be relations.", "Make them with relate().")
  }
  names <- names(relations)
  if (is.null(names)) names <- rep("", length(relations))
  rows <- do.call(rbind, lapply(relations, function(one) {
    variables <- one$sample$variables
    data.frame(
      name = say("%s and %s", label_of(variables, one$x), inside_of(variables, one$y)), r = one$r, ci_low = one$ci_low,
      ci_high = one$ci_high
    )
  }))
  rows$name[nzchar(names)] <- names[nzchar(names)]
  if (is.null(caption)) {
    coverage <- unique(vapply(relations, `[[`, 0, "confidence"))
    caption <- say("Bars: %s%% intervals.", paste(percent(coverage), collapse = say(" and ")))
  }
  figure_intervals(rows, list(title = title, subtitle = subtitle, caption = text_or(caption, NULL)))
}

#' @param rows A data frame: `name`, `r`, `ci_low`, `ci_high`, from the top on.
#' @noRd
figure_intervals <- function(rows, texts) {
  rows$at <- factor(rows$name, rev(unique(rows$name)))
  rows$text <- sprintf("%s%s", format_r(rows$r), ifelse(
    is.na(rows$ci_low), "", paste0(" ", mapply(format_interval, rows$ci_low, rows$ci_high))
  ))
  # Near an end of the scale the figures stand to its inside.
  rows$side <- ifelse(rows$r > 0.7, 1, ifelse(rows$r < -0.7, 0, 0.5))
  ggplot2::ggplot(rows, ggplot2::aes(.data$r, .data$at)) +
    ggplot2::geom_vline(xintercept = 0, colour = look$ink, linewidth = 0.4) +
    ggplot2::geom_segment(
      ggplot2::aes(x = .data$ci_low, xend = .data$ci_high, y = .data$at, yend = .data$at),
      data = rows[!is.na(rows$ci_low) & !is_uninformative(rows$ci_low, rows$ci_high), ],
      colour = look$dots, linewidth = 2.2, lineend = "round"
    ) +
    ggplot2::geom_point(size = 4.5, colour = look$ink) +
    ggplot2::geom_text(ggplot2::aes(label = .data$text, hjust = .data$side), vjust = -1.2, size = 4, colour = look$ink) +
    ggplot2::scale_x_continuous(limits = c(-1, 1), breaks = seq(-1, 1, 0.5), labels = function(v) format_r(v)) +
    ggplot2::scale_y_discrete(labels = function(v) vapply(v, wrap_lines, "", 30)) +
    ggplot2::labs(x = "r", y = NULL, title = texts$title, subtitle = texts$subtitle, caption = texts$caption) +
    figure_look() +
    ggplot2::theme(axis.text.y = ggplot2::element_text(colour = look$ink, hjust = 1))
}
