# Extracted from test-report.R:27

# setup ------------------------------------------------------------------------
library(testthat)
test_env <- simulate_test_env(package = "unsere", path = "..")
attach(test_env, warn.conflicts = FALSE)

# prequel ----------------------------------------------------------------------
page_of <- function(study, ...) {
  path <- tempfile(fileext = ".html")
  write_report(study, path, ...)
  paste(readLines(path, encoding = "UTF-8"), collapse = "\n")
}

# test -------------------------------------------------------------------------
path <- tempfile(fileext = ".html")
write_report(demo_study("dial"), path, dial, level_db)
expect_silent(write_report(demo_study("dial"), path, dial, level_db))
