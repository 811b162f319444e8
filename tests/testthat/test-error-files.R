# What the machine will not open is told as that, from R as from the command: no fault of ours, and nothing else changes.

test_that("what cannot be read or written is one of the package's own errors, with what could not be opened", {
  brief <- file.path(withr::local_tempdir(), "brief.yml")
  dir.create(brief)
  expect_error(suppressWarnings(run_brief(brief, quiet = TRUE)), class = "unsere_error_input")
  lost <- file.path(dirname(brief), "lost.txt")
  expect_error(suppressWarnings(unsere:::with_files(readLines(lost))), "lost.txt", class = "unsere_error_input")
  # An error of ours goes through, with its own words.
  expect_error(unsere:::with_files(read_study("nowhere.csv")), "There is no file nowhere.csv", class = "unsere_error_input")
  # Another error stays what it is.
  expect_error(unsere:::with_files(stop("something else")), "something else", class = "simpleError")
})
