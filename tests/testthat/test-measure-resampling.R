pair <- practice_pair(40, .5, seed = 11)

test_that("the same seed gives the same digits whatever the threads, and leaves R's random state alone", {
  set.seed(1)
  before <- .Random.seed
  one <- relate(pair, x, y, interval = "bootstrap", test = "permutation", seed = 7, resamples = 999, threads = 1)
  three <- relate(pair, x, y, interval = "bootstrap", test = "permutation", seed = 7, resamples = 999, threads = 3)
  expect_identical(one[c("ci_low", "ci_high", "p")], three[c("ci_low", "ci_high", "p")])
  expect_identical(.Random.seed, before)
  other <- relate(pair, x, y, interval = "bootstrap", seed = 8, resamples = 999)
  expect_false(identical(one$ci_low, other$ci_low))
})

test_that("without a seed the result follows R's random state and keeps the seed that was drawn", {
  set.seed(5)
  first <- relate(pair, x, y, interval = "bootstrap", resamples = 999)
  set.seed(5)
  expect_identical(relate(pair, x, y, interval = "bootstrap", resamples = 999)$ci_low, first$ci_low)
  expect_identical(relate(pair, x, y, interval = "bootstrap", resamples = 999, seed = first$seed)$ci_low, first$ci_low)
})

test_that("BCa limits agree with the definition written out on the same resamples", {
  found <- unsere:::measure_pearson(pair$x, pair$y)
  draws <- list(resamples = 1999, seed = 3, threads = 2L)
  values <- sort(unsere:::core_bootstrap(pair$x, pair$y, FALSE, 1999, 3, 2L))
  r_of <- function(keep) {
    a <- pair$x[keep] - mean(pair$x[keep])
    b <- pair$y[keep] - mean(pair$y[keep])
    sum(a * b) / sqrt(sum(a^2) * sum(b^2))
  }
  left <- vapply(1:40, function(i) r_of(-i), 0)
  expect_equal(unsere:::leave_one_out(pair$x, pair$y, FALSE, 1L), left, tolerance = 1e-12)
  a <- sum((mean(left) - left)^3) / (6 * sum((mean(left) - left)^2)^1.5)
  z0 <- qnorm(mean(values < found$r))
  at <- pnorm(z0 + (z0 + qnorm(c(.025, .975))) / (1 - a * (z0 + qnorm(c(.025, .975))))) * 2000
  expected <- values[floor(at)] + (at - floor(at)) * (values[floor(at) + 1] - values[floor(at)])
  around <- unsere:::interval_bootstrap(pair$x, pair$y, FALSE, found$r, found$unexplained, .95, draws)
  expect_equal(c(around$ci_low, around$ci_high), expected, tolerance = 1e-12)
})

test_that("resamples draw every case equally often, and ranks are taken anew in each", {
  uniform <- unsere:::core_uniforms(1e5, 4, 1)
  expect_true(all(uniform > 0 & uniform < 1))
  expect_lt(max(abs(table(cut(uniform, 0:10 / 10)) - 1e4)), 400)
  ranked <- unsere:::core_bootstrap(as.double(1:30), exp(1:30 / 3), TRUE, 500, 2, 1L)
  expect_true(all(ranked == 1))
})

test_that("permutation p is (b + 1) / (m + 1) and close to the exact p; exact Pearson counts all orders", {
  small <- data.frame(x = c(1.2, 3.4, 2.2, 5.9, 4.1, 6.6), y = c(2.1, 2.9, 3.3, 5.2, 6.4, 5.8))
  orders <- expand.grid(rep(list(1:6), 6))
  orders <- as.matrix(orders[apply(orders, 1, function(o) !anyDuplicated(o)), ])
  sums <- apply(orders, 1, function(o) sum((small$x - mean(small$x)) * small$y[o]))
  seen <- sum((small$x - mean(small$x)) * small$y)
  exact <- relate(small, x, y, test = "exact")
  expect_equal(exact$p, mean(abs(sums) >= abs(seen) - 1e-9), tolerance = 1e-14)
  shuffled <- relate(small, x, y, test = "permutation", seed = 1, resamples = 20000)
  expect_equal(shuffled$p, exact$p, tolerance = .15)
  expect_equal(shuffled$p * 20001, round(shuffled$p * 20001), tolerance = 1e-9)
  line <- relate(data.frame(x = 1:30, y = 1:30), x, y, test = "permutation", seed = 1, resamples = 999)
  expect_equal(line$p, 1 / 1000)
})

test_that("exact point-biserial walks through all ways to choose the group", {
  data <- data.frame(g = c(0, 0, 1, 0, 1, 1, 0), y = c(2, 3.5, 5, 1, 4, 6, 3))
  ways <- utils::combn(7, 3, function(i) sum(data$y[i]))
  found <- relate(data, g, y, test = "exact")
  expect_equal(found$p, mean(abs(ways - 3 * mean(data$y)) >= abs(15 - 3 * mean(data$y)) - 1e-9), tolerance = 1e-14)
})

test_that("what cannot be resampled or counted is refused", {
  refused <- function(...) expect_error(relate(pair, x, y, ...), class = "unsere_error_usage")
  refused(interval = "bootstrap", seed = "today")
  refused(seed = 1.5)
  refused(interval = "bootstrap", resamples = 10)
  refused(test = "permutation", threads = 0)
  refused(test = "exact")
  refused(interval = "wide")
  refused(confidence = 1)
})
