# What the command writes as JSON is as the schema that ships says, no key more and none less.

output_schema <- function() {
  whole <- jsonlite::fromJSON(system.file("schema", "output.json", package = "unsere"), simplifyVector = FALSE)
  # References put in place; "this or nothing" as a second type.
  resolved <- function(part) {
    if (!is.list(part)) return(part)
    if (!is.null(part$anyOf)) {
      inner <- resolved(part$anyOf[[1]])
      inner$type <- c(inner$type, "null")
      return(inner)
    }
    if (!is.null(part[["$ref"]])) return(resolved(whole[["$defs"]][[basename(part[["$ref"]])]]))
    lapply(part, resolved)
  }
  lapply(whole[["$defs"]], resolved)
}

faults_of <- function(text, kind, schema = output_schema()) {
  document <- jsonlite::fromJSON(paste(text, collapse = "\n"), simplifyVector = FALSE)
  expect_identical(document$kind, kind)
  schema <- schema[[kind]]
  schema$properties$kind <- list(type = "string")
  vapply(unsere:::check_against(document, schema, character()), function(fault) {
    paste(paste(fault$place, collapse = "."), fault$text)
  }, "")
}

test_that("every command's JSON is what the schema says", {
  demo <- dirname(demo_file("learners.csv"))
  cases <- list(
    overview = c("look", "learners.csv"), overview = c("look", "learners.xlsx"),
    relation = c("relate", "learners.csv", "practice_hours", "speaking_score"),
    relation = c("relate", "learners.csv", "study_partner", "speaking_score"),
    relation = c("relate", "learners.csv", "study_partner", "prior_course"),
    relation = c("relate", "learners.csv", "m1", "m2", "--interval=bootstrap", "--seed=1", "--resamples=200"),
    matrix = c("matrix", "learners.csv", "practice_hours", "speaking_score", "confidence"),
    matrix = c("matrix", "learners.csv", "--rows", "practice_hours", "--columns", "speaking_score,confidence"),
    matrices = c("matrix", "learners.csv", "practice_hours", "speaking_score", "confidence", "--by", "centre"),
    pairs = c("matrix", "learners.csv", "practice_hours", "speaking_score", "confidence", "--list"),
    line = c("line", "dial.csv", "dial", "level_db", "--at", "4.5,30", "--solve", "55,80"),
    line = c("line", "learners.csv", "practice_hours", "speaking_score", "--shape", "quadratic", "--solve", "60"),
    lines = c("line", "learners.csv", "practice_hours", "speaking_score", "--shape", "linear,log"),
    residuals = c("line", "learners.csv", "practice_hours", "speaking_score", "--residuals"),
    predictors = c("rank", "learners.csv", "speaking_score", "practice_hours", "age_years", "--at", "practice_hours=5"),
    flags = c("flag", "town_years.csv", "ebook_loans", "hives"),
    flags = c("flag", "learners.csv", "commute_min", "listening_score"),
    flag_pairs = c("flag", "town_years.csv", "hives")
  )
  schema <- output_schema()
  expect_setequal(c(unique(names(cases)), "results", "caution"), names(schema))
  for (k in seq_along(cases)) {
    words <- cases[[k]]
    words[2] <- file.path(demo, words[2])
    said <- capture.output(status <- run_command(c(words, "--format", "json", "--quiet")))
    expect_identical(status, 0L)
    expect_identical(faults_of(said, names(cases)[k], schema), character(), label = paste(words, collapse = " "))
  }
})

test_that("results.json of every demo brief is what the schema says, and a document that is not is found out", {
  for (brief in c("learners.yml", "town_years.yml", "dial.yml")) {
    read <- unsere:::read_brief(demo_file(brief))
    results <- unsere:::brief_results(read, unsere:::brief_study(read))
    text <- unsere:::results_json(results, list(report.html = "0"))
    expect_identical(faults_of(text, "results"), character(), label = brief)
  }
  relation <- as.character(unsere:::as_json(relate(demo_study("dial"), dial, level_db)))
  spoiled <- c("\"r\": -?[0-9.]+" = "\"r\": 1.5", "\"n\": 24" = "\"n\": \"24\"", "\"df\": 22," = "", "\"x\":" = "\"z\":")
  for (k in seq_along(spoiled)) expect_gt(length(faults_of(sub(names(spoiled)[k], spoiled[k], relation), "relation")), 0)
})
