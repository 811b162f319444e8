page_of <- function(study, ...) {
  path <- tempfile(fileext = ".html")
  write_report(study, path, ...)
  paste(readLines(path, encoding = "UTF-8"), collapse = "\n")
}

test_that("the page answers in the order of work and needs nothing from elsewhere", {
  page <- page_of(demo_study("learners"), practice_hours, speaking_score, question = "Does practice pay?")
  wanted <- c("<h1>Does practice pay\\?", "positively correlated", "aria-label", "The data", "Pairs: 222 used",
    "The relation", "The line", "How it was done", "SHA-256 [0-9a-f]{64}")
  at <- vapply(wanted, function(text) regexpr(text, page)[[1]], 0L)
  expect_true(all(at > 0))
  expect_false(is.unsorted(at))
  expect_false(grepl("(src|href)=|url\\((?!#)|@import|<script", page, perl = TRUE))
})

test_that("labels with HTML in them come out as they are", {
  odd <- set_variable(data.frame(a = 1:9, b = c(2, 1, 4, 3, 6, 5, 8, 7, 11)), a, label = "<b>Calls & 'quotes'</b>")
  page <- page_of(odd, a, b)
  expect_match(page, "&lt;b&gt;Calls &amp; 'quotes'&lt;/b&gt;", fixed = TRUE)
  expect_no_match(page, "<b>Calls", fixed = TRUE)
})

test_that("a page of ours is replaced, another's file never", {
  path <- tempfile(fileext = ".html")
  write_report(demo_study("dial"), path, dial, level_db)
  expect_silent(write_report(demo_study("dial"), path, dial, level_db))
  writeLines("<p>mine</p>", path)
  expect_error(write_report(demo_study("dial"), path, dial, level_db), "left alone", class = "unsere_error_input")
  expect_identical(readLines(path), "<p>mine</p>")
  expect_error(write_report(demo_study("dial"), "page.txt", dial, level_db), class = "unsere_error_usage")
})
