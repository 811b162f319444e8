two_groups <- data.frame(
  passed = c("no", "no", "yes", "no", "yes", "yes", "no", "yes", "yes"), score = c(11, 14, 17, 12, 21, 16, 15, 19, 13)
)

test_that("point-biserial: yes counts as 1, both groups are told, and t is the pooled two-sample t", {
  found <- relate(two_groups, passed, score)
  yes <- two_groups$score[two_groups$passed == "yes"]
  no <- two_groups$score[two_groups$passed == "no"]
  pooled <- ((length(yes) - 1) * var(yes) + (length(no) - 1) * var(no)) / 7
  expect_equal(found$value, (mean(yes) - mean(no)) / sqrt(pooled * (1 / 5 + 1 / 4)), tolerance = 1e-13)
  expect_equal(found$groups, data.frame(
    value = c("no", "yes"), code = 0:1, n = c(4L, 5L), mean = c(
      mean(no),
      mean(yes)
    ),
    sd = c(sd(no), sd(yes))
  ), tolerance = 1e-14)
  expect_match(format(found), "\"yes\" of passed counts as 1", all = FALSE)
  expect_match(
    in_words(found),
    "^score was higher with \"yes\" on \"passed\" \\(M = 17.2\\d?, SD = .*, n = 5\\) than with \"no\""
  )
})

test_that("any two values can be binary, and swapping the pair keeps every figure", {
  for (pairs in list(c("true", "false"), c("No", "Yes"), c("b", "a"))) {
    coded <- transform(two_groups, passed = ifelse(passed == "yes", pairs[1], pairs[2]))
    expect_equal(abs(relate(coded, passed, score)$r), relate(two_groups, passed, score)$r, tolerance = 1e-15)
  }
  for (codes in list(0:1, 1:2)) {
    coded <- transform(two_groups, passed = ifelse(passed == "yes", codes[2], codes[1]))
    expect_identical(relate(coded, passed, score)$coefficient, "point-biserial")
    expect_identical(relate(coded, score, passed)$r, relate(two_groups, passed, score)$r)
  }
  logical <- transform(two_groups, passed = passed == "yes")
  expect_identical(relate(logical, passed, score)$groups$value, c("FALSE", "TRUE"))
})

test_that("the limits of a point-biserial r are as far on the z scale as Tate's variance there allows", {
  found <- relate(two_groups, passed, score)
  share <- mean(two_groups$passed == "yes")
  for (limit in c(found$ci_low, found$ci_high)) {
    variance <- (1 + (1 / (4 * share * (1 - share)) - 1.5) * limit^2) / (found$n - 3)
    expect_equal(abs(atanh(found$r) - atanh(limit)) / sqrt(variance), qnorm(.975), tolerance = 1e-7)
  }
  pairs <- correlation_matrix(two_groups, passed, score)$pairs
  expect_equal(c(pairs$ci_low, pairs$ci_high), c(found$ci_low, found$ci_high))
})

test_that("a rare group far from the others is within the interval in 93 to 97 of 100 random splits", {
  set.seed(11)
  share <- .1
  rho <- 3 * sqrt(share * .9) / sqrt(1 + 9 * share * .9)
  held <- replicate(2000, {
    g <- as.double(runif(80) < share)
    found <- unsere:::measure_pearson(g, rnorm(80) + 3 * g, c("g", "y"))
    limits <- unsere:::interval_tate(found$r, found$unexplained, 80, mean(g))
    limits$ci_low <= rho && rho <= limits$ci_high
  })
  expect_true(mean(held) >= .93 && mean(held) <= .98)
})

test_that("a small group limits r, and the limit is what sorting gives", {
  rare <- data.frame(g = c(rep("no", 46), rep("yes", 4)), y = c(1:46, 20, 30, 40, 45))
  found <- relate(rare, g, y)
  sorted <- sort(rare$y)
  code <- rep(0:1, c(46, 4))
  expect_equal(
    found$largest,
    sum((code - mean(code)) * sorted) / sqrt(sum((code - mean(code))^2) * sum((sorted - mean(sorted))^2))
  )
  expect_match(format(found), "the maximum possible", all = FALSE)
  expect_null(relate(two_groups, passed, score)$largest)
})

test_that("phi: longhand from the four counts, chi-squared, the exact test, the largest phi", {
  # 30, 10; 15, 25
  table <- data.frame(
    a = rep(c("no", "no", "yes", "yes"), c(30, 10, 15, 25)),
    b = rep(c("no", "yes", "no", "yes"), c(30, 10, 15, 25))
  )
  found <- relate(table, a, b)
  phi <- (30 * 25 - 10 * 15) / sqrt(40 * 40 * 45 * 35)
  expect_equal(found$r, phi, tolerance = 1e-15)
  expect_equal(found$value, 80 * phi^2, tolerance = 1e-14)
  expect_equal(found$p, pchisq(80 * phi^2, 1, lower.tail = FALSE), tolerance = 1e-12)
  expect_equal(found$largest, sqrt(40 * 35 / (40 * 45)), tolerance = 1e-14)
  ways <- choose(40, 0:35) * choose(40, 35:0) / choose(80, 35)
  expect_equal(relate(table, a, b, test = "exact", expect = "positive")$p, sum(ways[(0:35) >= 25]), tolerance = 1e-12)
  expect_match(
    in_words(found),
    "^a \\(yes\\) and b \\(yes\\) were positively correlated, . = .38, n = 80, 95% CI .*, ..\\(1\\) = 11.43, p < .001"
  )
  turned <- relate(table, a, b, expect = "negative")
  expect_equal(turned$p, pnorm(phi * sqrt(80)), tolerance = 1e-12)
})

test_that("coefficients that the variables do not allow are refused, with the one that suits", {
  expect_error(relate(two_groups, passed, score, coefficient = "phi"), "For this pair: point-biserial",
    class = "unsere_error_usage"
  )
  expect_error(relate(demo_study("dial"), dial, level_db, coefficient = "point-biserial"), class = "unsere_error_usage")
  expect_error(relate(two_groups, passed, score, coefficient = "tau"), "spearman", class = "unsere_error_usage")
  three <- set_variable(data.frame(g = c("a", "b", "c", "a"), y = 1:4), g, level = "binary")
  expect_error(relate(three, g, y), "3 values", class = "unsere_error_input")
  empty <- data.frame(g = c("yes", "yes", "yes", "no"), y = c(1, 2, 3, NA))
  expect_error(relate(empty, g, y), "other group is empty", class = "unsere_error_undefined")
})

test_that("phi's limits are where the four counts have lost what chance allows, as a search finds it, too", {
  lost <- function(counts, phi) {
    likelihood <- function(cells) if (any(cells <= 0)) -1e9 else sum(counts * log(cells))
    given <- function(odds) {
      share <- stats::plogis(odds)
      both <- prod(share) + phi * sqrt(prod(share, 1 - share))
      likelihood(c(both, share[1] - both, share[2] - both, 1 - sum(share) + both))
    }
    shares <- (c(counts[1] + counts[2], counts[1] + counts[3])) / sum(counts)
    odds <- stats::qlogis(shares)
    starts <- list(odds, rep(mean(odds), 2), c(1, -1) * (odds[1] - odds[2]) / 2)
    found <- vapply(starts, function(from) {
      stats::optim(from, given, control = list(fnscale = -1, reltol = 1e-13, maxit = 5000))$value
    }, 0)
    2 * (likelihood(counts / sum(counts)) - max(found))
  }
  tables <- list(c(12, 5, 6, 17), c(0, 4, 5, 41), c(2, 9, 30, 9), c(3, 0, 1, 16), c(120, 80, 90, 310))
  for (counts in tables) {
    cells <- rep(1:4, counts)
    data <- data.frame(a = ifelse(cells <= 2, "yes", "no"), b = ifelse(cells %in% c(1, 3), "yes", "no"))
    relation <- relate(data, a, b, confidence = 0.9)
    expect_identical(relation$ci_method, "likelihood")
    for (limit in setdiff(c(relation$ci_low, relation$ci_high), 0)) {
      expect_equal(lost(counts + 0.25, limit), stats::qchisq(0.9, 1), tolerance = 1e-6)
    }
    fields <- c("r", "ci_low", "ci_high")
    expect_identical(relate(data, b, a, confidence = 0.9)[fields], relation[fields])
    turned <- relate(transform(data, a = ifelse(a == "yes", "a no", "b yes")), a, b, confidence = 0.9)
    expect_equal(-c(turned$ci_high, turned$ci_low), c(relation$ci_low, relation$ci_high), tolerance = 1e-9)
  }
})
