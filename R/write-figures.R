# The figures of a report, laid out once: as drawings for the page and for printers (SVG), as pictures (PNG) for the rest.

page_width <- 6.5 # inches: the widest that a figure stands on a printed page

#' A report whose figures are laid out, each with the name of its file and its drawing
#' @param folder Where the picture of each will be.
#' @param done Called with each figure's block once it is laid out.
#' @noRd
lay_out_figures <- function(report, folder = "", done = function(block) NULL) {
  report$sections <- lapply(report$sections, function(section) {
    k <- 0L
    section$blocks <- lapply(section$blocks, function(block) {
      if (!inherits(block, "block_figure")) return(block)
      k <<- k + 1L
      block$layout <- laid_out(block$plot, block$width, block$height)
      block$name <- paste0(section$id, if (k > 1L) paste0("-", k))
      block$drawing <- drawing_of(block)
      block$picture <- file.path(folder, paste0(block$name, ".png"))
      done(block)
      block
    })
    section
  })
  report
}

write_drawings <- function(report, folder) {
  for (block in blocks_of_type(report, "figure")) {
    write_lines(block$drawing, file.path(folder, paste0(block$name, ".svg")))
  }
}

drawing_of <- function(block) {
  device <- svglite::svgstring(width = block$width, height = block$height, fix_text_size = FALSE)
  put_plot(block$layout)
  grDevices::dev.off()
  gsub("\u00a0", " ", as.character(device()))
}

#' What another process needs to draw a figure's picture: its layout, place and size
#' @noRd
picture_job <- function(block) block[c("layout", "picture", "width", "height")]

draw_pictures <- function(jobs) {
  for (job in jobs) save_figure(job$layout, job$picture, job$width, job$height, dpi = 300, printed = page_width)
}

#' A figure without titles and notes, for where other text says them; its text keeps its size, as it is enlarged with the
#' picture
#' @noRd
picture_alone <- function(plot) {
  plot$labels[c("title", "subtitle", "caption")] <- NULL
  with_text_kept(plot)
}
