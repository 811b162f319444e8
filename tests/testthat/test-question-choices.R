# One pair under every choice: each analysis is relate()'s, and the joint test keeps its level.

set.seed(14)
n <- 90
age <- rnorm(n)
data <- data.frame(x = 1.2 * age + rnorm(n), age, other = rnorm(n))
data$y <- 1.2 * age + rnorm(n)
data$other[c(3, 40, 71)] <- NA
data$x[90] <- 9
data$y[90] <- 8

test_that("each row is what relate() gives for these cases, controls and coefficient", {
  found <- vary_choices(data, x, y, given = c(age, other), permutations = 99, seed = 1)
  rows <- found$choices
  expect_identical(found$influential, c("row 17", "row 90"))
  expect_false(is.unsorted(rows$r))
  expect_identical(found$k, nrow(rows))
  pick <- function(coefficient, cases, controls, missing) {
    rows[rows$coefficient == coefficient & rows$cases == cases & rows$controls == controls & rows$missing == missing, ]
  }
  expect_equal(pick("pearson", "all", "none", "pairwise")$r, relate(data, x, y)$r, tolerance = 1e-12)
  expect_equal(
    pick("spearman", "without influential", "age", "pairwise")$p,
    relate(data[-c(17, 90), ], x, y, coefficient = "spearman", given = age)$p,
    tolerance = 1e-10
  )
  whole <- data[!is.na(data$other), ]
  expect_equal(pick("pearson", "all", "age", "listwise")$ci_low, relate(whole, x, y, given = age)$ci_low, tolerance = 1e-10)
  # With every control in, pairwise and listwise are one.
  expect_identical(nrow(rows[rows$controls == "age + other" & rows$coefficient == "pearson" & rows$cases == "all", ]), 1L)
  expect_equal(found$median, tanh(median(atanh(rows$r))), tolerance = 1e-12)
  expect_identical(found$decisions$decision[1], "controls")
  expect_match(in_words(found), "what is controlled for")
})

test_that("the joint test sees what is beyond the controls, and its seed gives it again", {
  sound <- data[-90, ]
  none <- vary_choices(sound, x, y, given = age, permutations = 199, seed = 3)
  expect_gt(none$p, .05)
  expect_lt(relate(sound, x, y)$p, .05)
  sound$y <- sound$y + .8 * sound$x
  tied <- vary_choices(sound, x, y, given = age, permutations = 199, seed = 3)
  expect_lt(tied$p, .02)
  expect_identical(vary_choices(sound, x, y, given = age, permutations = 199, seed = 3)$p, tied$p)
  set.seed(5)
  before <- runif(1)
  set.seed(5)
  vary_choices(sound, x, y, permutations = 99, seed = 3)
  expect_identical(runif(1), before)
})

test_that("declared versions join, and too many analyses are refused", {
  more <- data
  more$log_y <- log(more$y - min(more$y) + 1)
  found <- vary_choices(more, x, y, y_also = log_y, permutations = 99, seed = 1)
  expect_setequal(found$choices$y, c("y", "log_y"))
  expect_true("y" %in% found$decisions$decision)
  for (k in 1:7) more[[paste0("v", k)]] <- rnorm(n)
  many <- vary_choices(more, x, y, given = c(v1, v2, v3, v4, v5, v6, v7), permutations = 99, seed = 1)
  expect_lte(many$k, 64L)
  expect_error(
    vary_choices(more, x, y, x_also = c(v1, v2, v3, v4), y_also = c(v5, v6, v7, log_y), permutations = 99),
    "at most 64",
    class = "unsere_error_usage"
  )
  expect_error(vary_choices(more, x, y, given = x), class = "unsere_error_usage")
  expect_s3_class(draw_choices(found), "ggplot")
})
