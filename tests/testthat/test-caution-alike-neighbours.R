# Places near each other that are alike, and curves beside no clear r.

told <- function(data, code, ...) {
  found <- cautions(relate(data, x, y, ...))
  at <- match(code, found$code)
  if (!is.na(at)) c(severity = found$severity[at], found$figures[[at]])
}

square <- function(n) data.frame(lat = runif(n), lon = runif(n))
smooth <- function(places, reach = .4) {
  apart <- as.matrix(stats::dist(places))
  as.vector(t(chol(exp(-apart / reach) + diag(1e-8, nrow(apart)))) %*% rnorm(nrow(apart)))
}

test_that("places near each other that are alike in both are told, and turn a relation round that they make", {
  set.seed(71)
  places <- square(120)
  found <- replicate(12, {
    data <- data.frame(places, x = smooth(places), y = smooth(places))
    relation <- relate(data, x, y)
    at <- match("alike_neighbours", relation$cautions$code)
    serious <- !is.na(at) && relation$cautions$severity[at] == "serious"
    c(told = !is.na(at), clear = textbook_p(relation) < .05, serious = serious)
  })
  expect_gt(mean(found["told", ]), .8)
  expect_gt(mean(found["clear", ]), .2)
  expect_lt(mean(found["clear", ] & !found["serious", ]), .2)
  # Cases drawn one by one are not told, nor is anything without coordinates; a true tie stays.
  data <- data.frame(places, x = rnorm(120), y = rnorm(120))
  expect_null(told(data, "alike_neighbours"))
  own <- smooth(places)
  tied <- data.frame(places, x = own + rnorm(120, sd = .1), y = own + rnorm(120, sd = .1))
  expect_identical(told(tied, "alike_neighbours")[c("severity", "places")], list(
    severity = "warning", places = c("lon", "lat")
  ))
  expect_null(told(stats::setNames(tied, c("a", "b", "x", "y")), "alike_neighbours"))
  relation <- relate(data.frame(places, x = smooth(places, 2), y = smooth(places, 2)), x, y)
  expect_match(paste(format(relation), collapse = " "), "neighbouring +places +\\(lon, +lat\\) +are +similar")
})

test_that("a few cases by hand: each one's nearest, and the mean product of likeness", {
  across <- c(0, 0, 1, 1, 5, 5)
  up <- c(0, 1, 0, 1.5, 0, 1)
  apart <- unsere:::place_distances(across * 100, up * 100)
  v <- c(1, 2, 4, 4, -3, 7)
  centred <- v - mean(v)
  nearest <- c(2, 1, 1, 2, 6, 5)
  expect_equal(unsere:::nearest_ties(v, apart), mean(centred * centred[nearest]) / mean(centred^2))
  # A degree of longitude is shorter the farther north.
  expect_equal(unsere:::place_distances(c(8, 9), c(60, 60))[2, 1], .5, tolerance = 1e-12)
  set.seed(72)
  places <- as.matrix(stats::dist(cbind(runif(200), runif(200))))
  one <- replicate(20, unsere:::effective_places(rnorm(200), rnorm(200), places, 200))
  expect_gt(mean(one), 150)
  expect_true(all(one <= 200))
})

test_that("where there is no clear r, or one of a curve that turns round, the curve is the answer", {
  set.seed(73)
  x <- runif(150, 0, 10)
  bent <- data.frame(x, y = 80 - 1.5 * (x - 5)^2 + rnorm(150, 0, 6))
  found <- told(bent, "curved")
  expect_identical(found$severity, "serious")
  expect_equal(found$explained, summary_of_curve(bent), tolerance = 1e-9)
  expect_match(in_words(relate(bent, x, y)), "a quadratic term explains \\d\\d% of the variance")
  expect_match(in_words(relate(bent, x, y, coefficient = "spearman")), "of the variance of the ranks of y")
  waved <- told(data.frame(x, y = sin(2 * x) + rnorm(150, sd = .3)), "curved")
  expect_identical(waved[c("severity", "direction")], list(severity = "serious", direction = "wave"))
  expect_identical(told(transform(bent, y = y + 20 * x), "curved")$severity, "warning")
  expect_null(told(transform(bent, y = rank(x)^3), "curved", "spearman"))
  skewed <- exp(rnorm(150))
  expect_identical(told(data.frame(x = skewed, y = log(skewed) + rnorm(150, sd = .3)), "curved")$severity, "warning")
})
