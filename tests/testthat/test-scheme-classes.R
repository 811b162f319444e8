# Classes that nobody declared: of two kinds that cross, within others, and periods that go on.

plain_r <- function(x, y) sum((x - mean(x)) * (y - mean(y))) / sqrt(sum((x - mean(x))^2) * sum((y - mean(y))^2))
spread_over <- function(x, y, group) {
  kinds <- unique(group)
  z <- vapply(kinds, function(kind) atanh(plain_r(x[group != kind], y[group != kind])), 0)
  (length(kinds) - 1) / length(kinds) * sum((z - mean(z))^2)
}

panel <- function(seed, units = 15, times = 12) {
  set.seed(seed)
  unit <- rep(seq_len(units), each = times)
  time <- rep(seq_len(times), units)
  one <- function() rnorm(units)[unit] + rnorm(times)[time] + rnorm(units * times)
  data.frame(region = sprintf("R%02d", unit), year = 2000L + time, x = one(), y = one())
}

test_that("regions and years at once: the variances add up, less that of the cases, longhand", {
  data <- panel(4)
  found <- relate(data, x, y)
  figures <- found$cautions$figures[[match("clustered_cases", found$cautions$code)]]
  expect_identical(figures[c("group", "classes", "across", "classes_across")], list(
    group = "region", classes = 15L, across = "year", classes_across = 12L
  ))
  # Years in which both go on from one to the next count for fewer (Bartlett 1935).
  means <- vapply(data[c("x", "y")], function(v) tapply(v, data$year, mean), numeric(12))
  means <- scale(means, scale = FALSE)
  tie <- function(v, lag) sum(v[seq_len(12 - lag)] * v[lag + seq_len(12 - lag)]) / (12 - lag) / mean(v^2)
  share <- 1 / 12 + sum(vapply(1:2, function(lag) 2 / 12 * (12 - lag) / 12 * tie(means[, 1], lag) * tie(means[, 2], lag), 0))
  effective <- min(12, if (share > 0) 1 / share else 12)
  parts <- c(spread_over(data$x, data$y, data$region), 12 / effective * spread_over(data$x, data$y, data$year))
  variance <- max(parts, sum(parts) - spread_over(data$x, data$y, seq_len(nrow(data))))
  df <- sum(parts)^2 / sum(parts^2 / c(14, effective - 1))
  expect_equal(found$df, df, tolerance = 1e-6)
  expect_equal(found$value, atanh(found$r) / sqrt(variance), tolerance = 1e-6)
  expect_equal(
    atanh(c(found$ci_low, found$ci_high)), atanh(found$r) + c(-1, 1) * qt(.975, df) * sqrt(variance),
    tolerance = 1e-6
  )
  expect_match(in_words(found), "over the 15 classes \\(region\\) and 12 classes \\(year\\) in which the cases")
  cell <- correlation_matrix(data, x, y)$pairs
  expect_equal(unlist(cell[c("ci_low", "ci_high", "p")]), unlist(unclass(found)[c("ci_low", "ci_high", "p")]))
})

test_that("a shock that all units share makes no correlation of two that have nothing to do with each other", {
  tested <- vapply(1:40, function(seed) {
    found <- relate(panel(seed), x, y)
    c(found$p, found$textbook$p) < .05
  }, c(NA, NA))
  expect_lte(mean(tested[1, ]), .14)
  expect_gte(mean(tested[2, ]), .2)
})

test_that("of classes within classes the larger count, whichever column comes first", {
  set.seed(11)
  school <- rep(1:12, each = 20)
  class <- rep(1:48, each = 5)
  one <- function() rnorm(12)[school] + .7 * rnorm(48)[class] + rnorm(240)
  data <- data.frame(class = sprintf("c%02d", class), school = sprintf("s%02d", school), x = one(), y = one())
  for (table in list(data, data[c(2, 1, 3, 4)])) {
    figures <- relate(table, x, y)$cautions$figures[[1]]
    expect_identical(figures$group, "school")
    expect_null(figures$across)
  }
})

test_that("what is the same in all periods, or in all cases of a unit, breaks no answer", {
  data <- panel(6)
  data$area <- c(3.1, 9.4, 2.2, 7.7, 5)[match(data$region, unique(data$region)) %% 5 + 1]
  data$rate <- c(1.5, 2.25, 0.5)[data$year %% 3 + 1]
  for (pair in list(c("x", "area"), c("x", "rate"), c("area", "rate"), c("area", "y"))) {
    expect_s3_class(relate(data, pair[1], pair[2]), "unsere_relation")
  }
  expect_s3_class(correlation_matrix(data, x, y, area, rate), "unsere_matrix")
})
