# Worked examples from the literature, as far as their data come with R.

test_that("Anscombe's four pairs share r, line and t, as published (Anscombe 1973)", {
  for (k in 1:4) {
    pair <- data.frame(x = datasets::anscombe[[paste0("x", k)]], y = datasets::anscombe[[paste0("y", k)]])
    fit <- fit_line(pair, x, y)
    expect_equal(round(coef(fit), 2), c(intercept = 3, slope = .5))
    expect_equal(round(fit$r_squared, 2), .67)
    expect_equal(round(fit$terms$se[2], 3), .118)
    expect_equal(fit$variance$ss[1:2], c(27.5, 13.75), tolerance = .002)
    expect_equal(round(fit$terms$t[2], 2), 4.24)
  }
})

test_that("Student's two drugs as a point-biserial r give the published t (Student 1908)", {
  sleep <- data.frame(drug = ifelse(datasets::sleep$group == 2, "two", "one"), extra = datasets::sleep$extra)
  found <- relate(sleep, drug, extra)
  expect_equal(round(found$value, 4), 1.8608)
  expect_equal(round(found$p, 5), .07919)
  expect_equal(found$groups$mean, c(.75, 2.33), tolerance = 1e-12)
})

test_that("Galton's and Fisher's kind of sample: z and its interval (Fisher 1921, for r = .5 and n = 28)", {
  pair <- practice_pair(28, .5, exact = TRUE, seed = 1)
  found <- relate(pair, x, y)
  z <- .5493061
  expect_equal(c(found$ci_low, found$ci_high), tanh(z + c(-1, 1) * 1.959964 / 5), tolerance = 1e-6)
})
