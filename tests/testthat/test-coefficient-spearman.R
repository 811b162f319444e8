mid_rank <- function(v) vapply(v, function(one) (sum(v < one) + 1 + sum(v <= one)) / 2, 0)

r_longhand <- function(a, b) {
  sum((a - mean(a)) * (b - mean(b))) / sqrt(sum((a - mean(a))^2) * sum((b - mean(b))^2))
}

test_that("ranks are mid-ranks and r is Pearson's of them", {
  x <- c(3, 1, 4, 1, 5, 9, 2, 6, 5, 3)
  expect_identical(unsere:::mid_ranks(x), mid_rank(x))
  y <- c(2, 7, 1, 8, 2, 8, 1, 8, 2, 8)
  found <- relate(data.frame(x, y), x, y, coefficient = "spearman")
  expect_equal(found$r, r_longhand(mid_rank(x), mid_rank(y)), tolerance = 1e-15)
})

test_that("the exact p counts every pairing, ties included, for each direction", {
  cases <- list(
    list(1:6, c(2, 1, 4, 3, 6, 5)), list(c(1, 2, 2, 3, 5, 5, 5), c(4, 1, 4, 2, 7, 6, 4)),
    list(c(1, 1, 2, 2, 3), c(5, 5, 5, 1, 2))
  )
  for (case in cases) {
    a <- mid_rank(case[[1]])
    b <- mid_rank(case[[2]])
    walked <- vapply(all_orders(b), function(order) sum(a * order), 0) - length(a) * mean(a) * mean(b)
    seen <- sum(a * b) - length(a) * mean(a) * mean(b)
    truth <- c(
      either = mean(abs(walked) >= abs(seen) - 1e-9), positive = mean(walked >= seen - 1e-9),
      negative = mean(walked <= seen + 1e-9)
    )
    for (expect in names(truth)) {
      data <- data.frame(x = case[[1]], y = case[[2]])
      found <- relate(data, x, y, coefficient = "spearman", expect = expect)
      expect_equal(found$p, truth[[expect]], tolerance = 1e-14)
      expect_identical(found$p_method, "exact")
    }
  }
})

test_that("published critical values of Spearman's rs hold (Zar 1972: n = 10, .648 at .05 and .794 at .01)", {
  smallest_with <- function(alpha, around) {
    # rs = 1 - 6 D / 990: the largest even sum of squares D whose exact p stays at or below alpha
    critical <- 0
    for (d in around) {
      perm <- perm_with(d)
      if (!is.null(perm) && relate(data.frame(x = 1:10, y = perm), x, y, "spearman")$p <= alpha) critical <- d
    }
    1 - 6 * critical / 990
  }
  perm_with <- function(d) {
    set.seed(d)
    for (i in 1:4000) {
      p <- order(1:10 + rnorm(10, 0, runif(1, .2, 4)))
      if (sum((p - 1:10)^2) == d) return(p)
    }
    NULL
  }
  expect_equal(round(smallest_with(.05, seq(50, 66, 2)), 3), .648)
  expect_equal(round(smallest_with(.01, seq(28, 42, 2)), 3), .794)
})

test_that("the approximation keeps close to the exact tail where both can be had", {
  x <- 1:15 + 0
  for (y in list(
    c(4, 1, 7, 3, 10, 2, 5, 14, 8, 6, 15, 12, 9, 11, 13),
    c(9, 15, 2, 8, 5, 13, 1, 11, 7, 3, 14, 10, 4, 12, 6)
  )) {
    exact <- unsere:::core_exact_ranks(x, y + 0, 1e8)
    for (side in c(either = "outside", positive = "above", negative = "below")) {
      expect <- names(which(c(either = "outside", positive = "above", negative = "below") == side))
      near <- exp(unsere:::log_p_by_moments(
        unsere:::score_shape(x), unsere:::score_shape(y), 15,
        unsere:::measure_pearson(x, y + 0)$r, expect
      ))
      expect_equal(near, exact[[side]], tolerance = .02)
    }
  }
})

test_that("p of a large sample is found without counting, and r of 1 in ranks is allowed a test", {
  curve <- data.frame(x = 1:400, y = exp(1:400 / 40))
  found <- relate(curve, x, y, coefficient = "spearman")
  expect_identical(found$r, 1)
  small <- relate(data.frame(x = 1:5, y = c(1, 4, 9, 16, 25)), x, y, coefficient = "spearman")
  expect_equal(small$p, 2 / 120)
  expect_match(in_words(small), "^x and y were positively correlated, rs\\(3\\) = 1, p = .017 \\(exact\\)")
})

test_that("the interval is Bonett and Wright's", {
  pair <- practice_pair(40, .5, seed = 3)
  found <- relate(pair, x, y, coefficient = "spearman")
  half <- qnorm(.975) * sqrt((1 + found$r^2 / 2) / 37)
  expect_equal(c(found$ci_low, found$ci_high), tanh(atanh(found$r) + c(-half, half)), tolerance = 1e-14)
})
