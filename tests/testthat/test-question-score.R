data <- data.frame(
  q1 = c(1, 2, 3, 4, NA, 5, 2, 1), q2 = c(2, 2, 4, 4, NA, 5, 3, 1), q3 = c(5, 4, 2, 3, 1, NA, 4, 4),
  w = c("B", "C")[c(1, 2, 1, 1, 2, 1, 2, 2)]
)

test_that("a score is the mean or sum of what was answered, with as many answers as are asked for", {
  study <- score(data, "all", c(q1, q2, q3), reverse = q3)
  turned <- 6 - data$q3
  expect_equal(study$data$all, rowMeans(cbind(data$q1, data$q2, turned)))
  some <- score(study, "some", c("q1", "q2", "q3"), least = 2, how = "sum", reverse = "q3", label = "Effort")
  expect_equal(some$data$some[6], 15)
  expect_identical(some$data$some[5], NA_real_)
  expect_identical(codebook(some)$label[6], "Effort")
  expect_match(codebook(some)$source[6], "sum of q1, q2, q3, q3 reversed, of 2 answers or more", fixed = TRUE)
  expect_equal(score(data, "s", c(w, q1), how = "sum", key = "w=B")$data$s[1:2], c(2, 2))
  wide <- score(set_variable(as_study(data), q3, range = "1 to 7"), "s", c(q1, q3), reverse = q3)
  expect_equal(wide$data$s[1], mean(c(1, 8 - 5)))
})

test_that("what a score cannot be made of is said", {
  expect_error(score(data, "q1", c(q1, q2)), "already", class = "unsere_error_input")
  expect_error(score(data, "s", q1), "two items", class = "unsere_error_usage")
  expect_error(score(data, "s", c(q1, q2), least = 3), "from 1 to 2", class = "unsere_error_usage")
  expect_error(score(data, "s", c(q1, q2), reverse = q3), "not one of the items", class = "unsere_error_usage")
  words <- data.frame(q = c("Paris", "Rome", "Oslo", "Bern"), k = 1:4)
  expect_error(score(words, "s", c(q, k)), "without an order", class = "unsere_error_input")
})

test_that("a brief makes scores before it asks about them, and a relation with a part says so", {
  folder <- withr::local_tempdir()
  file.copy(demo_file("learners.csv"), folder)
  brief <- file.path(folder, "b.yml")
  writeLines(c(
    "title: t", "data: {file: learners.csv, missing_codes: [-9]}",
    "scores: {motivation: {items: [m1, m2, m3, m4, m5, m6], reverse: [m4], least: 4, label: Motivation}}",
    "pairs: [{x: motivation, y: speaking_score}]", "report: {formats: [html]}"
  ), brief)
  run_brief(brief, out = file.path(folder, "out"), quiet = TRUE)
  found <- jsonlite::fromJSON(file.path(folder, "out", "results.json"), simplifyVector = FALSE)$pairs[[1]]$relation
  study <- score(demo_study("learners"), "motivation", m1:m6, least = 4, reverse = m4)
  expect_equal(found$r, relate(study, motivation, speaking_score)$r)
  expect_true("part_whole" %in% cautions(relate(study, motivation, m2))$code)
  expect_identical(nrow(verify_results(file.path(folder, "out"))$different), 0L)
  writeLines(sub("m6", "m9", readLines(brief)), brief)
  expect_error(run_brief(brief, quiet = TRUE), "m9.*scores|scores.*m9|m9", class = "unsere_error_input")
})
