test_that("a page is printed as a PDF by a browser, and where none is there the rest is written and that is told", {
  brief <- file.path(tempfile("pdf-"), "b.yml")
  dir.create(dirname(brief))
  file.copy(demo_file("learners.csv"), dirname(brief))
  lines <- c(
    "data: {file: learners.csv}", "pairs:", "  - {x: practice_hours, y: speaking_score}",
    "report: {formats: [html, pdf], folder: results}"
  )
  writeLines(lines, brief)
  empty <- tempfile("nothing-")
  dir.create(empty)
  without <- file.path(dirname(brief), "without")
  withr::with_envvar(c(UNSERE_BROWSER = "nowhere"), withr::with_path(empty, action = "replace", {
    expect_message(run_brief(brief, out = without, quiet = TRUE), "No report.pdf")
  }))
  expect_true(file.exists(file.path(without, "report.html")))
  expect_false(file.exists(file.path(without, "report.pdf")))
  skip_if(!any(nzchar(Sys.which(c("chromium", "chromium-browser", "google-chrome")))), "no browser on this machine")
  out <- file.path(dirname(brief), "results")
  run_brief(brief, out = out, quiet = TRUE)
  expect_identical(readChar(file.path(out, "report.pdf"), 5), "%PDF-")
  expect_true("report.pdf" %in% names(jsonlite::fromJSON(file.path(out, "results.json"))$files))
})
