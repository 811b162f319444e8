# A figure against its snapshot. ggplot2 keeps the sizes of letters by the name of the device that measured them first, and
# devices of different makers share names: what others measured is forgotten here, so that the picture is always the same.
expect_figure <- function(name, figure) {
  announce_snapshot_file(name = paste0(gsub("[^a-z0-9]", "-", tolower(name)), ".svg")) # kept where it is skipped
  skip_if(packageVersion("ggplot2") >= "3.5.0", "drawn with Debian stable's ggplot2")
  measured <- get0("descent_cache", asNamespace("ggplot2"))
  rm(list = ls(measured), envir = measured)
  vdiffr::expect_doppelganger(name, figure)
  rm(list = ls(measured), envir = measured)
}
