#' Draw the items of a scale: difficulty and discrimination
#'
#' Plots each item's mean or difficulty against its item-rest correlation; many items are drawn as a sorted ladder.
#'
#' @param items From [check_items()].
#' @param title,subtitle,caption Text; `NA` for none. Default: written from the items.
#' @param plain `TRUE` for a figure without title, subtitle and caption. Default: `FALSE`.
#' @return A ggplot2 object.
#' @section Errors: `unsere_error_usage` if `items` is not a result of [check_items()].
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
  rows$item <- label_of(items$variables, rows$item)
  plot <- if (nrow(rows) > most_named_items) ladder_of_items(rows) else map_of_items(rows, length(items$keyed) > 0L)
  plot +
    ggplot2::scale_shape_manual(values = c("FALSE" = 16, "TRUE" = 17), guide = "none") +
    ggplot2::scale_colour_manual(values = c("FALSE" = look$dots, "TRUE" = look$negative), guide = "none") +
    ggplot2::labs(
      title = text_or(
        texts$title,
        say(
          "%d items, alpha = %s %s", nrow(items$items), format_alpha(items$alpha),
          alpha_interval(advised_ends(items)[1], advised_ends(items)[2])
        )
      ),
      subtitle = text_or(texts$subtitle, if (items$n == items$n_complete) {
        say("n = %s persons answered all", format_count(items$n))
      } else {
        say("n = %s persons", format_count(items$n))
      }),
      caption = text_or(texts$caption, caption_of_items(nrow(rows)))
    )
}

# Above this many, names beside their dots would lie on each other: items stand in rows, from the strongest to the weakest.
most_named_items <- 24L

most_items_in_column <- 30L

most_items_drawn <- 120L

caption_of_items <- function(n) {
  lines <- say("Lines: jackknife intervals (leaving out one person at a time). Triangles: flagged items.")
  if (n <= most_items_drawn) return(lines)
  paste(lines, say("The %d of %d items with the weakest item-rest correlation are shown.", most_items_drawn, n))
}

ladder_of_items <- function(rows) {
  rows <- utils::tail(rows[order(-rows$item_rest), ], most_items_drawn)
  n <- nrow(rows)
  columns <- ceiling(n / most_items_in_column)
  rows$column <- ceiling(seq_len(n) / ceiling(n / columns))
  rows$item <- factor(rows$item, rev(rows$item))
  ggplot2::ggplot(rows, ggplot2::aes(.data$item_rest, .data$item)) +
    ggplot2::geom_vline(xintercept = 0, colour = look$soft, linewidth = 0.6) +
    ggplot2::geom_linerange(ggplot2::aes(xmin = .data$ci_low, xmax = .data$ci_high), colour = look$soft, linewidth = 0.7) +
    ggplot2::geom_point(ggplot2::aes(shape = .data$flagged, colour = .data$flagged), size = 2) +
    ggplot2::facet_wrap(ggplot2::vars(.data$column), scales = "free_y", nrow = 1) +
    ggplot2::scale_x_continuous(name = say("item-rest correlation"), labels = axis_numbers) +
    ggplot2::scale_y_discrete(name = NULL, labels = function(names) shorten(names, 80 %/% columns)) +
    figure_look() +
    ggplot2::theme(
      strip.text = ggplot2::element_blank(), axis.text.y = ggplot2::element_text(size = 8),
      panel.grid.major.y = ggplot2::element_line(colour = look$grid, linewidth = 0.3)
    )
}

map_of_items <- function(rows, keyed) {
  rlang::check_installed("ggrepel", "to name items in a figure.")
  ggplot2::ggplot(rows, ggplot2::aes(.data$mean, .data$item_rest)) +
    ggplot2::geom_hline(yintercept = 0, colour = look$soft, linewidth = 0.6) +
    ggplot2::geom_linerange(ggplot2::aes(ymin = .data$ci_low, ymax = .data$ci_high), colour = look$soft, linewidth = 0.7) +
    ggplot2::geom_point(ggplot2::aes(shape = .data$flagged, colour = .data$flagged), size = 3.6) +
    ggrepel::geom_text_repel(ggplot2::aes(label = .data$item), size = 4, colour = look$ink, seed = 1, max.overlaps = Inf) +
    ggplot2::scale_x_continuous(
      name = if (keyed) say("item difficulty (share correct)") else say("mean"),
      labels = axis_numbers
    ) +
    ggplot2::scale_y_continuous(name = say("item-rest correlation"), labels = axis_numbers) +
    figure_look()
}

#' Draw option curves of multiple-choice items
#'
#' Shows the proportion of persons who chose each option in fifths of the rest score, from the lowest to the highest. The
#' curve of the correct option should rise, those of the wrong options should fall.
#'
#' @param items From [check_items()] with a key.
#' @param item The items: names, twelve at most. Default: all.
#' @param title,subtitle,caption Text; `NA` for none. Default: written from the items.
#' @param plain `TRUE` for a figure without title, subtitle and caption. Default: `FALSE`.
#' @return A ggplot2 object.
#' @section Errors: `unsere_error_usage` if `items` is not a result of [check_items()], or has no key;
#'   `unsere_error_input` for an
#'   item
#'   that is none of them.
#' @examples
#' test <- demo_study("test_items")
#' test <- check_items(test, q1, q5, q7, q9, key = c(q1 = "B", q5 = "B", q7 = "A", q9 = "B"))
#' draw_options(test)
#' @export
draw_options <- function(items, item = NULL, title = NULL, subtitle = NULL, caption = NULL, plain = FALSE) {
  if (!inherits(items, "unsere_items")) abort_usage("`items` must come from check_items().", "Check them first.")
  if (is.null(items$curves)) abort_usage("These items have no options.", "Give the right answers as `key` to check_items().")
  stray <- setdiff(item, items$curves$item)
  if (length(stray)) abort_input(problem("%s has no options here.", stray[1]), suggest_names(stray[1], items$keyed, "items"))
  texts <- figure_texts(title, subtitle, caption, plain)
  rows <- items$curves[items$curves$item %in% utils::head(or_default(item, unique(items$curves$item)), 12L), ]
  rows$item <- factor(rows$item, unique(rows$item))
  last <- rows[rows$fifth == max(rows$fifth), ]
  ggplot2::ggplot(rows, ggplot2::aes(.data$fifth, .data$share, group = .data$option)) +
    ggplot2::geom_line(ggplot2::aes(colour = .data$right, linewidth = .data$right)) +
    ggplot2::geom_point(ggplot2::aes(colour = .data$right), size = 1.8) +
    ggplot2::geom_text(ggplot2::aes(label = .data$option),
      data = last, nudge_x = 0.3, size = 3.8, colour = look$ink,
      check_overlap = TRUE
    ) +
    ggplot2::scale_colour_manual(values = c("FALSE" = look$soft, "TRUE" = look$dots), guide = "none") +
    ggplot2::scale_linewidth_manual(values = c("FALSE" = 0.6, "TRUE" = 1.3), guide = "none") +
    ggplot2::scale_x_continuous(
      name = say("fifths by the score on the other items"), breaks = c(1, 5), labels = say(c("weak", "strong")),
      expand = ggplot2::expansion(add = c(0.3, 0.6))
    ) +
    ggplot2::scale_y_continuous(name = say("share choosing the option"), labels = axis_numbers, limits = c(0, NA)) +
    ggplot2::facet_wrap(ggplot2::vars(.data$item)) +
    ggplot2::labs(
      title = text_or(texts$title, say("Options chosen, by score on the other items")),
      subtitle = text_or(texts$subtitle, say("Thick line: the keyed option")),
      caption = text_or(
        texts$caption,
        say("The keyed option should rise from low to high scorers, the others fall.")
      )
    ) +
    figure_look() +
    panel_type()
}
