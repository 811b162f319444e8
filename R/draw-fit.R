# A figure fitted to the size at which it is drawn: its texts are measured with the font of the device, wrapped,
# shortened at a word where they still have no room, and never smaller than seven points.

#' The theme of a figure, and what lets it be fitted to any size
#' @noRd
figure_look <- function(base_size = 13) structure(list(theme = theme_unsere(base_size)), class = "unsere_look")

#' @rawNamespace S3method(ggplot2::ggplot_add, unsere_look)
ggplot_add.unsere_look <- function(object, plot, ...) {
  plot <- plot + object$theme
  class(plot) <- unique(c("unsere_figure", class(plot)))
  plot
}

#' A figure that is drawn anew for its size: `fit` takes the figure, the size of its panels in mm and the scale of its text
#' @noRd
with_fit <- function(figure, fit) structure(figure, fit = fit)

#' A figure whose title can be written with shorter labels: `title` takes the letters that each has room for
#' @noRd
with_title <- function(figure, title) structure(figure, title = title)

#' A figure that is enlarged after it is drawn, so that its text is not made smaller before
#' @noRd
with_text_kept <- function(figure) structure(figure, text_kept = TRUE)

#' @export
print.unsere_figure <- function(x, newpage = is.null(vp), vp = NULL, ...) {
  if (newpage) grid::grid.newpage()
  if (!is.null(vp)) grid::pushViewport(vp)
  grid::grid.draw(fitted_table(x))
  if (!is.null(vp)) grid::upViewport()
  invisible(x)
}

#' @export
plot.unsere_figure <- print.unsere_figure

#' A figure laid out for the viewport that is open
#' @return A gtable, with the built figure as its attribute `built`.
#' @noRd
fitted_table <- function(figure) {
  size <- list(
    width = grid::convertWidth(grid::unit(1, "npc"), "in", TRUE),
    height = grid::convertHeight(grid::unit(1, "npc"), "in", TRUE)
  )
  class(figure) <- setdiff(class(figure), "unsere_figure")
  figure <- with_small_marks(with_small_text(figure, size), size)
  figure <- with_columns(fitted_headings(figure, size), size)
  figure <- with_sparse_axes(figure, size)
  built <- ggplot2::ggplot_build(figure)
  table <- ggplot2::ggplot_gtable(built)
  again <- with_strips(with_legend(figure, table, size), table, size)
  again <- with_axis_words(again, built, table, size)
  if (!is.null(attr(again, "changed"))) {
    built <- ggplot2::ggplot_build(again)
    table <- ggplot2::ggplot_gtable(built)
  }
  structure(with_axis_titles(legend_below_title(table), figure$theme, size), built = built)
}

#' A figure fitted to its panels, with its headings in lines; those are broken again only where fitting changed them
#' @noRd
fitted_headings <- function(figure, size) {
  headed <- with_headings(figure, size)
  fit <- attr(figure, "fit", exact = TRUE)
  if (is.null(fit)) return(headed)
  fitted <- fit(figure, panel_room(headed, size), text_scale(figure))
  if (!identical(fitted$labels, figure$labels)) return(with_headings(fitted, size))
  fitted$labels <- headed$labels
  fitted
}

#' A legend begins where the title does, not where the panels do
#' @noRd
legend_below_title <- function(table) {
  title <- match("title", table$layout$name)
  at <- grep("^guide-box", table$layout$name)
  at <- at[table$layout$t[at] < min(table$layout$t[grep("^panel", table$layout$name)])]
  if (!is.na(title) && length(at)) table$layout[at, c("l", "r")] <- table$layout[title, c("l", "r")]
  table
}

#' The text of a figure that is smaller than usual, in its theme and in its layers
#' @noRd
with_small_text <- function(figure, size) {
  if (isTRUE(attr(figure, "text_kept", exact = TRUE))) return(figure)
  base <- ggplot2::calc_element("text", figure$theme)$size
  scale <- max(8.9 / base, min(1, size$width / 6.6, size$height / 4.3))
  if (scale >= 1) return(figure)
  figure$theme <- figure$theme + ggplot2::theme(text = ggplot2::element_text(size = base * scale))
  figure$layers <- lapply(figure$layers, function(layer) {
    if (!inherits(layer$geom, c("GeomText", "GeomLabel", "GeomTextRepel", "GeomLabelRepel"))) return(layer)
    points <- layer$aes_params$size
    if (is.null(points)) return(layer)
    with_text_size(layer, max(2.5, points * scale))
  })
  figure
}

#' Margins, dots and legends of a picture that is smaller than usual
#' @noRd
with_small_marks <- function(figure, size) {
  if (isTRUE(attr(figure, "text_kept", exact = TRUE))) return(figure)
  scale <- min(1, size$width / 6.6, size$height / 4.8)
  if (scale >= 1) return(figure)
  margin <- function(part, sides) {
    element <- ggplot2::calc_element(part, figure$theme)
    element$margin[sides] <- element$margin[sides] * scale
    element
  }
  figure$theme$plot.subtitle <- margin("plot.subtitle", 3)
  figure$theme$plot.caption <- margin("plot.caption", 1)
  figure$theme$plot.margin <- ggplot2::calc_element("plot.margin", figure$theme) * scale
  figure$theme$legend.box.spacing <- grid::unit(11 * scale, "pt")
  figure$scales <- figure$scales$clone()
  for (one in figure$scales$scales) {
    if (!"size" %in% one$aesthetics || !inherits(one, "ScaleContinuous")) next
    one$palette <- smaller_palette(one$palette, scale)
    # How large a dot is stands in the caption, or in the text beside so small a picture.
    if (size$height < 3.2) one$guide <- "none"
  }
  figure
}

smaller_palette <- function(palette, scale) {
  force(palette)
  function(...) scale * palette(...)
}

#' Title, subtitle and caption in the lines that they have room for
#' @noRd
with_headings <- function(figure, size) {
  margins <- margins_in_inches(figure$theme)
  room <- size$width - margins[2] - margins[4] - beside_square_panels(figure, size)
  small <- size$height < 3.2
  most <- c(title = 2L, subtitle = if (small) 1L else 3L, caption = if (small) 2L else 6L)
  for (name in names(most)) {
    text <- figure$labels[[name]]
    if (!is.character(text) || !nzchar(text)) next
    element <- ggplot2::calc_element(paste0("plot.", name), figure$theme)
    if (name == "title") text <- title_to_room(figure, text, room, element)
    figure$labels[[name]] <- fit_text(text, room, element, most[[name]])
  }
  # Rows of panels need their height: notes go before the title does.
  for (name in c("caption", "subtitle")) {
    if (panel_room(figure, size)[["height"]] < 25.4 * 0.4 * panel_rows(figure)) figure$labels[[name]] <- NULL
  }
  figure
}

#' A title with labels so short that it stands in two lines, as long as it is the figure's own
#' @noRd
title_to_room <- function(figure, text, room, element) {
  title <- attr(figure, "title", exact = TRUE)
  if (is.null(title) || !identical(text, title(56L))) return(text)
  for (letters in c(56L, 36L, 28L, 20L, 14L, 10L)) {
    text <- title(letters)
    if (length(fit_line_breaks(text, room, element)) <= 2L) break
  }
  text
}

#' Panels that stand in one column, in as many columns as leave each some height
#' @noRd
with_columns <- function(figure, size) {
  grid <- panel_grid(figure)
  if (grid[1] < 2L || !identical(as.integer(figure$facet$params$ncol), 1L)) return(figure)
  room <- panel_room(figure, size)
  columns <- min(grid[1], ceiling(grid[1] * 25.4 * 0.95 / room[["height"]]))
  if (columns < 2L) return(figure)
  with_panels(figure, ncol = columns)
}

#' A legend in as many rows as it needs
#' @noRd
with_legend <- function(figure, table, size) {
  at <- grep("^guide-box", table$layout$name)
  at <- at[vapply(table$grobs[at], function(grob) length(grob$widths) > 0L, NA)]
  if (!length(at)) return(figure)
  margins <- margins_in_inches(figure$theme)
  room <- size$width - margins[2] - margins[4]
  wide <- max(vapply(table$grobs[at], function(grob) sum_of_units(grob$widths, grid::convertWidth), 0))
  if (wide <= room) return(figure)
  rows <- ceiling(wide / room)
  for (scale in figure$scales$scales) {
    name <- scale$aesthetics[1]
    guide <- scale$guide
    if (name %in% c("x", "y") || identical(guide, "none") || !inherits(scale, "ScaleDiscrete")) next
    figure <- figure + do.call(ggplot2::guides, stats::setNames(
      list(ggplot2::guide_legend(nrow = rows, byrow = TRUE, title.position = "top")), name
    ))
  }
  changed(figure + ggplot2::theme(legend.box = "vertical", legend.box.just = "left"))
}

#' The headings of panels in lines that they have room for
#' @noRd
with_strips <- function(figure, table, size) {
  at <- grep("^strip-t", table$layout$name)
  if (!length(at)) return(figure)
  element <- ggplot2::calc_element("strip.text.x", figure$theme)
  texts <- lapply(table$grobs[at], text_of_grob)
  columns <- length(unique(table$layout$l[grep("^panel", table$layout$name)]))
  room <- panel_inches(table, size, "width") / columns
  rows <- length(unique(table$layout$t[grep("^panel", table$layout$name)]))
  if (isTRUE(table$respect)) room <- min(room, panel_inches(table, size, "height") / rows)
  room <- room - 0.03
  if (all(text_inches(unlist(strsplit(unlist(texts), "\n", fixed = TRUE)), element) <= room)) return(figure)
  most <- if (size$height / rows < 1.6) 2L else 4L
  labeller <- ggplot2::as_labeller(function(values) vapply(values, fit_text, "", room, element, most))
  changed(with_panels(figure, labeller = labeller))
}
