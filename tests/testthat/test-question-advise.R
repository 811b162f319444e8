learners <- demo_study("learners")

test_that("each combination of levels gets its coefficient, with the reason in the relation too", {
  cases <- list(
    c("practice_hours", "speaking_score", "pearson"), c("confidence", "speaking_score", "spearman"),
    c("m1", "m2", "spearman"),
    c("study_partner", "speaking_score", "point-biserial"), c("study_partner", "prior_course", "phi"),
    c("confidence", "study_partner", "spearman")
  )
  for (case in cases) {
    advice <- advise(learners, case[1], case[2])
    found <- relate(learners, case[1], case[2])
    expect_identical(c(advice$coefficient, found$coefficient), c(case[3], case[3]))
    expect_match(gsub("\\s+", " ", paste(format(found), collapse = " ")), advice$reason, fixed = TRUE)
    expect_gt(length(advice$also), 1)
  }
})

test_that("one variable, and one without order, are told what can be done", {
  expect_match(format(advise(learners, confidence)), "another ordinal variable, by ranks", all = FALSE)
  expect_identical(advise(learners, centre, speaking_score)$coefficient, "eta")
  expect_identical(advise(learners, centre, study_partner)$coefficient, "cramers-v")
  expect_match(format(advise(learners, centre)), "split the relation", all = FALSE)
  expect_error(advise(learners, nosuch), class = "unsere_error_input")
})

test_that("a measure taken twice is noticed", {
  twice <- data.frame(score_pre = c(1.5, 2, 3), score_post = c(2, 3.5, 4), anger = c(3, 1.5, 2))
  expect_match(format(advise(twice, score_pre, score_post)), "taken twice", all = FALSE)
  expect_no_match(format(advise(twice, score_pre, anger)), "taken twice")
})
