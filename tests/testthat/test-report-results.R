page_of <- function(study, ...) {
  path <- tempfile(fileext = ".html")
  write_report(study, path, ...)
  paste(readLines(path, encoding = "UTF-8"), collapse = "\n")
}

test_that("the page answers in the order of work and needs nothing from elsewhere", {
  page <- page_of(demo_study("learners"), practice_hours, speaking_score, question = "Does practice pay?")
  wanted <- c(
    "<h1>Does practice pay\\?", "associated with higher values of speaking score", "aria-label", "The data",
    "Pairs: 222 used",
    "Strength: large", "Regression line of speaking score", "Method", "SHA-256\\s+[0-9a-f]{64}"
  )
  at <- vapply(wanted, function(text) regexpr(text, page)[[1]], 0L)
  expect_true(all(at > 0))
  expect_false(is.unsorted(at))
  expect_false(grepl("(src|href)=|url\\((?!#)|@import|<script ", page, perl = TRUE))
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

test_that("each coefficient has its page, with its own symbol, strip and sentence", {
  learners <- demo_study("learners")
  pages <- list(
    rs = page_of(learners, confidence, speaking_score), rpb = page_of(learners, study_partner, speaking_score),
    r = page_of(learners, practice_hours, attendance_pct)
  )
  for (symbol in names(pages)) {
    set <- c(rs = "<i>r</i><sub>s</sub>", rpb = "<i>r</i><sub>pb</sub>", r = "<i>r</i>")[[symbol]]
    expect_match(pages[[symbol]], sprintf("<span>\\s*%s.=", set))
    expect_match(pages[[symbol]], "class=\"strip\"", fixed = TRUE)
    expect_no_match(pages[[symbol]], "NA|NULL|NaN")
  }
  expect_match(pages$r, "not significantly correlated", fixed = TRUE)
})

test_that("the strip's dot and bar stand where r and its interval are", {
  found <- relate(demo_study("learners"), practice_hours, speaking_score)
  strip <- as.character(unsere:::page_block(unsere:::block_strip(found)))
  at <- function(value) sprintf("%.1f", 300 + 270 * value)
  expect_match(strip, sprintf("cx=\"%s\"", at(found$r)), fixed = TRUE)
  expect_match(strip, sprintf("x1=\"%s\" x2=\"%s\"", at(found$ci_low), at(found$ci_high)), fixed = TRUE)
  falling <- relate(practice_pair(30, -.6, exact = TRUE, seed = 1), x, y)
  expect_match(as.character(unsere:::page_block(unsere:::block_strip(falling))), unsere:::look$negative, fixed = TRUE)
})

test_that("missing codes and what was left out are told on the page", {
  page <- page_of(demo_study("learners"), age_years, speaking_score)
  expect_match(page, "Counted as missing because of a missing-value code: Age 5", fixed = TRUE)
  expect_match(page, "13 excluded", fixed = TRUE)
})

test_that("the report of two binary variables tells how phi was found, and nothing of Pearson's test", {
  page <- page_of(demo_study("learners"), study_partner, prior_course)
  method <- sub("^.*How it was done", "", page)
  expect_match(method, "Phi, Pearson's r of two variables coded 0 and 1")
  expect_no_match(method, "Fisher's z|Student")
})

test_that("the digest of a report is that of the data as they were read", {
  folder <- withr::local_tempdir()
  file.copy(demo_file("dial.csv"), folder)
  path <- file.path(folder, "dial.csv")
  before <- unname(cli::hash_file_sha256(path))
  study <- read_study(path)
  cat("13,99\n", file = path, append = TRUE)
  expect_false(unname(cli::hash_file_sha256(path)) == before)
  expect_match(page_of(study, dial, level_db), before, fixed = TRUE)
})
