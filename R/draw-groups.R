# Pairs with groups that have no order: numbers by group as dots with their means, two sets of groups as counted tiles.

#' The figure of a pair of a study with groups without an order
#' @noRd
draw_pair_of_groups <- function(study, x, y, options, texts) {
  given <- function(name) length(options[[name]]) > 0L && !isFALSE(options[[name]])
  refused <- Filter(given, c("by", "given", "at", "solve"))
  if (length(refused)) {
    abort_usage(
      problem("A figure of unordered groups has no option %s.", paste(refused, collapse = ", ")), "Leave it out."
    )
  }
  confidence <- options[intersect(names(options), "confidence")]
  figure_groups(relate_study(study, x, y, settle_arguments(question_relate(), confidence)), texts = texts)
}

#' @rawNamespace S3method(ggplot2::autoplot, unsere_group_relation)
autoplot.unsere_group_relation <- function(object, ...) figure_groups(object, ...)

figure_groups <- function(relation, texts = list()) {
  figure <- if (is_eta(relation)) figure_means(relation) else figure_counts(relation)
  figure <- figure + ggplot2::labs(
    title = text_or(texts$title, groups_seen(relation)), subtitle = text_or(texts$subtitle, scatter_subtitle(relation)),
    caption = text_or(texts$caption, sprintf("%s %s.", groups_drawn(relation), r_label(relation)))
  )
  with_title(figure, function(room) groups_seen(relation, room))
}

groups_seen <- function(relation, room = 56L) {
  variables <- relation$sample$variables
  if (!is_eta(relation)) {
    x <- title_label(variables, relation$x, room)
    y <- title_label(variables, relation$y, room)
    text <- if (is_clear(relation)) {
      say("%s and %s: significantly associated", x, y)
    } else {
      say("No significant association between %s and %s", x, y)
    }
  } else {
    sides <- sides_of_groups(relation)
    other <- title_label(variables, sides$other, room)
    groups <- title_label(variables, sides$groups, room)
    text <- if (is_clear(relation)) {
      say("%s differs between the groups of %s", other, groups)
    } else {
      say("%s: no significant difference between the groups of %s", other, groups)
    }
  }
  begin(text, variables)
}

groups_drawn <- function(relation) {
  if (is_eta(relation)) return(say("Dots: cases. Bars: means with %s%% intervals, each group by itself.", percent(0.95)))
  say("Numbers: cases. Shade: percent of the column, so that columns alike in shade mean no association.")
}

#' Numbers by group: cases side by side, means with their intervals; sorted where there are many groups
#' @noRd
figure_means <- function(relation) {
  estimate <- relation$estimate
  means <- relation$group_means
  many <- nrow(means) > 12L
  order <- if (many) order(means$mean) else seq_len(nrow(means))
  kinds <- shorten_at_word(means$value, 28L)
  kinds[duplicated(kinds)] <- means$value[duplicated(kinds)]
  half <- ifelse(means$n > 1, stats::qt(.975, pmax(1, means$n - 1)) * means$sd / sqrt(means$n), NA)
  bars <- data.frame(at = order(order), mean = means$mean, low = means$mean - half, high = means$mean + half)
  places <- bars$at[estimate$group]
  dots <- data.frame(at = places + spread_sideways(estimate$values, estimate$group), value = estimate$values)
  sides <- sides_of_groups(relation)
  coding <- relation$sample$coding[[setdiff(c("x", "y"), estimate$side)]]
  sized <- sprintf("%s (%s)", kinds, format_count(means$n))[order]
  labels <- vapply(sized, wrap_lines, "", if (many) 40 else max(10, 70 %/% nrow(means)), USE.NAMES = FALSE)
  figure <- ggplot2::ggplot(dots, ggplot2::aes(.data$at, .data$value)) +
    (if (nrow(dots) <= most_dots) {
      ggplot2::geom_point(colour = look$dots, alpha = 0.45, size = if (nrow(dots) > 300) 1.4 else 2, stroke = 0)
    }) +
    ggplot2::geom_linerange(ggplot2::aes(.data$at, ymin = .data$low, ymax = .data$high),
      data = bars[!is.na(bars$low), ], inherit.aes = FALSE, colour = look$ink, linewidth = 1
    ) +
    ggplot2::geom_point(ggplot2::aes(.data$at, .data$mean), data = bars, colour = look$ink, shape = 18, size = 4) +
    ggplot2::scale_x_continuous(
      breaks = seq_len(nrow(means)), labels = labels, expand = ggplot2::expansion(add = 0.6)
    ) +
    side_scale(ggplot2::scale_y_continuous, coding) +
    ggplot2::labs(
      x = say("%s (cases)", axis_heading(relation$sample$variables, sides$groups)),
      y = axis_heading(relation$sample$variables, sides$other)
    ) +
    figure_look() +
    ggplot2::theme(panel.grid.major.x = ggplot2::element_blank())
  if (many) figure + ggplot2::coord_flip() else figure
}

#' How far each case stands beside the middle of its group: cases of nearly one value side by side, without chance
#' @noRd
spread_sideways <- function(values, group, most = 0.32) {
  width <- diff(range(values)) / 40
  cell <- paste(group, if (width > 0) floor(values / width) else 0)
  rank <- stats::ave(seq_along(values), cell, FUN = seq_along)
  size <- stats::ave(seq_along(values), cell, FUN = length)
  step <- min(0.06, 2 * most / max(size))
  (rank - (size + 1) / 2) * step
}

#' Two sets of groups: a tile for each pair of groups, with its count
#' @noRd
figure_counts <- function(relation) {
  counts <- relation$counts
  rows <- unique(counts$x)
  columns <- unique(counts$y)
  counts$share <- counts$n / stats::ave(counts$n, counts$x, FUN = sum)
  counts$at <- match(counts$x, rows)
  counts$up <- match(counts$y, columns)
  fine <- max(length(rows), length(columns)) > 12L
  across <- vapply(shorten_at_word(rows, 28L), wrap_lines, "", max(9, 70 %/% length(rows)), USE.NAMES = FALSE)
  variables <- relation$sample$variables
  ggplot2::ggplot(counts, ggplot2::aes(.data$at, .data$up)) +
    ggplot2::geom_tile(ggplot2::aes(fill = .data$share), colour = "white", linewidth = 1) +
    (if (!fine) ggplot2::geom_text(ggplot2::aes(
      label = format_count(.data$n), colour = .data$share > 0.55 * max(.data$share)
    ), size = 4)) +
    ggplot2::scale_colour_manual(values = c("FALSE" = look$ink, "TRUE" = "white"), guide = "none") +
    ggplot2::scale_fill_gradient(
      low = look$ground, high = look$dots, limits = c(0, max(counts$share)), labels = function(v) percent(v),
      name = say("percent of column")
    ) +
    ggplot2::scale_x_continuous(breaks = seq_along(rows), labels = across, expand = c(0, 0)) +
    ggplot2::scale_y_continuous(breaks = seq_along(columns), labels = shorten_at_word(columns, 28L), expand = c(0, 0)) +
    ggplot2::labs(x = axis_heading(variables, relation$x), y = axis_heading(variables, relation$y)) +
    figure_look() +
    ggplot2::theme(panel.grid.major = ggplot2::element_blank())
}
