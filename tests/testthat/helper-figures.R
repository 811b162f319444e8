# A figure against what is kept of it. The facts (what each layer draws, where, in which colour, with which words) are the
# same with every ggplot2 and are compared with each; the picture itself only with Debian stable's, which drew the snapshot,
# and with a later one it is drawn without a warning. ggplot2 keeps the sizes of letters by the name of the device that
# measured them first, and devices of different makers share names: what others measured is forgotten here.
expect_figure <- function(name, figure) {
  file <- gsub("[^a-z0-9]", "-", tolower(name))
  announce_snapshot_file(name = paste0(file, ".svg"))
  facts <- withr::local_tempfile(fileext = ".txt")
  writeLines(enc2utf8(figure_facts(figure)), facts, useBytes = TRUE)
  expect_snapshot_file(facts, paste0(file, ".txt"), compare = compare_file_text)
  if (packageVersion("ggplot2") >= "3.5.0") {
    path <- withr::local_tempfile(fileext = ".svg")
    return(expect_no_warning(unsere:::save_figure(figure, path)))
  }
  measured <- get0("descent_cache", asNamespace("ggplot2"))
  rm(list = ls(measured), envir = measured)
  vdiffr::expect_doppelganger(name, figure)
  rm(list = ls(measured), envir = measured)
}

#' What a figure draws, as lines of text
figure_facts <- function(figure) {
  built <- ggplot2::ggplot_build(figure)
  told <- c("x", "xmin", "xmax", "xend", "y", "ymin", "ymax", "yend", "label", "colour", "fill", "shape", "PANEL")
  layers <- lapply(seq_along(built$data), function(k) {
    data <- built$data[[k]]
    columns <- intersect(told, names(data))
    columns <- columns[!vapply(data[columns], function(column) all(is.na(column)), NA)]
    c(
      sprintf("layer %d: %s, %d rows", k, class(figure$layers[[k]]$geom)[1], nrow(data)),
      vapply(columns, function(name) sprintf("  %s: %s", name, column_fact(data[[name]])), "")
    )
  })
  words <- Filter(is.character, as.list(figure$labels)[c("title", "subtitle", "caption")])
  c(sprintf("%s: %s", names(words), unlist(words)), unlist(layers))
}

column_fact <- function(column) {
  if (inherits(column, "mapped_discrete")) column <- as.numeric(column)
  if (!is.numeric(column)) return(paste(unique(format(column)), collapse = " | "))
  paste(formatC(c(range(column), mean(column), stats::sd(column)), digits = 6, format = "g"), collapse = " ")
}
