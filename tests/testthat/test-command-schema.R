# What is written as JSON is as the schema that ships says, no key more and none less, by an independent validator.

# The words after `unsere`, named by the kind of what is answered; files of the demo by name.
cases_of_commands <- function(bare, run_folder) {
  list(
    overview = c("look", "learners.csv"), overview = c("look", "learners.xlsx"), overview = c("look", bare),
    relation = c("relate", "learners.csv", "practice_hours", "speaking_score"),
    relation = c("relate", "learners.csv", "study_partner", "speaking_score"),
    relation = c("relate", "learners.csv", "study_partner", "prior_course"),
    relation = c("relate", "learners.csv", "m1", "m2", "--interval=bootstrap", "--seed=1", "--resamples=200"),
    relation = c("relate", bare, "a", "b"),
    matrix = c("matrix", "learners.csv", "practice_hours", "speaking_score", "confidence"),
    matrix = c("matrix", "learners.csv"), matrix = c("matrix", bare),
    matrix = c("matrix", bare, "--missing=listwise", "a", "b"),
    matrix = c("matrix", "learners.csv", "--rows", "practice_hours", "--columns", "speaking_score,confidence"),
    matrices = c("matrix", "learners.csv", "practice_hours", "speaking_score", "confidence", "--by", "centre"),
    pairs = c("matrix", "learners.csv", "practice_hours", "speaking_score", "confidence", "--list"),
    pairs = c("matrix", bare, "--list"),
    line = c("line", "dial.csv", "dial", "level_db", "--at", "4.5,30", "--solve", "55,80"),
    line = c("line", "learners.csv", "practice_hours", "speaking_score", "--shape", "quadratic", "--solve", "60"),
    line = c("line", bare, "a", "b", "--solve", "4", "--at", "1e9"),
    lines = c("line", "learners.csv", "practice_hours", "speaking_score", "--shape", "linear,log"),
    residuals = c("line", "learners.csv", "practice_hours", "speaking_score", "--residuals"),
    predictors = c("rank", "learners.csv", "speaking_score", "practice_hours", "age_years", "--at", "practice_hours=5"),
    predictors = c("rank", bare, "b", "a", "a"), predictors = c("rank", "learners.csv", "m1", "m2", "study_partner"),
    flags = c("flag", "town_years.csv", "ebook_loans", "hives"),
    flags = c("flag", "learners.csv", "commute_min", "listening_score"),
    flags = c("flag", bare, "a", "b", "--time", "a"),
    flags = c("flag", "learners.csv", "commute_min", "listening_score", "--candidates", "centre,age_years"),
    flag_pairs = c("flag", "town_years.csv", "hives"),
    relation = c("relate", "learners.csv", "commute_min", "listening_score", "--given", "centre"),
    relation = c("relate", "learners.csv", "commute_min", "listening_score", "--cluster", "centre"),
    relation = c("relate", "feedback.csv", "practice", "q1"), overview = c("look", "feedback.csv"),
    items = c("items", "learners.csv", "m1", "m2", "m3", "m4", "--by", "centre"),
    items = c("items", "test_items.csv", "q1", "q2", "q3", "--key", "q1=B,q2=D,q3=A"),
    levels = c("levels", "learners.csv", "commute_min", "listening_score"),
    waves = c("waves", "three_terms.csv", "practice_hours", "speaking_score", "--case", "learner", "--time", "term"),
    choices = c(
      "choices", "learners.csv", "practice_hours", "speaking_score", "--given", "age_years", "--permutations", "99",
      "--seed", "1"
    ),
    pooled = c("pool", "learners.csv", "practice_hours", "speaking_score", "--by", "centre", "--moderator", "age_years"),
    relation = c("relate", "survey_2024.csv", "practice_hours", "pv1", "--given", "age_years", "--part", "pv1"),
    line = c("line", "survey_2024.csv", "practice_hours", "pv1"),
    predictors = c("rank", "survey_2024.csv", "pv1", "practice_hours", "age_years"),
    matrix = c("matrix", "survey_2024.csv", "practice_hours", "pv1", "--given", "age_years"),
    plan = c("plan", "--r", "0.3", "--power", "0.8"), plan = c("plan", "--r", "0.2,0.4", "--half-width", "0.1"),
    demonstration = c("demonstrate", "one-case"), verification = c("verify", run_folder)
  )
}

test_that("every command's JSON is what the schema says", {
  demo <- dirname(demo_file("learners.csv"))
  run_folder <- file.path(withr::local_tempdir(), "results")
  run_brief(demo_file("dial.yml"), out = run_folder, quiet = TRUE)
  bare <- csv_file("a,b,c,d", "1,2,5,1", "2,5,5,", "3,1,5,", "4,8,5,2", "5,5,5,", name = "bare.csv")
  cases <- cases_of_commands(bare, run_folder)
  expect_setequal(c(unique(names(cases)), "results", "caution", "intake"), names(jsonlite::fromJSON(
    system.file("schema", "output.json", package = "unsere")
  )[["$defs"]]))
  cases <- lapply(cases, function(words) {
    if (words[2] != bare && !words[1] %in% c("plan", "verify", "demonstrate")) words[2] <- file.path(demo, words[2])
    words
  })
  texts <- lapply(cases, function(words) suppressMessages(json_of(words)))
  answered <- lengths(texts) > 0
  expect_gt(sum(answered), length(cases) - 3)
  faults <- schema_faults(texts[answered], names(cases)[answered])
  expect_identical(unlist(Map(function(words, found) if (length(found)) c(words, found), cases[answered], faults)), NULL)

  # What has JSON has a table too, in both of its other forms: one of each kind.
  for (words in cases[answered & !duplicated(names(cases))]) {
    rows <- utils::read.csv(text = capture.output(run_command(c(words, "--format", "csv", "--quiet"))), check.names = FALSE)
    if (words[1] != "verify") expect_gt(nrow(rows), 0, label = paste(words, collapse = " "))
    table <- capture.output(run_command(c(words, "--format", "markdown", "--quiet")))
    pipes <- lengths(regmatches(table, gregexpr("(?<!\\\\)[|]", table, perl = TRUE)))
    of_table <- pipes[cumsum(pipes == 0) == 0]
    if (words[1] != "verify") expect_match(table, "^[|] ---", all = FALSE, label = paste(words, collapse = " "))
    expect_length(unique(of_table), min(1L, length(of_table)))
  }
})

test_that("results.json of every demo brief is what the schema says, and a document that is not is found out", {
  texts <- lapply(c("learners.yml", "town_years.yml", "dial.yml", "pulse.yml"), function(brief) {
    read <- unsere:::read_brief(demo_file(brief))
    unsere:::json_text(c(unsere:::results_document(unsere:::brief_results(read, unsere:::brief_study(read))), list(
      files = list(report.html = "0")
    )))
  })
  expect_length(unlist(schema_faults(texts, rep("results", 4))), 0)
  relation <- json_of("relate", demo_file("dial.csv"), "dial", "level_db")
  spoiled <- c("\"r\": -?[0-9.]+" = "\"r\": 1.5", "\"n\": 24" = "\"n\": \"24\"", "\"df\": 22," = "", "\"x\":" = "\"z\":")
  documents <- Map(function(from, to) sub(from, to, relation), names(spoiled), spoiled)
  expect_false(any(vapply(documents, identical, NA, relation)))
  expect_true(all(lengths(schema_faults(documents, rep("relation", 4))) > 0))
})

test_that("the schema of briefs takes the demo briefs and refuses what running them refuses", {
  as_word <- function(text) if (text %in% c("true", "false")) text == "true" else text
  as_text <- function(brief) as.character(jsonlite::toJSON(brief, auto_unbox = TRUE, null = "null", digits = NA))
  good <- lapply(c("learners.yml", "town_years.yml", "dial.yml", "pulse.yml"), function(name) {
    as_text(yaml::read_yaml(demo_file(name), handlers = list(seq = as.list, "bool#yes" = as_word, "bool#no" = as_word)))
  })
  expect_length(unlist(schema_faults(good, rep("brief", 4), "brief.json")), 0)
  bad <- list(
    list(data = list(file = "a.csv"), settings = list(confidence = 95)), list(data = list(file = "a.csv"), paris = list()),
    list(data = list(file = "a.csv"), pairs = list(list(x = "a", y = "b", shape = "bent"))), list(title = "none")
  )
  expect_true(all(lengths(schema_faults(lapply(bad, as_text), rep("brief", 4), "brief.json")) > 0))
})
