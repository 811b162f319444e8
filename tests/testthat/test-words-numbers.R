test_that("text is as wide as the terminal, from 40 to 200 columns", {
  dial <- relate(demo_study("dial"), dial, level_db)
  line <- fit_line(demo_study("dial"), dial, level_db)
  for (width in c(40, 55, 120, 200)) {
    withr::local_envvar(COLUMNS = width)
    lines <- c(format(dial), format(line), format(overview(demo_study("learners"))))
    commands <- grepl("unsere|[(].*[)]$", lines)
    expect_lte(max(nchar(lines[!commands], "width")), width)
    expect_gt(max(nchar(lines, "width")), min(width, 120) * 0.85)
  }
  expect_identical(unsere:::shorten(c("attitude to reading, before", "attitude to reading, after"), 14), c(
    "attitud\u2026before", "attitud\u2026 after"
  ))
})

test_that("figures are rounded for a reader, with real minus signs and thousands marks", {
  number <- unsere:::format_number
  expect_identical(
    number(c(3.14159, -0.000123456, 12345.678, 0, NA, 2e-7)),
    c("3.14", "\u22120.000123", "12,300", "0", "\u2013", "2 \u00d7 10^\u22127")
  )
  decimals <- unsere:::format_decimals
  expect_identical(decimals(c(2.345, -0.004, 12345.6), 1), c("2.3", "0.0", "12,345.6"))
  expect_equal(unsere:::decimals_for(c(12.3, 0.5), 4), 2)
  expect_equal(unsere:::decimals_for(0.00123, 3), 5)
  expect_equal(unsere:::decimals_for(45678, 3), 0)
  expect_identical(unsere:::percent(c(.95, .999)), c("95", "99.9"))
})

test_that("the strip shows sign, size and interval at their places", {
  strip <- function(...) strsplit(unsere:::format_strip(..., width = 21), "")[[1]]
  right <- strip(.5, .2, .7)
  inner <- right[4:24]
  expect_identical(inner[11], "0")
  expect_identical(which(inner == "\u25cf"), 16L)
  expect_identical(which(inner %in% c("\u251c", "\u2524")), c(13L, 18L))
  expect_identical(which(strip(-1, NA, NA)[4:24] == "\u25cf"), 1L)
  expect_identical(unsere:::format_strip(NA, NA, NA), "")
})

test_that("tables are aligned and entries wrapped under themselves", {
  lines <- unsere:::set_table(list(name = c("a", "bbbb"), n = c("1", "222")))
  expect_identical(lines, c("  name    n", "  a       1", "  bbbb  222"))
  entries <- unsere:::set_entries(list(one = "short", second = paste(rep("word", 30), collapse = " ")))
  expect_identical(entries[1], "  one     short")
  expect_true(all(nchar(entries) <= 80))
  expect_match(entries[3], "^ {10}word")
})

test_that("figures that belong together are not torn apart at the end of a line", {
  text <- paste(strrep("x", 70), "r = .48, 95% CI [.31, .62]")
  lines <- unsere:::set_paragraph(text, indent = 0)
  expect_true(any(grepl("r = .48", lines, fixed = TRUE)))
  expect_true(any(grepl("[.31, .62]", lines, fixed = TRUE)))
})

test_that("labels inside a sentence start small unless they are abbreviations", {
  book <- data.frame(
    variable = c("a", "b", "c", "d", "Schule", "Hours read"), unit = c("h", NA, "m", NA, NA, NA),
    label = c("Weekly practice", "IQ", NA, "Anzahl B\u00fccher", NA, NA)
  )
  inside <- function(name) unsere:::inside_of(book, name)
  expect_identical(
    vapply(book$variable, inside, "", USE.NAMES = FALSE),
    c("weekly practice", "IQ", "c", "Anzahl B\u00fccher", "Schule", "hours read")
  )
  expect_identical(unsere:::heading_of(book, c("a", "b", "c")), c("Weekly practice (h)", "IQ", "c (m)"))
})

test_that("figures of one column have the same decimals", {
  column <- unsere:::format_column
  expect_identical(column(c(2.25, 3.1, 3.97, NA)), c("2.25", "3.10", "3.97", unsere:::undefined_mark()))
  expect_identical(column(c(512.34, 4.35, 38.7)), c("512.34", "4.35", "38.70"))
  expect_identical(column(c(1234.5, 987, 2100)), c("1234", "987", "2100"))
})

test_that("the ends of a column are as recorded or whole, and never digits that a double does not hold", {
  data <- data.frame(a = c(-1e300, 2:8, 123456789), b = c(1234567.4, 2:9))
  expect_no_warning(shown <- paste(format(overview(data)), collapse = " "))
  expect_match(shown, "1 . 10\\^300")
  expect_match(shown, "1,234,567")
  expect_no_match(shown, "[0-9]{16}")
})
