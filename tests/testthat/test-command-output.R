test_that("numbers in CSV come back as they were, with no more digits than that takes", {
  values <- c(0.1, 1 / 3, 1e-300, 123456789.123, -2, 0.1 + 0.2, NA)
  text <- unsere:::shortest_digits(values)
  expect_identical(suppressWarnings(as.numeric(text)), values)
  expect_identical(text[c(1, 5)], c("0.1", "-2"))
})

test_that("text in CSV is quoted where it must be, text in Markdown keeps its bars", {
  data <- data.frame(a = c("plain", "with, comma", "with \"quote\""), b = c(1.5, NA, 2))
  lines <- unsere:::as_csv(data)
  expect_identical(lines, c("a,b", "plain,1.5", "\"with, comma\",", "\"with \"\"quote\"\"\",2"))
  expect_identical(utils::read.csv(text = lines), data)
  expect_identical(unsere:::markdown_table(list(x = "a|b", n = "1"))[3], "| a\\|b | 1 |")
})

test_that("JSON keeps 17 digits, writes null for what is not defined, and rows as objects", {
  line <- fit_line(data.frame(x = 1:4, y = 2 * (1:4) + 1), x, y)
  text <- unsere:::as_json(line)
  parsed <- jsonlite::fromJSON(text, simplifyVector = FALSE)
  expect_null(parsed$terms[[1]]$se)
  expect_identical(parsed$terms[[2]]$term, "slope")
  expect_identical(parsed$residual_sd, 0L)
  expect_identical(as.character(unsere:::verbatim_numbers(1 / 3)), "0.33333333333333331")
  expect_identical(as.character(unsere:::verbatim_numbers(c(1, NA))), "[1, null]")
})

test_that("every result turns into a data frame with the contract's fields", {
  learners <- demo_study("learners")
  relation <- as.data.frame(relate(learners, practice_hours, speaking_score))
  expect_identical(names(relation), c(
    "x", "y", "coefficient", "r", "r_squared", "n", "n_dropped", "confidence", "ci_low", "ci_high", "ci_method",
    "statistic", "value", "df", "p", "log10_p", "p_method", "expect", "direction", "strength", "strength_scale"
  ))
  line <- fit_line(learners, practice_hours, speaking_score)
  expect_identical(names(as.data.frame(line)), c("term", "estimate", "se", "t", "df", "p", "ci_low", "ci_high", "log10_p"))
  expect_identical(names(line$variance), c("source", "df", "ss", "ms", "f", "p", "log10_p"))
  expect_identical(names(line$predictions), c(
    "at", "fit", "mean_low", "mean_high", "case_low", "case_high",
    "outside_data"
  ))
  expect_identical(names(line$solutions), c("y", "x", "x_low", "x_high", "limits", "parts", "readings", "outside_data"))
  expect_equal(as.data.frame(learners), learners$data, ignore_attr = TRUE)
  expect_identical(nobs(line), 222L)
  expect_identical(names(as.data.frame(advise(learners, m1, m2))), c("x", "y", "coefficient", "reason", "also"))
})

test_that("printing gives back the object, and says the same as format()", {
  found <- relate(demo_study("dial"), dial, level_db)
  expect_output(back <- withVisible(print(found)), "Sound level")
  expect_false(back$visible)
  expect_identical(back$value, found)
  expect_output(print(demo_study("dial")), "24 cases, 2 variables")
  small <- overview(data.frame(word = c("a", "b", "c")))
  expect_output(print(small), "3 cases, 1 variable")
  expect_no_match(format(small), "What can be done")
})

test_that("nothing that is read is ever written to, by whatever path", {
  folder <- withr::local_tempdir()
  file.copy(c(demo_file("learners.csv"), demo_file("codebook.csv")), folder)
  withr::local_dir(folder)
  before <- tools::md5sum(c("learners.csv", "codebook.csv"))
  file.symlink("codebook.csv", "link.csv")
  file.link("learners.csv", "hard.csv")
  file.copy("codebook.csv", "other-book.csv")
  asked <- list(
    c("relate", "learners.csv", "m1", "m2", "--out", "codebook.csv"),
    c("relate", "learners.csv", "m1", "m2", "--out", "link.csv"), c("look", "learners.csv", "--out=./learners.csv"),
    c("relate", "learners.csv", "m1", "m2", "--out", "hard.csv"),
    c("matrix", "learners.csv", "m1", "m2", "--table", file.path("..", basename(folder), "codebook.csv")),
    c("relate", "learners.csv", "m1", "m2", "--codebook", "other-book.csv", "--out", "other-book.csv")
  )
  for (words in asked) {
    said <- testthat::capture_messages(status <- run_command(words))
    expect_match(said[1], "never written to", label = paste(words, collapse = " "))
    expect_identical(status, 2L)
  }
  expect_error(write_codebook(read_study("learners.csv"), "hard.csv"), "never written to")
  expect_identical(tools::md5sum(c("learners.csv", "codebook.csv")), before)
})

test_that("devices and pipes are written to and read from, never replaced", {
  skip_on_os(c("mac", "windows"))
  learners <- demo_file("learners.csv")
  expect_identical(unsere("relate", learners, "m1", "m2", "--out", "/dev/null", "--quiet")$status, 0L)
  expect_identical(system2("test", c("-c", "/dev/null")), 0L)
  plain <- unsere("relate", learners, "m1", "m2", "--format=csv", "--quiet")$out
  expect_identical(unsere("relate", learners, "m1", "m2", "--format=csv", "--quiet", "--out", "/dev/stdout")$out, plain)
  command <- shQuote(path_of_command())
  run <- function(code) {
    system2("bash", c("-c", shQuote(code)), stdout = TRUE, env = paste0("R_LIBS=", paste(.libPaths(), collapse = ":")))
  }
  piped <- sprintf("%s relate <(cat %s) m3 m4 --format=csv --quiet", command, shQuote(learners))
  expect_identical(run(piped), unsere("relate", learners, "m3", "m4", "--format=csv", "--quiet")$out)
  seen <- sprintf("%s matrix %s --format=csv | head -n 1; echo ${PIPESTATUS[0]}", command, shQuote(learners))
  expect_identical(run(seen)[2], "0")
  expect_identical(unsere("relate", learners, "m1", "m2", "--out", "--quiet")$status, 2L)
})
