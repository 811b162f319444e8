learners <- demo_study("learners")

test_that("Williams' t is that of the published example", {
  # Steiger (1980, p. 246) after Williams: r of one variable with two others, .396 and .179, between them .088, n = 66.
  found <- unsere:::test_williams(.396, .179, .088, 66)
  expect_equal(found$df, 63)
  # Written out: t = (r12 - r13) sqrt((N - 1)(1 + r23) / (2 (N - 1) / (N - 3) |R| + rbar^2 (1 - r23)^3)).
  det <- 1 - .396^2 - .179^2 - .088^2 + 2 * .396 * .179 * .088
  longhand <- (.396 - .179) * sqrt(65 * 1.088 / (2 * 65 / 63 * det + ((.396 + .179) / 2)^2 * (1 - .088)^3))
  expect_equal(found$value, longhand, tolerance = 1e-12)
})

test_that("the tests of two r keep their size when the two are equal", {
  set.seed(20)
  draw <- function(n) {
    common <- rnorm(n)
    matrix(rnorm(n * 4), n) * .8 + .6 * common
  }
  p <- replicate(1500, {
    x <- draw(50)
    r <- cor_table(x)
    c(
      unsere:::test_williams(r[1, 2], r[1, 3], r[2, 3], 50)$p, unsere:::test_steiger(r, 50)$p,
      unsere:::test_two_samples(r[1, 2], 1 / 47, cor_table(draw(30))[1, 2], 1 / 27)$p
    )
  })
  expect_true(all(abs(rowMeans(p < .05) - .05) < .018))
})

test_that("predictors are ranked on the same cases and the lead is tested", {
  found <- rank_predictors(learners, speaking_score, attendance_pct, practice_hours, age_years,
    at = list(practice_hours = 5, attendance_pct = 90)
  )
  expect_identical(found$predictors$x[1], "practice_hours")
  expect_true(all(found$predictors$n == 217) && found$n_dropped == 23)
  expect_match(in_words(found), "significantly ahead of all others")
  expect_equal(found$predictions$at, c(5, 90))
  complete <- stats::complete.cases(learners$data[c("speaking_score", "attendance_pct", "practice_hours", "age_years")])
  alone <- fit_line(learners[complete, ], practice_hours, speaking_score)
  expect_equal(found$predictions$fit[1], predict_y(alone, 5)$fit)
  expect_lte(max(nchar(format(found), "width")), 80)
  mirrored <- learners$data
  mirrored$practice_hours <- -mirrored$practice_hours
  turned <- rank_predictors(
    as_study(mirrored, codebook(learners)), speaking_score, attendance_pct, practice_hours,
    age_years
  )
  expect_equal(turned$comparisons$value, found$comparisons$value, tolerance = 1e-10)
  expect_error(rank_predictors(learners, age_years, age_years, m1), "own predictors", class = "unsere_error_usage")
  expect_error(rank_predictors(learners, age_years, m1), class = "unsere_error_usage")
})

test_that("two relations are compared by what they share", {
  one <- relate(learners, practice_hours, speaking_score)
  set.seed(3)
  normal <- data.frame(a = rnorm(300), b = rnorm(300), y = rnorm(300))
  expect_identical(compare_relations(relate(normal, a, y), relate(normal, b, y))$statistic, "williams t")
  expect_identical(compare_relations(one, relate(learners, attendance_pct, listening_score))$statistic, "steiger z")
  weeks <- compare_relations(relate(demo_study("pulse_week_14"), energy, support), relate(
    demo_study("pulse_week_15"),
    energy, support
  ))
  expect_identical(c(weeks$statistic, weeks$cases), c("fisher z", "different"))
  expect_error(compare_relations(one, one), "same pair", class = "unsere_error_usage")
  expect_error(compare_relations(one, learners), class = "unsere_error_usage")
  expect_true(compare_relations(one, relate(learners, practice_hours, listening_score))$ci_low > 0)
})

test_that("what makes two relations no pair to compare is said, and what the jackknife changes", {
  set.seed(14)
  data <- data.frame(x = rnorm(60), z = rnorm(60), part = rep(c("a", "b"), 30))
  data <- transform(data, y = x + rnorm(60), copy = 3 - 2 * x, flat = rep(c(4, NA), c(40, 20)))
  data$flat[59:60] <- c(5, 6)
  some <- relate(data[1:40, ], x, y)
  all <- relate(data, z, y)
  found <- compare_relations(some, all)
  expect_identical(c(found$cases, found$n_a, found$n_b), c("same", "40", "40"))
  expect_equal(found$r_b, relate(data[1:40, ], z, y)$r)
  expect_match(format(found), "40 that both share (of 40 and 60)", all = FALSE, fixed = TRUE)
  expect_error(compare_relations(some, all, cases = "different"), "40 cases in common", class = "unsere_error_usage")
  expect_error(compare_relations(some, relate(data, x, y)), "same pair", class = "unsere_error_usage")
  expect_identical(compare_relations(some, relate(data[41:60, ], x, y))$cases, "different")
  expect_error(
    compare_relations(relate(data, x, y), relate(data, copy, y)), "the same measure",
    class = "unsere_error_undefined"
  )
  expect_error(compare_relations(some, relate(data, flat, y)), "two relations|constant in all|fewer", class = "unsere_error")
  expect_error(compare_relations(some, relate(data, z, y, confidence = .9)), "confidence", class = "unsere_error_usage")
  ranked <- compare_relations(relate(data, x, y, coefficient = "spearman"), all)
  expect_identical(c(ranked$coefficient_a, ranked$coefficient_b), rep("spearman", 2))
  expect_equal(ranked$r_b, relate(data, z, y, coefficient = "spearman")$r)
  r <- function(rows, name) relate(data[rows, ], !!name, y)$r
  left <- vapply(1:60, function(i) r(-i, "x") - r(-i, "z"), 0)
  spread <- sqrt(59 / 60 * sum((left - mean(left))^2))
  plain <- compare_relations(relate(data, x, y), all)
  expect_equal(plain$jackknife$p, 2 * pt(-abs(plain$difference / spread), 58), tolerance = 1e-9)
  learners <- demo_study("learners")
  binary <- relate(learners, study_partner, prior_course)
  expect_match(format(compare_relations(binary, relate(learners, study_partner, speaking_score))), "φ = ", all = FALSE)
})

test_that("of heavy tails two r are compared by the jackknife, and ranking says what comparing says", {
  tails <- function(seed) {
    set.seed(seed)
    common <- exp(rnorm(100))
    data <- data.frame(x = common, y = .7 * common + .7 * exp(rnorm(100)), z = .7 * common + .7 * exp(rnorm(100)))
    compare_relations(relate(data, x, y), relate(data, x, z))
  }
  found <- lapply(1:70, tails)
  expect_lt(mean(vapply(found, `[[`, 0, "p") < .05), .16)
  by_cases <- Find(function(one) one$statistic == "jackknife t", found)
  expect_match(in_words(by_cases), "\\(jackknife\\)")
  for (seed in 1:5) {
    set.seed(seed)
    data <- data.frame(a = exp(rnorm(60)), b = exp(rnorm(60)))
    data$y <- data$a + exp(rnorm(60))
    ranked <- rank_predictors(data, y, a, b)$comparisons
    pair <- list(relate(data, a, y), relate(data, b, y))
    if (any(vapply(pair, `[[`, 0, "r") < 0)) next
    expect_equal(ranked$p, do.call(compare_relations, pair)$p, tolerance = 1e-12, label = seed)
  }
})

test_that("the figures of lines are drawn from the results", {
  expect_s3_class(draw_scatter(learners, practice_hours, speaking_score,
    shape = "log", at = c(5, 20),
    case_band = TRUE
  ), "ggplot")
  counted <- draw_scatter(learners, m1, m2, means = TRUE)
  expect_match(counted$labels$caption, "number of\\s+cases. Diamonds: means")
  panels <- draw_scatter(learners, commute_min, listening_score, by = centre, panels = TRUE)
  expect_match(panels$labels$title, "in all of 5 groups the\\s+correlation has the opposite")
  fitted <- fit_line(learners, practice_hours, speaking_score)
  expect_match(draw_residuals(fitted)$labels$title, "Curvilinear")
  expect_s3_class(draw_residuals(fitted, kind = "quantiles"), "ggplot")
  expect_error(draw_scatter(learners, practice_hours, speaking_score, panels = TRUE), class = "unsere_error_usage")
  expect_error(draw_scatter(learners, practice_hours, speaking_score, means = TRUE), class = "unsere_error_usage")
  ranking <- rank_predictors(learners, speaking_score, practice_hours, attendance_pct, at = c(practice_hours = 5))
  expect_match(draw_predictors(ranking)$labels$title, "Weekly practice is most strongly\\s+correlated with speaking")
})

test_that("the commands predict, solve, compare and rank", {
  file <- demo_file("learners.csv")
  got <- unsere(
    "line", demo_file("dial.csv"), "dial", "level_db", "--at", "4.5", "--solve", "55,62", "--format",
    "json"
  )
  json <- jsonlite::fromJSON(got$out)
  fit <- fit_line(demo_study("dial"), dial, level_db)
  expect_equal(json$predictions$fit, predict_y(fit, 4.5)$fit, tolerance = 1e-15)
  expect_equal(json$solutions$x_low, estimate_x(fit, c(55, 62))$x_low, tolerance = 1e-15)
  expect_match(unsere("line", file, "practice_hours", "speaking_score", "--shape", "linear,log")$out,
    "log line fits best",
    all = FALSE
  )
  expect_match(unsere("line", file, "practice_hours", "speaking_score", "--residuals")$out, "L024", all = FALSE)
  ranked <- unsere(
    "rank", file, "speaking_score", "practice_hours", "attendance_pct", "--at", "practice_hours=5",
    "--format", "json"
  )
  expect_identical(jsonlite::fromJSON(ranked$out)$kind, "predictors")
  expect_equal(unsere("rank", file, "speaking_score", "practice_hours", "attendance_pct", "--at", "5")$status, 2)
  expect_equal(unsere("line", file, "practice_hours", "speaking_score", "--at", "five")$status, 2)
  out <- withr::local_tempfile(fileext = ".png")
  expect_equal(unsere(
    "draw", "predictors", file, "speaking_score", "practice_hours", "attendance_pct", "--out",
    out
  )$status, 0)
  expect_equal(unsere("draw", "residuals", file, "practice_hours", "speaking_score", "--out", out)$status, 0)
})
