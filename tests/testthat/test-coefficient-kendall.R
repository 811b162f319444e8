# Kendall's tau-b against its definition, counted pair by pair and order by order.

score_longhand <- function(x, y) sum(outer(x, x, function(a, b) sign(a - b)) * outer(y, y, function(a, b) sign(a - b))) / 2

tau_longhand <- function(x, y) {
  untied <- function(v) sum(outer(v, v, `!=`)) / 2
  score_longhand(x, y) / sqrt(untied(x) * untied(y))
}

tau <- function(x, y, ...) relate(data.frame(x = as.double(x), y = as.double(y)), x, y, "tau-b", ...)

some_pairs <- function() {
  set.seed(41)
  list(
    list(rnorm(40), rnorm(40)), list(sample(5, 70, TRUE), sample(4, 70, TRUE)), list(rnorm(33), sample(0:1, 33, TRUE)),
    list(c(1e300, -1e300, 3, 3, 7), c(1, 2, 2, 9, 9)), list(1:9, -(1:9)^3), list(c(1, 1 + 1e-15, 2), c(3, 1, 1))
  )
}

test_that("tau-b is what its definition gives, ties included, and never leaves the bounds", {
  for (pair in some_pairs()) {
    found <- tau(pair[[1]], pair[[2]])
    expect_equal(found$r, tau_longhand(pair[[1]], pair[[2]]), tolerance = 1e-14)
    expect_identical(tau(pair[[2]], pair[[1]])$r, found$r)
    expect_identical(tau(-pair[[1]], pair[[2]])$r, -found$r)
  }
  expect_identical(tau(1:50, exp(1:50 / 9))$r, 1)
  expect_identical(tau(rep(1:5, 3), -rep(1:5, 3))$r, -1)
  expect_error(tau(rep(2, 8), 1:8), class = "unsere_error_undefined")
})

test_that("p without ties is counted: every order of five, and Kendall's counts for four", {
  cases <- all_orders(1:5)
  scores <- vapply(cases, function(order) score_longhand(1:5, order), 0)
  for (order in cases[c(1, 17, 40, 63, 88, 120)]) {
    seen <- score_longhand(1:5, order)
    expect_equal(tau(1:5, order)$p, mean(abs(scores) >= abs(seen)), tolerance = 1e-14)
    expect_equal(tau(1:5, order, expect = "positive")$p, mean(scores >= seen), tolerance = 1e-14)
    expect_equal(tau(1:5, order, expect = "negative")$p, mean(scores <= seen), tolerance = 1e-14)
  }
  # Kendall (1938): among the 24 orders of four 1, 3, 5, 6, 5, 3 and 1 have S of 6, 4, 2, 0, -2, -4 and -6.
  expect_equal(tau(1:4, c(1, 2, 4, 3), expect = "positive")$p, 4 / 24, tolerance = 1e-14)
  expect_equal(tau(1:60, 1:60, expect = "positive")$log10_p, -lgamma(61) / log(10), tolerance = 1e-12)
  expect_identical(tau(1:60, 1:60)$p_method, "exact")
})

test_that("p with ties is counted up to nine cases, and beyond comes from the variance for ties", {
  x <- c(1, 2, 2, 3, 5, 5)
  y <- c(4, 1, 4, 2, 7, 7)
  scores <- vapply(all_orders(y), function(order) score_longhand(x, order), 0)
  expect_equal(tau(x, y)$p, mean(abs(scores) >= abs(score_longhand(x, y))), tolerance = 1e-14)
  expect_error(tau(rep(1:5, 3), c(1:14, 1), test = "exact"), "60 pairs without ties and 9", class = "unsere_error_usage")
  set.seed(42)
  x <- sample(4, 30, TRUE)
  y <- sample(3, 30, TRUE)
  ties <- function(v, f) sum(vapply(table(v), function(t) f(as.double(t)), 0))
  n <- 30
  variance <- (n * (n - 1) * (2 * n + 5) - ties(x, function(t) t * (t - 1) * (2 * t + 5)) -
    ties(y, function(t) t * (t - 1) * (2 * t + 5))) / 18 +
    ties(x, function(t) t * (t - 1) * (t - 2)) * ties(y, function(t) t * (t - 1) * (t - 2)) / (9 * n * (n - 1) * (n - 2)) +
    ties(x, function(t) t * (t - 1)) * ties(y, function(t) t * (t - 1)) / (2 * n * (n - 1))
  seen <- score_longhand(x, y)
  z <- (seen - sign(seen)) / sqrt(variance)
  found <- tau(x, y, test = "analytic")
  expect_equal(c(found$value, found$p), c(z, 2 * pnorm(-abs(z))), tolerance = 1e-12)
  # The variance is that of S over all pairings, here by shuffling.
  drawn <- replicate(2000, score_longhand(x, sample(y)))
  expect_equal(var(drawn), variance, tolerance = .1)
  expect_equal(tau(x, y, test = "permutation", seed = 1, resamples = 4000)$p, mean(abs(drawn) >= abs(seen)), tolerance = .15)
})

test_that("the interval is Bonett and Wright's, and holds the true value about as often as it says", {
  found <- tau(c(1:19, 5), c(2, 1, 4, 3, 9, 5, 7, 6, 8, 12, 10, 11, 15, 13, 14, 19, 16, 17, 18, 1), interval = "analytic")
  half <- qnorm(.975) * sqrt(.437 / 16)
  expect_equal(c(found$ci_low, found$ci_high), tanh(atanh(found$r) + c(-half, half)), tolerance = 1e-12)
  set.seed(43)
  held <- replicate(250, {
    x <- rnorm(30)
    found <- tau(x, .5 * x + sqrt(.75) * rnorm(30))
    found$ci_low <= 1 / 3 && 1 / 3 <= found$ci_high
  })
  expect_gt(mean(held), .92)
  wide <- tau(1:40 + 20 * sin(1:40), 1:40, interval = "bootstrap", seed = 2, resamples = 999)
  again <- tau(1:40 + 20 * sin(1:40), 1:40, interval = "bootstrap", seed = 2, resamples = 999, threads = 1)
  expect_true(wide$ci_low < wide$r && wide$r < wide$ci_high)
  expect_identical(again$ci_low, wide$ci_low)
})

test_that("r without each case in turn is what leaving it out gives", {
  for (pair in some_pairs()[1:3]) {
    x <- as.double(pair[[1]])
    y <- as.double(pair[[2]])
    slow <- vapply(seq_along(x), function(i) tau_longhand(x[-i], y[-i]), 0)
    expect_equal(unsere:::core_bootstrap_kendall(x, y, 99, 1, 1L)$left, slow, tolerance = 1e-13)
  }
})

test_that("in a matrix each pair is as alone, with gaps too, and the words claim no share of variance", {
  learners <- demo_study("learners")
  found <- correlation_matrix(learners, age_years, m1, m4, study_partner, speaking_score, coefficient = "tau-b")
  for (k in seq_len(nrow(found$pairs))) {
    pair <- found$pairs[k, ]
    alone <- relate(learners, pair$x, pair$y, "tau-b")
    expect_identical(c(pair$r, pair$n), c(alone$r, alone$n))
    expect_equal(c(pair$p, pair$ci_low, pair$ci_high), c(alone$p, alone$ci_low, alone$ci_high), tolerance = 1e-12)
  }
  small <- learners[1:40, ]
  few <- correlation_matrix(small, age_years, commute_min, coefficient = "tau-b")
  expect_equal(few$pairs$p, relate(small, age_years, commute_min, "tau-b")$p, tolerance = 1e-14)
  alone <- relate(learners, m1, m4, "tau-b")
  expect_true(is.na(alone$r_squared))
  expect_no_match(paste(format(alone), collapse = " "), "variance|NA")
  expect_match(in_words(alone), "negatively correlated, \u03c4b = \u2212.36, n = 240, 95% CI")
  said <- json_of("relate", demo_file("learners.csv"), "m1", "m4", "--coefficient=tau-b")
  expect_length(unlist(schema_faults(list(said), "relation")), 0)
})
