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
  expect_error(confint(found, level = .9), "another confidence level", class = "unsere_error_usage")
  skip_if_not_installed("generics")
  terms <- generics::tidy(line)
  expect_identical(terms$term, c("intercept", "slope"))
  expect_identical(terms$std.error, line$terms$se)
  expect_equal(terms$estimate / terms$std.error, terms$statistic, tolerance = 1e-12)
  expect_identical(generics::glance(line)$r.squared, line$r_squared)
  expect_identical(generics::glance(line)$nobs, line$n)
  rows <- generics::augment(line)
  expect_equal(rows$speaking_score - rows$.fitted, rows$.resid, tolerance = 1e-12)
  pair <- generics::tidy(found)
  expect_identical(c(pair$estimate, pair$p.value, pair$conf.high), c(found$r, found$p, found$ci_high))
  expect_equal(pair$std.error, sqrt(found$z_variance) * (1 - found$r^2), tolerance = 1e-12)
  expect_identical(generics::glance(found)$nobs, found$n)
})

test_that("every result is a table by the customary names, a tibble where there is one", {
  skip_if_not_installed("generics")
  results <- list(
    correlation_matrix(learners, practice_hours, age_years, speaking_score),
    rank_predictors(learners, speaking_score, practice_hours, age_years),
    relate_levels(learners, commute_min, listening_score, group = centre),
    pool_relations(learners, practice_hours, speaking_score, by = centre),
    vary_choices(learners, practice_hours, speaking_score, permutations = 99, seed = 1),
    relate_waves(demo_study("three_terms"), practice_hours, speaking_score, case = learner, time = term)
  )
  for (result in results) {
    rows <- generics::tidy(result)
    expect_true(all(c("estimate", "conf.low", "conf.high", "nobs") %in% names(rows)), label = class(result)[1])
    if (requireNamespace("tibble", quietly = TRUE)) expect_s3_class(rows, "tbl_df")
  }
  expect_identical(generics::glance(results[[4]])$tau, results[[4]]$tau)
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

test_that("the covariances of a line are those of its own errors: by a design, of moments, with a bend", {
  drawn <- set_design(learners, cluster = centre)
  moments <- gather_moments(demo_file("learners.csv"), variables = c("practice_hours", "speaking_score"))
  for (line in list(
    fit_line(drawn, practice_hours, speaking_score), fit_line(drawn, practice_hours, speaking_score, shape = "quadratic"),
    fit_line(learners, practice_hours, speaking_score, shape = "log"),
    fit_line(moments, practice_hours, speaking_score)
  )) {
    covariance <- vcov(line)
    expect_equal(unname(sqrt(diag(covariance))), line$terms$se, tolerance = 1e-7)
    # What they are for: the error of the line at some x.
    if (line$shape == "linear") {
      at <- predict_y(line, at = 5)
      half <- qt(.975, line$terms$df[1]) * sqrt(drop(c(1, 5) %*% covariance %*% c(1, 5)))
      expect_equal(at$mean_high - at$fit, half, tolerance = 1e-8)
    }
  }
  expect_true(all(is.na(vcov(fit_line(data.frame(a = 1:5, b = 2 * (1:5)), a, b)))))
})

test_that("a study has R's own verbs: subset, plot, a document", {
  older <- subset(learners, age_years >= 30 & centre != "Mill", select = c(age_years, speaking_score))
  plain <- as.data.frame(learners)
  expect_equal(dim(as.data.frame(older)), c(sum(plain$age_years >= 30 & plain$centre != "Mill", na.rm = TRUE), 2))
  expect_identical(codebook(older)$label, c("Age", "Speaking score"))
  expect_identical(subset(learners, select = "age_years"), learners[, "age_years"])
  expect_error(subset(learners, age_years), "TRUE or FALSE", class = "unsere_error_usage")
  expect_s3_class(ggplot2::autoplot(older), "ggplot")
  expect_error(ggplot2::autoplot(overview(learners)), "no figure", class = "unsere_error_usage")
  skip_if_not_installed("tibble")
  expect_equal(as.data.frame(tibble::as_tibble(older)), as.data.frame(older))
  expect_identical(tibble::as_tibble(relate(learners, m1, m2))$coefficient, "spearman")
  skip_if_not_installed("knitr")
  expect_match(as.character(knitr::knit_print(older)), "2 variables", fixed = TRUE)
})

test_that("every kind of result goes through JSON, each number as it was", {
  line <- fit_line(learners, practice_hours, speaking_score)
  relation <- relate(learners, practice_hours, speaking_score)
  other <- relate(learners, attendance_pct, speaking_score)
  for (result in list(relation, line, compare_relations(relation, other), plan_size(r = .3, power = .8))) {
    back <- jsonlite::fromJSON(in_json(result))
    numbers <- Filter(function(field) is.double(field) && length(field) == 1L && is.finite(field), unclass(result))
    expect_gt(length(numbers), 2)
    for (name in setdiff(intersect(names(numbers), names(back)), "p")) {
      expect_identical(as.double(back[[name]]), unname(numbers[[name]]), label = name)
    }
  }
  expect_identical(jsonlite::fromJSON(in_json(predict_y(line, at = 5)))$predictions$fit, predict_y(line, at = 5)$fit)
  expect_identical(jsonlite::fromJSON(in_json(estimate_x(line, 60)))$solutions$x, estimate_x(line, 60)$x)
  expect_identical(jsonlite::fromJSON(in_json(cautions(relation)))$cautions$code, cautions(relation)$code)
  expect_identical(jsonlite::fromJSON(in_json(advise(learners, practice_hours, confidence)))$coefficient, "spearman")
  expect_error(in_json(1), "no JSON", class = "unsere_error_usage")
  expect_identical(class(cautions(relation)[, 1:4]), "data.frame")
})

test_that("a document that is knit shows the strip as a picture, and what is doubtful", {
  skip_if_not_installed("knitr")
  withr::with_tempdir({
    writeLines(c(
      "```{r}", "library(unsere)", "relate(demo_study(), practice_hours, speaking_score)",
      "relate(demo_study(), practice_hours, speaking_score, confidence = 0.8)",
      "relate_levels(demo_study(), practice_hours, speaking_score, group = centre)", "```"
    ), "a.Rmd")
    text <- paste(readLines(knitr::knit("a.Rmd", quiet = TRUE), encoding = "UTF-8"), collapse = "\n")
    pictures <- regmatches(text, gregexpr("figure/[^)]+[.]png", text))[[1]]
    expect_length(unique(pictures), 2)
    expect_true(all(file.size(pictures) > 1000))
    expect_match(text, "r = .73, interval from .66 to .78", fixed = TRUE)
    expect_match(text, "10^\u221237^", fixed = TRUE)
    expect_match(text, "- *warning*: Curvilinear relationship (bending down)", fixed = TRUE)
    expect_match(text, "| between groups | .85 |", fixed = TRUE)
  })
})
