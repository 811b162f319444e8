# A study with fewer cases or variables keeps all that is known of the rest.

test_that("rows and columns by brackets keep codebook, names of cases, rows of the file and provenance", {
  learners <- demo_study("learners")
  part <- learners[learners$data$centre %in% "Mill", c("learner", "practice_hours", "speaking_score")]
  expect_identical(codebook(part)$label[2:3], c("Weekly practice", "Speaking score"))
  expect_identical(part$provenance$digest, learners$provenance$digest)
  found <- find_outliers(learners[101:240, ], attendance_pct)
  expect_identical(c(found$case[1], found$row[1]), c("L137", "138"))
  line <- fit_line(part, practice_hours, speaking_score)
  expect_true(all(names(residuals(line)) %in% learners$data$learner))
  expect_error(learners[, "nosuch"], class = "unsere_error_input")
})

test_that("by a group, cases of a plain data frame keep the rows they had", {
  set.seed(52)
  data <- data.frame(g = rep(c("a", "b"), each = 15), x = rnorm(30), y = rnorm(30))
  data[30, 2:3] <- c(12, 12)
  found <- correlation_matrix(data, x, y, by = g)
  cautions <- found$groups$b$cautions
  pair <- cautions$figures[[match("one_case", cautions$code)]]$pairs[[1]]
  expect_identical(pair$figures$case, "row 30")
})

test_that("missing codes are taken where a study is given too, and of what was known nothing is lost", {
  study <- set_variable(data.frame(x = c(1, 2, -9, 4), y = 1:4), x, label = "Hours")
  again <- as_study(study, missing_codes = -9)
  expect_identical(again$data$x, c(1, 2, NA, 4))
  expect_identical(codebook(again)$label[1], "Hours")
  expect_identical(study$data$x[3], -9)
})

test_that("columns that bring labels and value labels along are read with them", {
  labelled <- function(values, ...) structure(values, ..., class = c("labelled_by_other", "vctrs_vctr", "double"))
  agree <- labelled(
    c(1, 2, 5, 4, 3, 9, 2, 1),
    label = "I like it", labels = c(never = 1, always = 5, "no answer" = 9), na_values = 9
  )
  side <- labelled(c(0, 1, 1, 0, 1, 0, 0, 1), label = "Member", labels = c(no = 0, yes = 1))
  plain <- structure(c(3, 1, 4, 1, 5, 9, 2, 6), label = "Score of the test")
  data <- data.frame(id = 1:8)
  data$agree <- agree
  data$side <- side
  data$plain <- plain
  study <- as_study(data)
  expect_identical(codebook(study)$label[2:4], c("I like it", "Member", "Score of the test"))
  expect_true(is.na(study$data$agree[6]))
  found <- relate(study, side, plain)
  expect_identical(found$coefficient, "point-biserial")
  expect_identical(found$groups$value, c("no", "yes"))
  expect_equal(relate(study, agree, plain, "pearson")$r, cor_table(cbind(unclass(agree), plain)[-6, ])[1, 2])
})

test_that("a starter brief keeps delimiter and encoding, and reads the same data", {
  folder <- withr::local_tempdir()
  path <- file.path(folder, "own.csv")
  writeBin(iconv("Stra\u00dfe;Gr\u00f6\u00dfe;b\n1;2;3\n2;1;5\n4;3;4\n", "UTF-8", "latin1", toRaw = TRUE)[[1]], path)
  study <- read_study(path, delimiter = ";", encoding = "latin1")
  write_brief(study, file.path(folder, "own.yml"))
  lines <- readLines(file.path(folder, "own.yml"))
  expect_match(lines, "delimiter: \";\"", all = FALSE)
  expect_match(lines, "encoding: .?latin1", all = FALSE)
  expect_identical(unsere:::brief_study(unsere:::read_brief(file.path(folder, "own.yml")))$data, study$data)
})
