# A starter brief carries what was understood of the data: the same rows elsewhere give the same results.

test_that("codes, levels, orders, ranges and roles of a codebook stand in the brief", {
  folder <- withr::local_tempdir()
  for (name in c("here", "there")) dir.create(file.path(folder, name))
  here <- function(...) file.path(folder, "here", ...)
  for (name in c("learners.csv", "codebook.csv")) file.copy(demo_file(name), here(name))
  file.copy(demo_file("learners.csv"), file.path(folder, "there", "copied.csv"))
  write_brief(read_study(here("learners.csv")), here("brief.yml"))
  text <- readLines(here("brief.yml"))
  expect_match(text, "age_years: .*missing_codes: \\[-9\\]", all = FALSE)
  expect_match(text, "starts with 12 variables; further ones: .*m4, m5, m6", all = FALSE)
  run <- function(out, ...) run_brief(here("brief.yml"), out = file.path(folder, out), quiet = TRUE, ...)
  suppressMessages({
    run("first")
    run("second", data = file.path(folder, "there", "copied.csv"), since = file.path(folder, "first"))
  })
  expect_match(
    paste(readLines(file.path(folder, "second", "changes.txt")), collapse = " "),
    "copied.csv \\(240 cases\\) holds the same data as learners.csv.* nothing +changed"
  )
})

test_that("a range from a heading, an order of words and plausible values stand in the brief", {
  folder <- withr::local_tempdir()
  data <- data.frame(
    mark = c(12, 100, 55, 80, 61, 70), mood = rep(c("low", "middle", "high"), 2), pv1 = 1:6, pv2 = c(2:6, 1)
  )
  names(data)[1] <- "Midterm (100)"
  data.table::fwrite(data, file.path(folder, "marks.csv"))
  study <- read_study(file.path(folder, "marks.csv"), values = "mood=low<middle<high")
  study <- set_plausible(study, "skill", c("pv1", "pv2"))
  write_brief(study, file.path(folder, "marks.yml"))
  text <- paste(readLines(file.path(folder, "marks.yml")), collapse = "\n")
  expect_match(text, "Midterm \\(100\\)\".*range: \"0 to 100\"")
  expect_match(text, "values: .*low *< *middle *< *high")
  expect_match(text, "skill: \\[pv1, pv2\\]")
})
