learners <- demo_study("learners")

test_that("a matrix gives its numbers as a matrix, a rectangle too", {
  found <- correlation_matrix(learners, practice_hours, speaking_score, confidence)
  r <- as.matrix(found)
  expect_identical(rownames(r), c("practice_hours", "speaking_score", "confidence"))
  expect_equal(r, t(r))
  expect_equal(unname(diag(r)), c(1, 1, 1))
  expect_identical(r["practice_hours", "speaking_score"], found$pairs$r[1])
  expect_identical(as.matrix(found, what = "n")["confidence", "speaking_score"], 224)
  expect_identical(as.matrix(found, what = "p_adjusted")["confidence", "speaking_score"], found$pairs$p_adjusted[3])
  wide <- as.matrix(correlation_matrix(learners, rows = speaking_score, columns = c(practice_hours, age_years)))
  expect_identical(dimnames(wide), list("speaking_score", c("practice_hours", "age_years")))
  expect_error(as.matrix(found, what = "t"), class = "unsere_error_usage")
})

test_that("intervals, covariances and tidy rows are those of the results", {
  line <- fit_line(learners, practice_hours, speaking_score)
  expect_equal(unname(confint(line)), cbind(line$terms$ci_low, line$terms$ci_high), tolerance = 1e-10)
  expect_equal(unname(sqrt(diag(vcov(line)))), line$terms$se, tolerance = 1e-10)
  bent <- fit_line(learners, practice_hours, speaking_score, shape = "quadratic")
  expect_equal(unname(sqrt(diag(vcov(bent)))), bent$terms$se, tolerance = 1e-7)
  found <- relate(learners, practice_hours, speaking_score)
  expect_equal(as.vector(confint(found)), c(found$ci_low, found$ci_high))
  expect_error(confint(found, level = .9), "Ask anew|another level", class = "unsere_error_usage")
  skip_if_not_installed("generics")
  expect_identical(generics::tidy(line)$term, c("intercept", "slope"))
  expect_identical(generics::glance(line)$r_squared, line$r_squared)
  rows <- generics::augment(line)
  expect_equal(rows$speaking_score - rows$fitted, rows$residual, tolerance = 1e-12)
  expect_identical(generics::tidy(found)$r, found$r)
})

test_that("a result in a document is a table and a sentence, not the text of a terminal", {
  skip_if_not_installed("knitr")
  for (result in list(
    relate(learners, practice_hours, speaking_score),
    correlation_matrix(learners, practice_hours, age_years, speaking_score),
    check_items(learners, m1, m2, m3, m4), plan_size(r = .3, power = .8)
  )) {
    text <- as.character(knitr::knit_print(result))
    expect_match(text, "| --- |", fixed = TRUE)
    expect_match(text, in_words(result), fixed = TRUE)
  }
})

test_that("results keep through a file, and print and plot as they are", {
  for (result in list(
    relate(learners, practice_hours, speaking_score), fit_line(learners, practice_hours, speaking_score),
    correlation_matrix(learners, practice_hours, speaking_score), overview(learners), plan_size(r = .3, power = .8),
    check_items(learners, m1, m2, m3, m4)
  )) {
    file <- tempfile(fileext = ".rds")
    saveRDS(result, file)
    expect_identical(format(readRDS(file)), format(result))
    expect_identical(summary(result), result)
  }
  withr::with_pdf(tempfile(fileext = ".pdf"), {
    expect_s3_class(plot(plan_size(r = .3, power = .8)), "ggplot")
    expect_error(plot(overview(learners)), "no figure", class = "unsere_error_usage")
  })
})
