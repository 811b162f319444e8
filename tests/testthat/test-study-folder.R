# A folder, a pattern or several paths as one study.

part <- function(folder, name, rows, write = utils::write.csv, ...) {
  path <- file.path(folder, name)
  dir.create(dirname(path), FALSE, TRUE)
  con <- if (grepl("gz$", name)) gzfile(path) else path
  write(rows, con, row.names = FALSE, ...)
  path
}

set.seed(2)
rows <- data.frame(hours = round(rnorm(90, 5, 2), 1), score = round(rnorm(90, 50, 9)), centre = rep(c("Mill", "Brook"), 45))

test_that("files of one form are one study, whichever way they are named", {
  folder <- withr::local_tempdir()
  part(folder, "may.csv", rows[1:30, ])
  part(folder, "june.csv", rows[31:60, ], utils::write.csv2)
  part(folder, "july.csv.gz", rows[61:90, ])
  whole <- relate(rows, hours, score)
  study <- read_study(folder)
  expect_equal(relate(study, hours, score)[c("r", "n", "p")], whole[c("r", "n", "p")], tolerance = 1e-12)
  expect_setequal(unique(unsere:::study_column(study, "file")), c("may", "june", "july"))
  by_pattern <- read_study(file.path(folder, "*.csv"))
  expect_equal(relate(by_pattern, hours, score)$n, 60L)
  several <- read_study(file.path(folder, c("may.csv", "june.csv", "july.csv.gz")))
  expect_equal(relate(several, hours, score)$r, whole$r, tolerance = 1e-12)
  told <- paste(capture.output(print(overview(study))), collapse = " ")
  expect_match(gsub(" +", " ", told), "3 files were read as one: july (30), june (30), may (30)", fixed = TRUE)
  by_file <- pool_relations(study, hours, score, by = file)
  expect_identical(by_file$k, 3L)
})

test_that("columns that differ between files are told, and those of another form refused", {
  folder <- withr::local_tempdir()
  part(folder, "year=2023/a.csv", rows[1:30, ])
  part(folder, "year=2024/a.csv", cbind(rows[31:60, 1:2], mood = rep(1:5, 6)))
  study <- read_study(folder)
  expect_identical(sum(unsere:::study_column(study, "year") == 2024), 30L)
  expect_identical(sum(is.na(unsere:::study_column(study, "mood"))), 30L)
  told <- gsub(" +", " ", paste(capture.output(print(overview(study))), collapse = " "))
  expect_match(told, "mood is not in every file; not in year=2023/a", fixed = TRUE)
  expect_match(told, "centre is not in every file; not in year=2024/a", fixed = TRUE)
  part(folder, "other.csv", data.frame(wholly = 1:3, else_ = 4:6))
  expect_error(read_study(folder), "no column in common", class = "unsere_error_input")
  expect_error(read_study(file.path(folder, "none*.csv")), class = "unsere_error_input")
})

test_that("the command and a brief take a folder, and their results can be verified", {
  folder <- withr::local_tempdir()
  part(folder, "data/may.csv", rows[1:30, ])
  part(folder, "data/june.csv", rows[31:90, ])
  told <- jsonlite::fromJSON(json_of(c("relate", file.path(folder, "data"), "hours", "score")))
  expect_identical(told$n, 90L)
  brief <- file.path(folder, "brief.yml")
  writeLines(c(
    "data: {file: data}", "pairs: [{x: hours, \"y\": score}]", "report: {formats: [html], folder: results}"
  ), brief)
  run_brief(brief, quiet = TRUE)
  verified <- verify_results(file.path(folder, "results"))
  expect_identical(nrow(verified$different), 0L)
  expect_true(verified$digest_same)
})
