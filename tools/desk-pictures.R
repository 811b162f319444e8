# Pictures of the desk on the demo data, for docs/screenshots: places in a headless browser.
# Rscript tools/desk-pictures.R FOLDER
suppressMessages(library(testthat))
source("tests/testthat/helper-desk.R")
out <- normalizePath(commandArgs(TRUE)[1])
skip_if <- skip_if_not_installed <- function(...) invisible()

picture <- function(desk, name) {
  calm(desk)
  Sys.sleep(1)
  in_page(desk, "document.activeElement.blur(); window.scrollTo(0, 0)")
  shot <- desk$page$Page$captureScreenshot(format = "png")
  writeBin(jsonlite::base64_dec(shot$data), file.path(out, paste0(name, ".png")))
}

folder <- tempfile("demo-")
dir.create(folder)
demo <- dirname(unsere::demo_file("learners.csv"))
file.copy(file.path(demo, c("learners.csv", "codebook.csv", "feedback.csv")), folder)
local({
  desk <- open_browser(file.path(folder, "learners.csv"), folder)
  on.exit(close_browser(desk))
  go_to(desk, "relate")
  set_control(desk, "pair:x", "practice_hours")
  set_control(desk, "pair:y", "speaking_score")
  set_control(desk, "pair:kept", TRUE)
  picture(desk, "desk-relate")
})
local({
  desk <- open_browser(file.path(folder, "feedback.csv"), folder)
  on.exit(close_browser(desk))
  go_to(desk, "variables")
  picture(desk, "desk-variables")
  go_to(desk, "bring")
  waited(function() in_page(desk, "document.querySelectorAll('.grid tbody td').length > 50"))
  in_page(desk, paste0(
    "document.querySelectorAll('.grid tbody tr')[3].querySelectorAll('td')[4].",
    "dispatchEvent(new MouseEvent('click', {bubbles: true}))"
  ))
  waited(function() grepl("Case", text_of(desk, "#beside")))
  picture(desk, "desk-data")
})
