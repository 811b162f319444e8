# The axes of a figure at the size at which it is drawn: how many numbers, how words are broken, titles along the panels.

#' Fewer numbers along the axes of small panels; those that would lie on each other are left out
#' @noRd
with_sparse_axes <- function(figure, size) {
  sparse <- ggplot2::guide_axis(check.overlap = TRUE)
  figure <- figure + ggplot2::guides(x = sparse, y = sparse)
  room <- panel_room(figure, size) / rev(panel_grid(figure)) / 25.4 / text_scale(figure)
  most <- c(x = floor(room[["width"]] / 0.6), y = floor(room[["height"]] / 0.35))
  figure$scales <- figure$scales$clone()
  figure <- with_sparse_times(figure, panel_room(figure, size)[["width"]] / rev(panel_grid(figure))[1] / 25.4)
  for (side in c("x", "y")) {
    if (most[[side]] >= 5) next
    for (scale in figure$scales$scales) {
      plain <- side %in% scale$aesthetics && inherits(scale, "ScaleContinuousPosition") && inherits(scale$breaks, "waiver")
      if (plain) scale$n.breaks <- max(3, most[[side]])
    }
  }
  figure
}

#' As many times along an axis as have room beside each other
#' @noRd
with_sparse_times <- function(figure, room) {
  element <- ggplot2::calc_element("axis.text.x", figure$theme)
  for (scale in figure$scales$scales) {
    if (!isTRUE(scale$is_time)) next
    labels <- if (is.function(scale$labels)) scale$labels(scale$breaks) else scale$labels
    step <- ceiling(length(labels) * (max(text_inches(labels, element)) + 0.12) / room)
    if (step < 2) next
    places <- seq(1, length(labels), step)
    scale$labels <- labels[places]
    scale$breaks <- scale$breaks[places]
  }
  figure
}

#' The words of a horizontal axis: wrapped to the room between two, turned where one word has none; and room at the right for
#' what reaches beyond the panel
#' @noRd
with_axis_words <- function(figure, built, table, size) {
  scale <- tryCatch(built$layout$panel_params[[1]]$x, error = function(e) NULL)
  labels <- tryCatch(as.character(scale$get_labels()), error = function(e) character())
  places <- tryCatch(as.numeric(scale$break_positions()), error = function(e) numeric())
  shown <- which(!is.na(places) & nzchar(labels))
  if (!length(shown) || length(labels) != length(places)) return(figure)
  element <- ggplot2::calc_element("axis.text.x", figure$theme)
  panels <- grep("^panel", table$layout$name)
  across <- panel_inches(table, size, "width") / length(unique(table$layout$l[panels]))
  parts <- function(text) strsplit(text, "\n", fixed = TRUE)[[1]]
  wide <- vapply(labels, function(text) if (nzchar(text)) max(text_inches(parts(text), element)) else 0, 0)
  step <- min(c(1, diff(sort(places[shown])))) * across
  words <- grepl("[[:alpha:]]{2}", labels)
  if (any(words[shown]) && max(wide[shown]) > 0.96 * step) {
    plain <- gsub("\n", " ", labels, fixed = TRUE)
    single <- max(text_inches(unlist(strsplit(plain[shown], " ", fixed = TRUE)), element))
    if (single <= 0.96 * step) {
      new <- vapply(plain, fit_text, "", 0.96 * step, element, 3L)
      return(changed(with_axis_labels(figure, "x", labels, new)))
    }
    new <- vapply(plain, cut_to_room, "", min(1.3, 0.3 * size$height), element)
    figure <- figure + ggplot2::guides(x = ggplot2::guide_axis(angle = 40))
    return(changed(with_axis_labels(figure, "x", labels, new)))
  }
  last <- shown[which.max(places[shown])]
  over <- wide[last] / 2 - (1 - places[last]) * across - margins_in_inches(figure$theme)[2]
  figure <- with_panels_apart(figure, table, shown, places, wide, across)
  if (over <= 0) return(figure)
  margin <- ggplot2::calc_element("plot.margin", figure$theme)
  margin[2] <- margin[2] + grid::unit(over + 0.03, "in")
  figure$theme$plot.margin <- margin
  changed(figure)
}

#' Panels side by side so far apart that the last number of one does not lie on the first of the next
#' @noRd
with_panels_apart <- function(figure, table, shown, places, wide, across) {
  panels <- table$layout[grep("^panel", table$layout$name), ]
  if (length(unique(panels$l)) < 2L) return(figure)
  first <- shown[which.min(places[shown])]
  last <- shown[which.max(places[shown])]
  reach <- wide[last] / 2 - (1 - places[last]) * across + wide[first] / 2 - places[first] * across + 0.06
  apart <- or_default(ggplot2::calc_element("panel.spacing.x", figure$theme), grid::unit(5.5, "pt"))
  if (reach <= grid::convertWidth(apart, "in", TRUE)) return(figure)
  figure$theme$panel.spacing.x <- grid::unit(reach, "in")
  changed(figure)
}

#' A figure in which the labels of an axis read otherwise
#' @noRd
with_axis_labels <- function(figure, side, old, new) {
  figure$scales <- figure$scales$clone()
  for (scale in figure$scales$scales) {
    if (!side %in% scale$aesthetics) next
    before <- scale$labels
    scale$labels <- function(breaks) {
      if (is.function(before)) breaks <- before(breaks) else if (length(before) == length(breaks)) breaks <- before
      labels <- as.character(breaks)
      at <- match(labels, old)
      ifelse(is.na(at), labels, new[at])
    }
  }
  figure
}

#' The titles of the axes in the length of the panels
#' @noRd
with_axis_titles <- function(table, theme, size) {
  for (side in c("ylab-l", "xlab-b")) {
    at <- match(side, table$layout$name)
    if (is.na(at)) next
    text <- text_of_grob(table$grobs[[at]])
    if (!length(text) || !nzchar(text[1])) next
    room <- panel_inches(table, size, if (side == "xlab-b") "width" else "height")
    part <- if (side == "xlab-b") "axis.title.x" else "axis.title.y"
    element <- ggplot2::calc_element(part, theme)
    text <- gsub("\n", " ", text[1], fixed = TRUE)
    new <- fit_text(text, room, element, 2L)
    grob <- ggplot2::element_grob(element, label = new, margin_x = side == "ylab-l", margin_y = side == "xlab-b")
    table$grobs[[at]] <- grob
    if (side == "xlab-b") {
      table$heights[table$layout$t[at]] <- grid::grobHeight(grob)
    } else {
      table$widths[table$layout$l[at]] <- grid::grobWidth(grob)
    }
  }
  table
}
