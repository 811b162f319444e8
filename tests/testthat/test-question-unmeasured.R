# How strong an unmeasured confounder would have to be: against confounders made to be just that strong.

#' A variable whose correlations with x and y are both `each`
confounder <- function(x, y, each, out = NULL) {
  n <- length(x)
  unit <- function(v) (v - mean(v)) / sqrt(sum((v - mean(v))^2))
  x <- unit(x)
  y <- unit(y)
  r <- sum(x * y)
  apart <- unit(qr.resid(qr(cbind(rep(1, n), x, y, out)), rnorm(n)))
  share <- each / (1 + r)
  share * (x + y) + sqrt(1 - each^2 * 2 / (1 + r)) * apart
}

test_that("a confounder at the threshold makes r just fail to be significant", {
  set.seed(4)
  for (n in c(25, 80, 400)) for (sign in c(1, -1)) {
    x <- rnorm(n)
    y <- sign * .6 * x + .8 * rnorm(n)
    found <- relate(data.frame(x, y), x, y, interval = "analytic", unmeasured = TRUE)
    z <- if (sign > 0) confounder(x, y, found$unmeasured$each) else confounder(x, -y, found$unmeasured$each)
    partial <- relate(data.frame(x, y, z), x, y, given = z, interval = "analytic")
    expect_equal(partial$p, .05, tolerance = 1e-8)
    expect_equal(found$unmeasured$each^2, found$unmeasured$impact, tolerance = 1e-12)
  }
})

test_that("with control variables it is a further one, and measured ones are compared", {
  set.seed(6)
  n <- 120
  age <- rnorm(n)
  x <- .5 * age + rnorm(n)
  y <- .5 * age + .8 * x + rnorm(n)
  data <- data.frame(x, y, age, other = rnorm(n), twin = x + 1e-3 * rnorm(n))
  found <- relate(data, x, y, given = age, interval = "analytic", unmeasured = TRUE)
  left <- qr.resid(qr(cbind(1, age)), cbind(x, y))
  z <- confounder(left[, 1], left[, 2], found$unmeasured$each, age)
  again <- relate(data.frame(data, z), x, y, given = c(age, z), interval = "analytic")
  expect_equal(again$p, .05, tolerance = 1e-6)
  plain <- relate(data, x, y, interval = "analytic", unmeasured = TRUE)$unmeasured
  # A twin of x is no confounder of x.
  expect_identical(plain$measured, 2L)
  expect_identical(plain$strongest, "age")
  expect_equal(
    plain$strongest_impact, relate(data, x, age)$r * relate(data, y, age)$r,
    tolerance = 1e-10
  )
})

test_that("the groups of a variable are compared, too, and flags always tell it", {
  learners <- demo_study("learners")
  tied <- relate(learners, commute_min, listening_score, interval = "analytic", unmeasured = TRUE)
  expect_identical(tied$unmeasured$strongest, "centre")
  expect_gt(tied$unmeasured$stronger, 0)
  expect_match(paste(format(tied), collapse = " "), "centre")
  # By the interval over the centres there is nothing to explain.
  expect_null(flag_spurious(learners, commute_min, listening_score)$unmeasured)
  flags <- flag_spurious(learners, practice_hours, speaking_score)
  expect_gt(flags$unmeasured$measured, 5)
  tied <- flag_spurious(demo_study("town_years"), warm_days, pool_visits)
  expect_gt(tied$unmeasured$each, .5)
  expect_null(flag_spurious(demo_study("town_years"), ebook_loans, hives)$unmeasured)
})

test_that("without significance nothing is told, and a design has its own threshold", {
  set.seed(9)
  none <- data.frame(x = rnorm(60), y = rnorm(60))
  expect_null(relate(none, x, y, unmeasured = TRUE)$unmeasured)
  classes <- data.frame(class = rep(1:20, each = 15), x = rnorm(300) + rep(rnorm(20), each = 15))
  classes$y <- .5 * classes$x + rnorm(300) + rep(rnorm(20), each = 15)
  simple <- relate(classes, x, y, unmeasured = TRUE)$unmeasured
  drawn <- relate(set_design(as_study(classes), cluster = class), x, y, unmeasured = TRUE)$unmeasured
  expect_gt(drawn$least_r, simple$least_r)
  expect_error(
    relate(demo_study("learners"), confidence, m1, coefficient = "tau-b", unmeasured = TRUE),
    class = "unsere_error_usage"
  )
})
