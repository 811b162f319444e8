# The desk's figure: a picture with the places of its panels, so that clicks come in units of its axes, and the cells of a
# matrix as buttons over it.

#' The figure of the place that is shown, drawn when the words have been sent
#'
#' What it shows follows from the brief and the view: it is drawn anew when one of them changes, and then alone.
#' @noRd
show_figure <- function(desk, view, here, output, session) {
  image <- shiny::reactiveVal(NULL)
  wanted <- shiny::reactiveVal(NULL)
  shiny::observe(wanted(list(
    place = here()$id, view = drawn_view(view), brief = drawn_brief(desk$brief()), size = page_size(session)
  )))
  later <- shiny::debounce(wanted, 5)
  # Whatever fails here is told, and the page stays.
  shiny::observeEvent(later(), image(tryCatch(
    kept_image(desk, yaml_flow(later()), in_desk_language(desk, place_image(here(), desk, view, later()$size))),
    error = function(e) {
      desk$trouble(trouble_of(e))
      NULL
    }
  )))
  output$figure <- shiny::renderImage(shiny::req(image()), deleteFile = FALSE)
  output$cells <- shiny::renderUI(
    if (!is.null(image()) && !is.null(here()$cells)) {
      shiny::isolate(in_desk_language(desk, here()$cells(desk, view, image())))
    }
  )
  output$figure_state <- shiny::renderUI(
    htmltools::tags$span(id = "figure-state", `data-hidden` = if (is.null(image())) "yes" else "no")
  )
}

most_kept_images <- 40L

#' A figure that was drawn before with the same data, brief, view and size is shown again as it is
#' @param draw How to draw it; evaluated only when it is new.
#' @noRd
kept_image <- function(desk, key, draw) {
  images <- desk$known$images
  at <- match(key, names(images))
  image <- if (is.na(at)) draw else images[[at]]$image
  if (!is.na(at)) images <- images[-at]
  images <- c(stats::setNames(list(list(image = image)), key), images)
  for (old in utils::tail(images, -most_kept_images)) unlink(old$image$src)
  desk$known$images <- utils::head(images, most_kept_images)
  image
}

# What of the view does not change the figure: who was marked in it, and what is folded out.
drawn_view <- function(view) {
  seen <- shiny::reactiveValuesToList(view)
  seen <- seen[sort(setdiff(names(seen), c("brush", "clicked", "options_open", "cell", "range", "kinds")))]
  seen[!vapply(seen, is.null, NA)]
}

# What of the brief no figure shows.
drawn_brief <- function(brief) brief[setdiff(names(brief), c("title", "question", "report"))]

place_image <- function(place, desk, view, size) {
  if (is.null(place$figure)) return(NULL)
  tryCatch(
    with_files({
      # What a question refuses is said where it is asked; what fails in drawing is said above.
      figure <- tryCatch(place$figure(desk, view), unsere_error = function(e) NULL)
      if (!is.null(figure)) figure_image(figure, size)
    }),
    error = function(e) {
      desk$trouble(trouble_of(e))
      NULL
    }
  )
}

page_size <- function(session) {
  client <- session$clientData
  list(
    width = max(200, shiny::req(client$output_figure_width)), height = max(200, shiny::req(client$output_figure_height))
  )
}

#' A figure drawn for the page, once and without being recorded
#'
#' @param size Its `width` and `height` on the page in pixels.
#' @return A list for shiny's image output: `src`, the sizes, the words for who does not see it (`alt`), and `coordmap`,
#'   the panels in pixels and in units of the axes.
#' @noRd
figure_image <- function(figure, size) {
  path <- tempfile("figure-", fileext = ".svg")
  size <- unlist(size[c("width", "height")])
  # Open before anything is laid out, or R opens a device of its own and leaves a file where the desk was started.
  drawn <- svglite::svgstring(size[[1]] / inch, size[[2]] / inch, fix_text_size = FALSE)
  on.exit(grDevices::dev.off())
  grid::grid.newpage(recording = FALSE)
  table <- fitted_table(figure)
  built <- attr(table, "built")
  grid::grid.draw(table, recording = FALSE)
  # Not by a device that opens the file itself: one that cannot would end the whole process.
  write_drawing(drawn, path, in_own_type)
  list(
    src = path, contentType = "image/svg+xml", width = size[[1]], height = size[[2]],
    alt = or_default(attr(figure, "alt", exact = TRUE), or_default(figure$labels$title, "Figure")),
    coordmap = list(panels = panel_places(built, table, size), dims = list(width = size[[1]], height = size[[2]]))
  )
}

# Pixels of a page to an inch.
inch <- 96

#' Where the panels of a drawn figure lie, while its device is open
#' @param size The device in pixels.
#' @noRd
panel_places <- function(built, table, size) {
  layout <- ggplot2::summarise_layout(built)
  cells <- table$layout[grepl("^panel", table$layout$name), ]
  cells <- cells[order(cells$t, cells$l), ][seq_len(nrow(layout)), ]
  lapply(seq_len(nrow(layout)), function(k) {
    at <- cells[k, ]
    grid::seekViewport(sprintf("%s.%d-%d-%d-%d", at$name, at$t, at$r, at$b, at$l), recording = FALSE)
    on.exit(grid::upViewport(0, recording = FALSE))
    corners <- grid::deviceLoc(grid::unit(0:1, "npc"), grid::unit(0:1, "npc"), valueOnly = TRUE)
    list(
      panel = k, row = layout$row[k], col = layout$col[k], panel_vars = NULL, log = list(x = NULL, y = NULL),
      domain = list(left = layout$xmin[k], right = layout$xmax[k], bottom = layout$ymin[k], top = layout$ymax[k]),
      mapping = list(x = "x", y = "y"),
      range = list(
        left = corners$x[1] * inch, right = corners$x[2] * inch, bottom = size[[2]] - corners$y[1] * inch,
        top = size[[2]] - corners$y[2] * inch
      )
    )
  })
}

#' Cells of a figure as buttons that lie over it, for the pointer and for keys: one stop of the tab key, then the arrows
#'
#' @param cells Their ends in units of the axes (`xmin`, `xmax`, `ymin`, `ymax`), what they say (`text`), and the
#'   `value` that the button sends as `act`.
#' @noRd
cell_buttons <- function(image, cells, act, label) {
  panel <- image$coordmap$panels[[1]]
  size <- image$coordmap$dims
  place <- function(at, from, to, ends, all) (ends[1] + (at - from) / (to - from) * diff(ends)) / all * 100
  across <- function(x) place(x, panel$domain$left, panel$domain$right, c(panel$range$left, panel$range$right), size$width)
  down <- function(y) place(y, panel$domain$top, panel$domain$bottom, c(panel$range$top, panel$range$bottom), size$height)
  attribute <- function(text) htmltools::htmlEscape(text, attribute = TRUE)
  first <- order(-cells$ymax, cells$xmin)[1]
  htmltools::tags$div(class = "cells", role = "group", `aria-label` = label, htmltools::HTML(paste(sprintf(
    paste0(
      "<button type=\"button\" class=\"cell\" data-act=\"%s\" data-value=\"%s\" aria-label=\"%s\" title=\"%s\" ",
      "tabindex=\"%d\" style=\"left:%.3f%%;top:%.3f%%;width:%.3f%%;height:%.3f%%\"></button>"
    ),
    act, attribute(cells$value), attribute(cells$text), attribute(cells$text),
    ifelse(seq_len(nrow(cells)) == first, 0L, -1L), across(cells$xmin), down(cells$ymax),
    across(cells$xmax) - across(cells$xmin), down(cells$ymin) - down(cells$ymax)
  ), collapse = "")))
}
