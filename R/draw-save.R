# Figures onto devices and into files.

#' Write a figure to a file: png, svg, pdf, or tiff
#'
#' @param dpi The dots to an inch of a png, at the size `printed` if given: how wide it will stand on paper, in inches.
#' @noRd
save_figure <- function(plot, path, width = 8, height = 5, dpi = 160, printed = width) {
  kind <- figure_kind(path)
  if (!dir.exists(dirname(path))) abort_input(problem("There is no folder %s.", dirname(path)), "Make it first.")
  drawn <- NULL
  switch(kind,
    tiff = open_tiff(path, width, height, max(dpi, 300)),
    png = open_png(path, width, height, dpi, printed / width),
    # Drawn first and written then: its device ends the whole process where a file cannot be opened.
    svg = drawn <- svglite::svgstring(width, height),
    pdf = grDevices::cairo_pdf(path, width, height)
  )
  open <- TRUE
  close_device <- function() {
    if (open) suppressWarnings(grDevices::dev.off()) # the file itself says whether it is whole
    open <<- FALSE
  }
  on.exit(close_device())
  put_plot(plot)
  close_device()
  if (!is.null(drawn)) write_drawing(drawn, path)
  if (!is_whole_figure(path, kind)) stop("the figure could not be written: No space left")
  invisible(path)
}

#' The kind of a figure's file, by its ending
#' @noRd
figure_kind <- function(path) {
  kind <- sub("^tif$", "tiff", file_ending(path))
  if (!kind %in% c("png", "svg", "pdf", "tiff")) {
    abort_usage(
      problem("A figure cannot be written as \"%s\".", basename(path)), "Use a name that ends in .png, .svg, .pdf or .tiff."
    )
  }
  kind
}

#' Devices do not tell when a disk is full; the end of the file does
#' @noRd
is_whole_figure <- function(path, kind) {
  size <- file.size(path)
  if (is.na(size) || size < 32) return(FALSE)
  file <- file(path, "rb")
  on.exit(close(file))
  if (kind == "tiff") {
    # Its directory is written last; the head says where it begins.
    head <- readBin(file, "integer", 2L, endian = "little")
    seek(file, head[2])
    entries <- readBin(file, "integer", 1L, 2L, endian = "little")
    return(length(entries) == 1L && head[2] + 2 + 12 * entries + 4 <= size)
  }
  seek(file, max(0, size - 32))
  end <- rawToChar(Filter(function(byte) byte != 0, readBin(file, "raw", 32)))
  grepl(c(png = "IEND", svg = "</svg>", pdf = "%%EOF")[[kind]], end, fixed = TRUE, useBytes = TRUE)
}

#' A figure, or one that was laid out before, onto the open device
#' @noRd
put_plot <- function(plot) {
  loadNamespace("ggplot2") # without it, in another process, a layout draws nothing at all
  if (inherits(plot, "gtable")) grid::grid.draw(plot) else print(plot)
}

#' A figure of any class as the table of its parts, fitted to the page that is open
#' @noRd
table_of_figure <- function(plot) {
  grid::grid.newpage()
  if (inherits(plot, "unsere_figure")) fitted_table(plot) else ggplot2::ggplotGrob(plot)
}

# A drawing in the type of the reader's own system.
in_own_type <- function(svg) gsub("font-family: \"[^\"]+\"", "font-family: system-ui, sans-serif", svg)

# What was drawn last: texts may have been measured on a page before it, and a file of two pages no browser shows.
write_drawing <- function(drawn, path, change = identity) {
  write_lines(change(utils::tail(as.character(drawn()), 1L)), path)
}

#' Laid out once, to be drawn onto several devices
#' @noRd
laid_out <- function(plot, width = 8, height = 5) {
  svglite::svgstring(width, height) # knows every sign that may stand in a label
  on.exit(grDevices::dev.off())
  table_of_figure(plot)
}

open_tiff <- function(path, width, height, dpi) {
  if (has_package("ragg")) {
    ragg::agg_tiff(path, width, height, units = "in", res = dpi, compression = "lzw")
  } else {
    grDevices::tiff(path, width, height, units = "in", res = dpi, type = "cairo", compression = "lzw")
  }
}

open_png <- function(path, width, height, dpi, scale) {
  if (has_package("ragg")) {
    ragg::agg_png(path, width * scale, height * scale, units = "in", res = dpi, scaling = scale)
  } else {
    grDevices::png(path, width, height, units = "in", res = dpi * scale, type = "cairo")
  }
}
