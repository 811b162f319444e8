# Wrong use and odd input of every command: one or two lines, the right status, nothing written.
file <- demo_file("learners.csv")
years <- demo_file("town_years.csv")

test_that("every command has help with an example that names it", {
  for (name in names(unsere:::commands())) {
    help <- unsere:::command_help(unsere:::commands()[[name]])
    expect_match(help[1], paste0("^unsere ", name))
    expect_match(help[length(help)], paste0("unsere ", name))
    expect_lte(max(nchar(help[-length(help)])), 100, label = name)
  }
})

wrong <- list(
  list(c("line", file, "practice_hours", "speaking_score", "--shape", "bent"), "linear"),
  list(c("line", file, "practice_hours", "speaking_score", "--solve", "high"), "numbers separated by commas"),
  list(c("line", file, "practice_hours"), "Y is missing"),
  list(c("rank", file, "speaking_score", "practice_hours"), "VAR is missing"),
  list(c("rank", file, "speaking_score", "speaking_score", "age_years"), "own predictors"),
  list(c("matrix", file, "--rows", "age_years"), "`columns` is missing"),
  list(c("matrix", file, "m1", "m2", "--by", "age_years"), "30 groups"),
  list(c("matrix", years, "--chunk-rows", "5", "--by", "year"), "cannot be combined with --chunk-rows"),
  list(c("flag", years, "hives", "ebook_loans", "warm_days"), "one word too many"),
  list(c("draw", "residuals", file, "practice_hours", "--out", "x.png"), "takes 2 variables"),
  list(c("draw", "over-time", file, "age_years", "m1", "--out", "x.png"), "no variable with the time"),
  list(c("draw", "histry", file, "--out", "x.png"), "history"),
  list(c("brief", file, "--out", file), "never written to")
)

test_that("wrong use is answered in a line or two with status 2", {
  withr::with_tempdir({
    for (one in wrong) {
      status <- NULL
      said <- capture.output(status <- run_command(one[[1]]), type = "message")
      expect_identical(status, 2L, label = paste(one[[1]], collapse = " "))
      expect_lte(length(said), 2)
      expect_match(said, one[[2]], all = FALSE, fixed = TRUE, label = paste(one[[1]][1:2], collapse = " "))
    }
    expect_length(list.files(all.files = TRUE, no.. = TRUE), 0)
  })
})

test_that("input that cannot be used has status 3, results that are not defined status 4", {
  withr::with_tempdir({
    writeLines(c("t,x,y,same", "1,3,1,2", "2,1,5,2", "3,4,2,2", "3,1,6,2", "5,5,3,2", "6,9,7,2"), "odd.csv")
    status_of <- function(...) {
      status <- NULL
      capture.output(capture.output(status <- run_command(c(...)), type = "message"))
      status
    }
    expect_identical(status_of("flag", "odd.csv", "x", "y", "--time", "t"), 3L)
    expect_identical(status_of("flag", "none.csv"), 3L)
    expect_identical(status_of("line", "odd.csv", "same", "y"), 4L)
    expect_identical(status_of("line", "odd.csv", "x", "same"), 4L)
    expect_identical(status_of("rank", "odd.csv", "y", "x", "same"), 4L)
    expect_identical(status_of("run", "odd.csv"), 3L)
    expect_identical(status_of("draw", "history", ".", "--out", "h.png"), 3L)
    expect_identical(status_of("matrix", "odd.csv", "x", "nope"), 3L)
    expect_identical(status_of("matrix", "odd.csv", "x", "y", "same"), 0L)
    expect_setequal(list.files(all.files = TRUE, no.. = TRUE), "odd.csv")
  })
})

test_that("the three doors give the same numbers", {
  withr::with_tempdir({
    file.copy(demo_file("dial.csv"), ".")
    writeLines(c("data: {file: dial.csv}", "pairs:", "  - {x: dial, y: level_db, predict_at: [4.5]}"), "brief.yml")
    run_brief("brief.yml", quiet = TRUE)
    brief <- jsonlite::fromJSON("results/results.json", simplifyDataFrame = FALSE)$pairs[[1]]
    command <- jsonlite::fromJSON(capture.output(run_command(c(
      "relate", "dial.csv", "dial", "level_db", "--format",
      "json"
    ))))
    functions <- relate(read_study("dial.csv"), dial, level_db)
    for (field in c("r", "ci_low", "ci_high", "value", "p")) {
      expect_identical(brief$relation[[field]], command[[field]])
      expect_identical(command[[field]], functions[[field]])
    }
  })
})

test_that("the next step of a matrix leaves the table that was written aside, and works as it stands", {
  withr::with_tempdir({
    said <- capture.output(run_command(c(
      "matrix", demo_file("learners.csv"), "practice_hours", "speaking_score", "--table", "table.md", "--quiet"
    )))
    step <- sub("^.*Try: unsere ", "", gsub(" +", " ", paste(said, collapse = " ")))
    expect_match(step, "^relate .*learners.csv practice_hours speaking_score")
    expect_no_match(step, "--table")
    expect_true(file.exists("table.md"))
  })
})
