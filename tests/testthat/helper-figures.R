# A figure against its snapshot, which was drawn with Debian stable's ggplot2; with a later one it is drawn without a
# warning, and the snapshot kept. ggplot2 keeps the sizes of letters by the name of the device that measured them first,
# and devices of different makers share names: what others measured is forgotten here, so that the picture is always
# the same.
expect_figure <- function(name, figure) {
  announce_snapshot_file(name = paste0(gsub("[^a-z0-9]", "-", tolower(name)), ".svg"))
  if (packageVersion("ggplot2") >= "3.5.0") {
    path <- withr::local_tempfile(fileext = ".svg")
    return(expect_no_warning(unsere:::save_figure(figure, path)))
  }
  measured <- get0("descent_cache", asNamespace("ggplot2"))
  rm(list = ls(measured), envir = measured)
  vdiffr::expect_doppelganger(name, figure)
  rm(list = ls(measured), envir = measured)
}
