# A question gives the same document in R, by command and by a brief; only advice is worded for the reader.

asked_in_brief <- function(file, section) {
  folder <- tempfile()
  dir.create(folder)
  file.copy(c(demo_file(file), demo_file("codebook.csv")), folder)
  path <- file.path(folder, "brief.yml")
  writeLines(c(
    sprintf("data: {file: %s, codebook: codebook.csv}", file), section,
    "report: {formats: [html]}", "share: {names: own, least: 1}"
  ), path)
  read <- unsere:::read_brief(path)
  text <- unsere:::json_text(unsere:::results_document(unsere:::brief_results(read, unsere:::brief_study(read))))
  jsonlite::fromJSON(text, simplifyVector = FALSE)
}

without_advice <- function(document) {
  document$cautions <- lapply(document$cautions, function(caution) caution[names(caution) != "advice"])
  document
}

expect_same_documents <- function(in_r, words, in_brief, label) {
  by_function <- jsonlite::fromJSON(unsere:::as_json(in_r), simplifyVector = FALSE)
  by_command <- jsonlite::fromJSON(json_of(words), simplifyVector = FALSE)
  expect_gt(length(by_function), 5, label = label)
  expect_identical(without_advice(by_command), without_advice(by_function), label = paste(label, "by command"))
  if (!is.null(in_brief)) {
    expect_identical(without_advice(in_brief), without_advice(by_function), label = paste(label, "by brief"))
  }
}

test_that("a relation is the same through every door, whatever is asked of it", {
  learners <- demo_study("learners")
  file <- demo_file("learners.csv")
  cases <- list(
    list(x = "practice_hours", y = "speaking_score"),
    list(x = "commute_min", y = "listening_score", coefficient = "spearman", expect = "negative"),
    list(x = "study_partner", y = "speaking_score", confidence = 0.9, strength = "gignac"),
    list(x = "study_partner", y = "prior_course", test = "exact"), list(x = "m1", y = "m4"),
    list(x = "m2", y = "m3", interval = "bootstrap", test = "permutation", seed = 3, resamples = 499)
  )
  settings <- c("confidence", "strength", "seed", "resamples")
  for (case in cases) {
    label <- paste(unlist(case), collapse = " ")
    options <- case[-(1:2)]
    words <- if (length(options)) sprintf("--%s=%s", names(options), vapply(options, format, ""))
    of_pair <- case[setdiff(names(case), settings)]
    section <- c(
      sprintf("pairs: [{%s}]", paste0("\"", names(of_pair), "\": ", of_pair, collapse = ", ")),
      if (any(settings %in% names(case))) {
        own <- case[intersect(names(case), settings)]
        sprintf("settings: {%s}", paste0(names(own), ": ", own, collapse = ", "))
      }
    )
    found <- do.call(relate, c(list(learners), case))
    in_brief <- asked_in_brief("learners.csv", section)$pairs[[1]]$relation
    expect_same_documents(found, c("relate", file, case$x, case$y, words), in_brief, label)
  }
})

test_that("a line with what is predicted from it is the same through every door, its cautions included", {
  dial <- demo_study("dial")
  learners <- demo_study("learners")
  section <- "pairs: [{x: dial, \"y\": level_db, predict_at: [4.5, 40], solve: [55]}]"
  beyond <- asked_in_brief("dial.csv", section)$pairs[[1]]$line
  expect_true("outside_data" %in% vapply(beyond$cautions, `[[`, "", "code"))
  expect_same_documents(
    fit_line(dial, dial, level_db, at = c(4.5, 40), solve = 55),
    c("line", demo_file("dial.csv"), "dial", "level_db", "--at", "4.5,40", "--solve=55"), beyond, "dial"
  )
  for (shape in c("log", "quadratic")) {
    section <- sprintf("pairs: [{x: practice_hours, \"y\": speaking_score, shape: %s}]", shape)
    expect_same_documents(
      fit_line(learners, practice_hours, speaking_score, shape = shape),
      c("line", demo_file("learners.csv"), "practice_hours", "speaking_score", "--shape", shape),
      asked_in_brief("learners.csv", section)$pairs[[1]]$line, shape
    )
  }
})

test_that("a matrix, a ranking and flags are the same through every door", {
  learners <- demo_study("learners")
  file <- demo_file("learners.csv")
  chosen <- c("practice_hours", "speaking_score", "confidence", "study_partner")
  listed <- paste(chosen, collapse = ", ")
  section <- sprintf("matrix: {variables: [%s], missing: listwise, highlight: 0.3, multiplicity: none}", listed)
  expect_same_documents(
    correlation_matrix(learners, chosen, missing = "listwise", highlight = .3, multiplicity = "none"),
    c("matrix", file, chosen, "--missing=listwise", "--highlight=.3", "--multiplicity=none"),
    asked_in_brief("learners.csv", section)$matrix, "matrix"
  )
  section <- paste(
    "rank: {outcome: speaking_score, predictors: [practice_hours, attendance_pct, m1],",
    "predict_at: {practice_hours: 30}}"
  )
  expect_same_documents(
    rank_predictors(learners, speaking_score, practice_hours, attendance_pct, m1, at = list(practice_hours = 30)),
    c("rank", file, "speaking_score", "practice_hours", "attendance_pct", "m1", "--at=practice_hours=30"),
    asked_in_brief("learners.csv", section)$rank, "rank"
  )
  expect_same_documents(
    flag_spurious(demo_study("town_years"), ebook_loans, cycle_path_km, time = year),
    c("flag", demo_file("town_years.csv"), "ebook_loans", "cycle_path_km", "--time=year"),
    asked_in_brief("town_years.csv", "spurious: {time: year, pairs: [[ebook_loans, cycle_path_km]]}")$flags[[1]], "flag"
  )
  expect_same_documents(
    check_items(learners, m1, m2, m3, m4, reverse = m4), c("items", file, "m1", "m2", "m3", "m4", "--reverse=m4"),
    asked_in_brief("learners.csv", "items: {variables: [m1, m2, m3, m4], reverse: [m4]}")$items, "items"
  )
  expect_same_documents(
    relate_waves(demo_study("three_terms"), practice_hours, speaking_score, case = learner, time = term), c(
      "waves", demo_file("three_terms.csv"), "practice_hours", "speaking_score", "--case=learner", "--time=term"
    ), asked_in_brief(
      "three_terms.csv", "waves: [{x: practice_hours, \"y\": speaking_score, case: learner, time: term}]"
    )$waves[[1]], "waves"
  )
  expect_same_documents(
    vary_choices(learners, practice_hours, speaking_score, given = age_years, permutations = 99, seed = 7),
    c("choices", file, "practice_hours", "speaking_score", "--given=age_years", "--permutations=99", "--seed=7"),
    asked_in_brief("learners.csv", paste(
      "choices: [{x: practice_hours, \"y\": speaking_score, given: [age_years], permutations: 99}]\nsettings: {seed: 7}"
    ))$choices[[1]], "choices"
  )
  expect_same_documents(
    pool_relations(learners, practice_hours, speaking_score, by = centre, moderator = age_years),
    c("pool", file, "practice_hours", "speaking_score", "--by=centre", "--moderator=age_years"), asked_in_brief(
      "learners.csv", "pool: [{x: practice_hours, \"y\": speaking_score, by: centre, moderator: age_years}]"
    )$pooled[[1]], "pool"
  )
  expect_same_documents(overview(learners), c("look", file), NULL, "look")
})

test_that("the arguments of R's functions are those of the declarations, with the same defaults", {
  for (question in unsere:::questions()) {
    formals <- formals(get(question$call, asNamespace("unsere")))
    declared <- Filter(function(one) "r" %in% one$doors, question$arguments)
    expect_true(all(names(declared) %in% names(formals)), label = question$name)
    for (name in names(declared)) {
      default <- eval(formals[[name]])
      expect_equal(default, declared[[name]]$default, label = paste(question$name, name))
    }
  }
  calls <- unsere:::calls_in_r
  for (name in names(unsere:::questions())) expect_identical(calls[[name]], unsere:::questions()[[name]]$call)
})
