# What must hold for any pair.

pairs <- function(count = 30) {
  lapply(seq_len(count), function(i) {
    n <- sample(4:60, 1)
    x <- switch(sample(4, 1),
      rnorm(n),
      round(rnorm(n), 1),
      sample(1:5, n, TRUE) + 0,
      1e7 + rexp(n)
    )
    data.frame(x = x, y = sample(c(-1, 0, .3, 2), 1) * as.vector(scale(x)) + rnorm(n))
  })
}

figures <- c("r", "p", "ci_low", "ci_high")

test_that("r stays within its bounds and its interval, p between 0 and 1", {
  set.seed(21)
  for (pair in pairs()) {
    for (coefficient in c("pearson", "spearman")) {
      found <- relate(pair, x, y, coefficient = coefficient)
      expect_true(abs(found$r) <= 1 && found$p > 0 && found$p <= 1)
      expect_true(found$ci_low <= found$r && found$r <= found$ci_high)
      wide <- relate(pair, x, y, coefficient = coefficient, confidence = .99)
      expect_true(wide$ci_low < found$ci_low && wide$ci_high > found$ci_high)
    }
  }
})

test_that("moving and stretching a variable changes nothing but the sign", {
  set.seed(22)
  for (pair in pairs(15)) {
    found <- relate(pair, x, y, coefficient = "pearson")
    moved <- relate(transform(pair, x = 8 * x, y = -y / 4), x, y, coefficient = "pearson")
    expect_equal(moved$r, -found$r, tolerance = 1e-14)
    expect_equal(moved$p, found$p, tolerance = 1e-10)
    expect_equal(-moved$ci_high, found$ci_low, tolerance = 1e-12)
  }
})

test_that("Spearman's r sees only the order", {
  set.seed(23)
  for (pair in pairs(15)) {
    found <- relate(pair, x, y, coefficient = "spearman")
    bent <- relate(transform(pair, x = rank(x)^3, y = exp(y / 4)), x, y, coefficient = "spearman")
    for (figure in figures) expect_equal(bent[[figure]], found[[figure]], tolerance = 1e-13)
  }
})

test_that("the two directions share out what either direction has", {
  set.seed(24)
  for (pair in pairs(15)) {
    p <- function(expect) relate(pair, x, y, coefficient = "pearson", expect = expect)$p
    expect_equal(p("positive") + p("negative"), 1, tolerance = 1e-12)
    expect_equal(2 * min(p("positive"), p("negative")), p("either"), tolerance = 1e-12)
  }
})

test_that("intervals hold the true value about as often as they say", {
  set.seed(25)
  covers <- function(around, rho) around$ci_low <= rho && rho <= around$ci_high
  share <- rowMeans(replicate(200, {
    x <- rnorm(30)
    y <- .3 * x + sqrt(1 - .09) * rnorm(30)
    group <- data.frame(x = rep(0:1, 15), y = rnorm(30) + rep(0:1, 15) * .6 / sqrt(1 - .09))
    c(
      covers(relate(data.frame(x, y), x, y), .3),
      covers(relate(data.frame(x, y), x, y, "spearman"), 6 / pi * asin(.15)),
      covers(relate(group, x, y), .3)
    )
  }))
  expect_true(all(share > .92 & share < .98))
})

test_that("under no relation p falls below .05 about one time in twenty", {
  set.seed(26)
  noise <- as.data.frame(matrix(rnorm(800), 20))
  small <- vapply(c("pearson", "spearman"), function(name) {
    mean(correlation_matrix(noise, coefficient = name)$pairs$p <= .05)
  }, 0)
  expect_true(all(small > .025 & small < .08))
})
