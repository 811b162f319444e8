# What random input found once, and what it must not find again.

test_that("bad columns and times are refused plainly; lines hold at the ends of a double", {
  expect_error(find_outliers(data.frame(a = c("yes", "no", "no"))), "no numeric variable", class = "unsere_error_input")
  typo <- data.frame(x = c(1, 2, 3, 5, 4, 6, 7, 9), y = c(2, 1, 4, 3, 5, 7, 6, 8), year = c(2010:2016, 20170000))
  expect_error(flag_spurious(typo, x, y, time = year), "lacks nearly all of its periods", class = "unsere_error_input")
  uneven <- transform(typo, year = c(2010:2016, 2050.4))
  expect_match(format(flag_spurious(uneven, x, y, time = year)), "times are uneven", all = FALSE)
  for (size in c(1e300, 1e-300)) {
    far <- data.frame(x = 1:5, y = c(1, 2, 3, 1, 0) * size)
    line <- fit_line(far, x, y)
    expect_equal(line$terms$t, fit_line(transform(far, y = y / size), x, y)$terms$t, tolerance = 1e-13)
    # What cannot be squared has no sum of squares; F and p stand.
    expect_identical(is.na(line$variance$ss), rep(TRUE, 3))
    bent <- data.frame(x = 1:20, y = (1:20)^2 + rep(c(-1, 1), 10))
    expect_true("curved" %in% relate(transform(bent, y = y * size), x, y)$cautions$code)
    expect_equal(line$variance$p[1], line$terms$p[2], tolerance = 1e-12)
    expect_equal(relate(far, x, y)$r, relate(data.frame(x = 1:5, y = c(1, 2, 3, 1, 0)), x, y)$r, tolerance = 1e-14)
  }
})

test_that("two predictors that are one and the same are ranked, and none is called ahead", {
  twins <- data.frame(y = c(3, 1, 4, 1, 5, 9, 2, 6), a = c(2, 7, 1, 8, 2, 8, 1, 8))
  twins$b <- twins$a
  ranked <- rank_predictors(twins, y, a, b)
  expect_true(is.na(ranked$comparisons$p))
  expect_match(in_words(ranked), "not significantly ahead")
  expect_s3_class(draw_predictors(ranked), "ggplot")
})

test_that("box plots of several variables are drawn though no case lies far out", {
  path <- tempfile(fileext = ".svg")
  ggplot2::ggsave(path, draw_box(data.frame(a = 1:9, b = c(2, 4, 3, 5, 7, 6, 8, 9, 1)), a, b), width = 6, height = 4)
  expect_gt(file.size(path), 1000)
})

test_that("a starter brief keeps the codes for no answer and the decimal mark it was read with, or says why there is none", {
  folder <- withr::local_tempdir()
  writeLines(c("a;b;c", "1,5;2;3", "2,5;-9;4", "4,5;3;9", "5,0;7;8", "6,1;8;x"), file.path(folder, "own.csv"))
  study <- read_study(file.path(folder, "own.csv"), missing_codes = c("-9", "x"))
  write_brief(study, file.path(folder, "own.yml"))
  read <- unsere:::brief_study(unsere:::read_brief(file.path(folder, "own.yml")))
  expect_equal(read$data, study$data)
  writeLines(c("name", "Ada", "Ben"), file.path(folder, "text.csv"))
  expect_error(write_brief(read_study(file.path(folder, "text.csv")), file.path(folder, "text.yml")), "fewer than two",
    class = "unsere_error_input"
  )
  expect_false(file.exists(file.path(folder, "text.yml")))
})

test_that("the digits of a brief are those of its sentences", {
  folder <- withr::local_tempdir()
  file.copy(demo_file("dial.csv"), folder)
  path <- file.path(folder, "dial.yml")
  writeLines(c("data: {file: dial.csv}", "pairs:", "  - {x: dial, y: level_db}", "settings: {digits: 4}"), path)
  page <- readLines(file.path(run_brief(path, quiet = TRUE), "report.html"), warn = FALSE)
  expect_true(any(grepl("<p>[^<]*<i>r</i>\\(22\\).=.\\.9958,", page)))
})

test_that("a while of random files, options and data breaks nothing", {
  script <- file.path(root_of_project(), "tests", "fuzz", "fuzz.R")
  said <- system2(file.path(R.home("bin"), "Rscript"), c(shQuote(script), "8", "11"),
    stdout = TRUE, stderr = FALSE,
    env = paste0("R_LIBS=", paste(.libPaths(), collapse = ":"))
  )
  expect_match(said[length(said)], "rounds in 8 s from seed 11, 0 broke something")
})

test_that("a row of means or sums under the table is pointed at, an ordinary last row is not", {
  said <- function(...) paste(format(read_study(csv_file("name;a;b", ...))$provenance$decisions), collapse = " ")
  rows <- c("Ada;2;4", "Ben;3;5", "Cem;3;9", "Dil;5;4")
  expect_match(said(rows, "Average;3,25;5,5"), "row 6 contains sums, averages or limits")
  expect_match(said(rows, "All;13;22"), "row 6 contains sums, averages or limits")
  expect_match(said("Points possible;5;9", rows), "row 2 contains sums, averages or limits")
  for (last in c("Max;5;9", "Eva;3;5", "Eva;3,25;5,4", "Eva;13;21")) expect_no_match(said(rows, last), "the last")
})

test_that("one cell of text in a column with decimal commas is named, and once declared the column is numbers", {
  file <- csv_file("hours;points", "2,5;34", "1,0;22", "viel;30", "4,0;40", "3,5;36")
  study <- read_study(file)
  expect_identical(study$codebook$level[1], "numeric")
  expect_error(relate(study, hours, points), "text in 1 of its 5 cells: \"viel\" in row 4", class = "unsere_error_input")
  expect_equal(read_study(file, missing_codes = "viel")$data$hours, c(2.5, 1, NA, 4, 3.5))
  # Words of no answer need no declaring, and what does not vary is not proposed.
  file <- csv_file("full,hours,points", "100,2,34", "100,EX,30", "100,4,40", "100,3,36")
  expect_equal(read_study(file)$data$hours, c(2, NA, 4, 3))
  expect_match(paste(format(overview(read_study(file))), collapse = " "), "2 numeric variables.*relate[^ ]*, hours, points")
})

test_that("a figure that is drawn from a result says so when it is given a study and names", {
  town <- demo_study("town_years")
  expect_error(draw_over_time(town, hives, ebook_loans), "flag_spurious\\(study, x, y\\)", class = "unsere_error_usage")
  expect_error(draw_residuals(town, hives, ebook_loans), "fit_line\\(study, x, y\\)", class = "unsere_error_usage")
  expect_error(draw_predictors(town, hives, ebook_loans), "rank_predictors\\(study", class = "unsere_error_usage")
  expect_error(draw_matrix(town, hives, ebook_loans), class = "unsere_error_usage")
})
