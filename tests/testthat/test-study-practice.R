test_that("an exact r is exact, a population r is near, and the seed fixes both", {
  for (r in c(-1, -.4, 0, .73)) expect_equal(relate(practice_pair(25, r, exact = TRUE, seed = 2), x, y)$r, r,
    tolerance = 1e-14
  )
  expect_equal(relate(practice_pair(20000, .6, seed = 5), x, y)$r, .6, tolerance = .02)
  set.seed(9)
  before <- .Random.seed
  expect_identical(practice_pair(10, .3, seed = 4), practice_pair(10, .3, seed = 4))
  expect_identical(.Random.seed, before)
})

test_that("each trouble does what it says", {
  made <- function(trouble, ...) practice_pair(2000, .6, trouble = trouble, seed = 6, ...)
  expect_equal(unlist(made("outlier")[2000, c("x", "y")], use.names = FALSE), c(5, -5))
  bend <- made("bend")
  expect_lt(
    relate(data.frame(x = bend$x[bend$x > 0], y = bend$y[bend$x > 0]), x, y)$r,
    relate(data.frame(x = bend$x[bend$x < 0], y = bend$y[bend$x < 0]), x, y)$r - .2
  )
  expect_setequal(made("scale")$x, 1:5)
  expect_identical(relate(made("split"), x, y)$coefficient, "point-biserial")
  trend <- practice_pair(60, 0, trouble = "trend", seed = 6)
  expect_gt(relate(trend, x, y)$r, .75)
  expect_lt(relate(practice_pair(5000, .6, noise = 1, seed = 6), x, y)$r, .4)
})

test_that("impossible wishes are refused", {
  for (wish in list(
    list(2, .5), list(10, 1.5), list(10, .5, trouble = "fire"), list(10, .5, noise = -1),
    list(10, .5, exact = TRUE, noise = 1)
  )) {
    expect_error(do.call(practice_pair, wish), class = "unsere_error_usage")
  }
})
