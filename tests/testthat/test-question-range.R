# r corrected for a restricted range, against the formulas written out and a population that is known.

set.seed(12)
applicants <- data.frame(x = rnorm(4000))
applicants$y <- .6 * applicants$x + .8 * rnorm(4000)
applicants$third <- .7 * applicants$x + sqrt(.51) * rnorm(4000)
admitted <- applicants[applicants$x > .3, ]

test_that("a direct restriction is undone by the formula, its limits with it", {
  plain <- relate(admitted, x, y)
  found <- relate(admitted, x, y, correct_range = c(x = sd(applicants$x)))
  expect_identical(found[c("r", "ci_low", "p")], plain[c("r", "ci_low", "p")])
  undone <- function(r, u) r * u / sqrt(1 - r^2 + r^2 * u^2)
  u <- sd(applicants$x) / sd(admitted$x)
  expect_equal(found$unrestricted$r, undone(plain$r, u), tolerance = 1e-12)
  expect_equal(found$unrestricted$ci_low, undone(plain$ci_low, u), tolerance = 1e-12)
  expect_lt(abs(found$unrestricted$r - .6), .05)
  expect_match(in_words(found), "direct restriction of range \\(SD of x")
  # y may be what was selected by.
  by_y <- relate(admitted, y, x, correct_range = c(x = sd(applicants$x)))
  expect_equal(by_y$unrestricted$r, found$unrestricted$r, tolerance = 1e-12)
})

test_that("a third variable and an indirect restriction have formulas of their own", {
  chosen <- applicants[applicants$third > .4, ]
  found <- relate(chosen, x, y, correct_range = c(third = sd(applicants$third)))$unrestricted
  r <- function(a, b) relate(chosen, !!a, !!b)$r
  more <- (sd(applicants$third) / sd(chosen$third))^2 - 1
  by_hand <- (r("x", "y") + r("x", "third") * r("y", "third") * more) /
    sqrt((1 + r("x", "third")^2 * more) * (1 + r("y", "third")^2 * more))
  expect_equal(found$r, by_hand, tolerance = 1e-12)
  expect_true(found$ci_low < .6 && .6 < found$ci_high)
  there <- relate(chosen, x, y, correct_range = c(x = 1.05), restriction = "indirect", correct_for = c(x = .8))
  u <- 1.05 / sd(chosen$x)
  population <- 1 - (1 - .8) / u^2
  true_ratio <- sqrt(u^2 * population / .8)
  true_r <- there$r / sqrt(.8)
  expect_equal(
    there$unrestricted$r, sqrt(population) * true_r * true_ratio / sqrt(1 + true_r^2 * (true_ratio^2 - 1)),
    tolerance = 1e-12
  )
})

test_that("what cannot be corrected is refused by name", {
  expect_error(relate(admitted, x, y, correct_range = c(x = -1)), class = "unsere_error_usage")
  expect_error(relate(admitted, x, y, correct_range = c(nobody = 2)), class = "unsere_error_input")
  expect_error(relate(admitted, x, y, given = third, correct_range = c(x = 1)), class = "unsere_error_usage")
  expect_error(relate(admitted, x, y, coefficient = "spearman", correct_range = c(x = 1)), class = "unsere_error_usage")
  expect_error(
    relate(admitted, x, y, correct_range = c(x = 1), restriction = "indirect"), "needs the reliability",
    class = "unsere_error_usage"
  )
})
