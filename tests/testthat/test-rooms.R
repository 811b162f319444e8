# The house itself is held against its plan by `make rooms`, which continuous integration runs.

test_that("the map sees a call that runs the wrong way, and what is too long", {
  root <- root_of_project()
  map <- new.env()
  sys.source(file.path(root, "tools", "rooms.R"), map)
  house <- tempfile()
  dir.create(file.path(house, "R"), recursive = TRUE)
  writeLines(
    c("low <- function() lapply(1, high)", "long <- function() {", rep("  1", 61), "}"),
    file.path(house, "R", "measure-low.R")
  )
  writeLines("high <- function(study) nrow(study$data)", file.path(house, "R", "words-high.R"))
  found <- map$find_trespasses(map$read_rooms(house))
  expect_match(found, "measure-low.R calls high\\(\\) of words-high.R", all = FALSE)
  expect_match(found, "long\\(\\) of measure-low.R has 63 lines", all = FALSE)
  expect_match(found, "words-high.R takes a field of a study by $", all = FALSE, fixed = TRUE)
})

test_that("no name is given to two functions", {
  files <- list.files(file.path(root_of_project(), "R"), "[.]R$", full.names = TRUE)
  defined <- unlist(lapply(files, function(file) {
    sub(" <- .*$", "", grep("^[A-Za-z_.0-9]+ <- function", readLines(file, warn = FALSE), value = TRUE))
  }))
  expect_identical(defined[duplicated(defined)], character())
})
