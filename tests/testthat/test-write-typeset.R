# Tables for LaTeX and Typst, and figures as TIFF.

odd <- data.frame(a_b = c(1, 2, 3, 4, 6, 5), c = c(2, 1, 4, 3, 6, 5), d = c(1, 3, 2, 4, 5, 6))
names(odd) <- c("50% & more_", "x #1 {y}", "say \"no\" \\now")

test_that("a table for LaTeX escapes every sign that means something there, and a program can set it", {
  path <- withr::local_tempfile(fileext = ".tex")
  write_tables(correlation_matrix(odd), path, stars = TRUE)
  text <- paste(readLines(path), collapse = "\n")
  expect_match(text, "^% Written by Unsere")
  expect_match(text, "50\\% \\& more\\_", fixed = TRUE)
  expect_match(text, "x \\#1 \\{y\\}", fixed = TRUE)
  expect_match(text, "\\textbackslash{}now", fixed = TRUE)
  expect_identical(lengths(regmatches(text, gregexpr("\\hline", text, fixed = TRUE))), 3L)
  skip_if(!nzchar(Sys.which("pdflatex")))
  folder <- withr::local_tempdir()
  writeLines(c(
    "\\documentclass{article}\\usepackage[utf8]{inputenc}\\begin{document}", text, "\\end{document}"
  ), file.path(folder, "t.tex"))
  how <- c("-interaction=batchmode", "-output-directory", folder, file.path(folder, "t.tex"))
  status <- system2("pdflatex", how, stdout = FALSE, stderr = FALSE)
  expect_identical(status, 0L)
})

test_that("a table for Typst holds its cells as strings", {
  path <- withr::local_tempfile(fileext = ".typ")
  write_tables(relate(demo_study("learners"), practice_hours, speaking_score), path)
  lines <- readLines(path)
  expect_identical(lines[1], "// Written by Unsere")
  expect_match(lines, "\"Weekly practice\", \"Speaking score\", \"222\"", fixed = TRUE, all = FALSE)
  write_tables(correlation_matrix(odd), path)
  expect_match(paste(readLines(path), collapse = " "), "say \\\"no\\\" \\\\now", fixed = TRUE)
})

test_that("a file of another hand is left alone", {
  path <- withr::local_tempfile(fileext = ".tex", lines = "mine")
  expect_error(write_tables(correlation_matrix(odd), path), "left alone", class = "unsere_error_input")
  expect_identical(readLines(path), "mine")
})

test_that("a figure is written as TIFF, and an ending that is none is told by its own name", {
  path <- withr::local_tempfile(fileext = ".tiff")
  draw <- c("draw", "scatter", demo_file("dial.csv"), "dial", "level_db", "--quiet", "--out")
  expect_identical(run_command(c(draw, path)), 0L)
  expect_identical(readBin(path, "raw", 2L), charToRaw("II"))
  said <- capture_messages(status <- run_command(c(draw, "f.jpg")))
  expect_identical(status, 2L)
  expect_match(said[1], "\"f.jpg\"", fixed = TRUE)
})
