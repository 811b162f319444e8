# What a place of the desk saves is what the functions and the command write.

desk_of <- function(lines, folder) {
  path <- file.path(folder, "brief.yml")
  writeLines(c(sprintf("data: {file: %s}", demo_file("learners.csv")), lines), path)
  desk <- unsere:::new_desk(unsere:::read_brief(path)$brief, folder)
  desk$saving <- "saved-here"
  dir.create(file.path(desk$folder, "saved"))
  desk
}

saved <- function(desk, place, ..., view = shiny::reactiveValues(pair = 1L)) {
  shiny::isolate({
    file <- unsere:::save_what_stands(desk, view, unsere:::desk_places()[[place]], list(...))
    file.path(desk$folder, "saved", sub("^saved-here/", "", file$address))
  })
}

test_that("figures come at the size and in the form that is asked for, tables as the command's", {
  skip_if_not_installed("shiny")
  folder <- withr::local_tempdir()
  desk <- desk_of(c(
    "pairs: [{x: practice_hours, y: speaking_score}]", "matrix: {variables: [practice_hours, speaking_score, confidence]}"
  ), folder)
  png <- saved(desk, "relate", form = "png", width = "4", height = "3,5")
  # Where a PNG says how wide and high it is, at 300 dots to an inch.
  expect_identical(readBin(readBin(png, "raw", 24L)[17:24], "integer", 2L, endian = "big"), c(1200L, 1050L))
  # As it is saved it says what it shows; above the page's figure that stands already.
  svg <- paste(readLines(saved(desk, "relate", form = "svg", width = "7", height = "5")), collapse = "")
  expect_match(svg, "Weekly practice and speaking score", ignore.case = TRUE)
  expect_identical(readBin(saved(desk, "matrix", form = "pdf", width = "7", height = "5"), "raw", 4L), charToRaw("%PDF"))
  expect_error(saved(desk, "relate", form = "pdf", width = "99", height = "5"), "3 to 20 in", class = "unsere_error_usage")
  by_function <- tempfile(fileext = ".csv")
  write_tables(correlation_matrix(demo_study("learners"), practice_hours, speaking_score, confidence), by_function)
  expect_identical(readLines(saved(desk, "matrix", form = "csv")), readLines(by_function))
  expect_match(readLines(saved(desk, "relate", form = "md")), "practice", all = FALSE, ignore.case = TRUE)
})

test_that("the form offers what a place has", {
  skip_if_not_installed("shiny")
  desk <- desk_of("pairs: [{x: practice_hours, y: speaking_score}]", withr::local_tempdir())
  form <- function(place) {
    view <- shiny::reactiveValues(pair = 1L)
    as.character(shiny::isolate(unsere:::saving_form(desk, view, unsere:::desk_places()[[place]])))
  }
  expect_match(form("relate"), "Figure \\(PDF\\).*Table \\(DOCX\\)")
  expect_no_match(form("look"), "Table (", fixed = TRUE)
  for (place in c("bring", "write", "matrix")) expect_length(form(place), 0L)
})
