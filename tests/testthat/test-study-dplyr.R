test_that("the verbs of dplyr keep what is known of cases and variables", {
  skip_if_not_installed("dplyr")
  works <- tryCatch(dplyr::mutate(data.frame(a = 1), b = a + 1)$b == 2, error = function(e) FALSE)
  skip_if(!works, "the dplyr of this machine does not fit its other packages")
  learners <- demo_study("learners")
  frame <- learners$data
  some <- dplyr::filter(learners, centre == "Mill", !is.na(speaking_score))
  expect_s3_class(some, "unsere_study")
  expect_identical(codebook(some)$label, codebook(learners)$label)
  expect_identical(some$data$learner, dplyr::filter(frame, centre == "Mill", !is.na(speaking_score))$learner)
  alone <- learners[which(frame$centre == "Mill"), ]
  expect_identical(
    relate(dplyr::filter(learners, centre == "Mill"), practice_hours, speaking_score)$r,
    relate(alone, practice_hours, speaking_score)$r
  )
  turned <- dplyr::arrange(learners, dplyr::desc(age_years))
  expect_equal(relate(turned, practice_hours, speaking_score)$r, relate(learners, practice_hours, speaking_score)$r)
  expect_identical(dplyr::slice(turned, 1:3)$data$age_years, sort(frame$age_years, decreasing = TRUE)[1:3])
  few <- dplyr::select(learners, learner, hours = practice_hours, dplyr::ends_with("_score"))
  expect_identical(codebook(few)$variable, c("learner", "hours", "listening_score", "speaking_score"))
  expect_identical(codebook(few)$label[2], "Weekly practice")
  expect_identical(relate(few, hours, speaking_score)$n, relate(learners, practice_hours, speaking_score)$n)
  expect_identical(codebook(dplyr::relocate(few, speaking_score))$variable[1], "speaking_score")
  more <- dplyr::mutate(learners, both = listening_score + speaking_score, practice_hours = practice_hours * 60, m1 = NULL)
  expect_identical(codebook(more)$label[codebook(more)$variable == "practice_hours"], "Weekly practice")
  expect_false("m1" %in% codebook(more)$variable)
  expect_identical(dplyr::pull(more, both), frame$listening_score + frame$speaking_score)
  expect_error(dplyr::mutate(learners, bad = list(1)), "single values", class = "unsere_error_input")
  classes <- demo_study("survey_2024")
  drawn <- set_plausible(set_design(classes, weight = w_final, cluster = class), "reading", c(pv1, pv2))
  named <- dplyr::rename(drawn, weight = w_final, first = pv1)
  expect_equal(relate(named, practice_hours, reading)$r, relate(drawn, practice_hours, reading)$r)
  # A variable called as the mark would be is left in peace.
  expect_identical(names(dplyr::slice(as_study(data.frame(.place = 1:4, b = 4:1)), 2:3)$data), c(".place", "b"))
})
