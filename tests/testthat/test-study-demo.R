learners <- demo_study("learners")

r_of <- function(data, x, y) relate(data, x, y)$r

test_that("the school has the cases, blanks and missing codes that were planted", {
  expect_equal(dim(learners$data), c(240L, 17L))
  raw <- utils::read.csv(demo_file("learners.csv"))
  expect_equal(
    colSums(is.na(raw))[c("practice_hours", "listening_score", "speaking_score", "commute_min", "m2", "m5")],
    c(practice_hours = 10, listening_score = 7, speaking_score = 8, commute_min = 3, m2 = 4, m5 = 6)
  )
  expect_equal(
    colSums(raw == -9, na.rm = TRUE)[c("confidence", "age_years", "m2", "m6")],
    c(confidence = 9, age_years = 5, m2 = 3, m6 = 4)
  )
  expect_equal(sum(is.na(learners$data$m2)), 7)
})

test_that("the typing error stands where it was planted", {
  expect_equal(learners$data$learner[learners$data$attendance_pct > 100], "L137")
})

test_that("practice bends: its logarithm goes better with speaking", {
  bent <- learners$data
  bent$log_practice <- log(bent$practice_hours)
  expect_gt(r_of(bent, "log_practice", "speaking_score"), r_of(bent, "practice_hours", "speaking_score") + 0.04)
})

test_that("the way to school and listening turn round within every centre", {
  expect_gt(r_of(learners, "commute_min", "listening_score"), 0.3)
  within <- vapply(split(learners$data, learners$data$centre), r_of, 0, "commute_min", "listening_score")
  expect_length(within, 5)
  expect_lt(max(within), -0.3)
})

test_that("one agreement item goes against the others", {
  items <- paste0("m", c(1, 2, 3, 5, 6))
  expect_lt(max(vapply(items, function(item) r_of(learners, "m4", item), 0)), -0.3)
  expect_gt(r_of(learners, "m1", "m6"), 0.3)
})

test_that("the town's series share a trend, and one pair is tied beyond it", {
  town <- demo_study("town_years")$data
  expect_equal(town$year, 1994:2023)
  changes <- as.data.frame(lapply(town, diff))
  for (other in c("hives", "cycle_path_km", "letters_thousand")) {
    expect_gt(abs(r_of(town, "ebook_loans", other)), 0.9)
    expect_lt(abs(r_of(changes, "ebook_loans", other)), 0.35)
  }
  expect_gt(r_of(changes, "warm_days", "pool_visits"), 0.8)
})

test_that("the two pulse weeks share most tutors, and the dial is a line", {
  weeks <- lapply(c("pulse_week_14", "pulse_week_15"), function(name) demo_study(name)$data)
  expect_setequal(setdiff(weeks[[1]]$tutor, weeks[[2]]$tutor), c("T03", "T22", "T31"))
  expect_setequal(setdiff(weeks[[2]]$tutor, weeks[[1]]$tutor), c("T07", "T19", "T40", "T41"))
  expect_gt(r_of(weeks[[1]], "energy", "class_calm"), r_of(weeks[[2]], "energy", "class_calm") + 0.15)
  expect_gt(r_of(demo_study("dial"), "dial", "level_db"), 0.98)
})

test_that("the codebook knows every variable of every file, and an unknown file is answered", {
  for (name in c(
    "learners", "town_years", "pulse_week_14",
    "dial"
  )) expect_false(anyNA(codebook(demo_study(name))$label))
  expect_error(demo_study("learner"), "learners", class = "unsere_error_usage")
})
