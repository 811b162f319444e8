set.seed(12)
data <- data.frame(class = rep(1:9, times = c(3:11)))
data$x <- rnorm(9)[data$class] + rnorm(63)
data$y <- rnorm(9)[data$class] - .5 * data$x + rnorm(63)

# The three r and the share between, longhand.
longhand <- function(d) {
  r <- function(a, b) sum((a - mean(a)) * (b - mean(b))) / sqrt(sum((a - mean(a))^2) * sum((b - mean(b))^2))
  mean_of <- function(v) tapply(v, d$class, mean)
  about <- function(v) v - ave(v, d$class)
  share <- function(v) {
    sizes <- table(d$class)
    m <- length(sizes)
    n <- length(v)
    between <- sum(sizes * (mean_of(v) - mean(v))^2) / (m - 1)
    within <- sum(about(v)^2) / (n - m)
    usual <- (n - sum(sizes^2) / n) / (m - 1)
    (between - within) / (between + (usual - 1) * within)
  }
  c(all = r(d$x, d$y), between = r(mean_of(d$x), mean_of(d$y)), within = r(about(d$x), about(d$y)), share(d$x), share(d$y))
}

test_that("between and within are as longhand, intervals as with each group left out", {
  found <- relate_levels(data, x, y, group = class)
  whole <- longhand(data)
  expect_equal(found$levels$r, unname(whole[1:3]))
  expect_equal(found$likeness$icc, pmax(0, unname(whole[4:5])))
  left <- vapply(1:9, function(k) longhand(data[data$class != k, ]), whole)
  spread <- sqrt(8 / 9 * rowSums((atanh(left[1:3, ]) - rowMeans(atanh(left[1:3, ])))^2))
  expect_equal(atanh(found$levels$ci_high), unname(atanh(whole[1:3]) + qt(.975, c(8, 7, 8)) * spread))
  expect_equal(found$levels$df, c(8, 7, 8))
  expect_s3_class(draw_levels(found), "ggplot")
})

test_that("a reversal is said, every door answers, too few groups are refused", {
  found <- relate_levels(demo_study("learners"), commute_min, listening_score)
  expect_identical(found$group, "centre")
  expect_match(in_words(found), "opposite signs")
  out <- capture.output(run_command(c(
    "levels", demo_file("learners.csv"), "commute_min", "listening_score", "--format", "json"
  )))
  expect_equal(jsonlite::fromJSON(paste(out, collapse = "\n"))$levels$r, found$levels$r)
  expect_error(relate_levels(data[data$class < 4, ], x, y, group = class), "Fewer than four",
    class = "unsere_error_undefined"
  )
  expect_error(relate_levels(data, x, y, group = x), "one of the pair", class = "unsere_error_usage")
  expect_error(relate_levels(data[c("x", "y")], x, y), "no grouping variable", class = "unsere_error_usage")
})

test_that("cases count by their weights, as cases that come so often", {
  set.seed(5)
  data <- data.frame(group = rep(1:8, each = 6), x = rnorm(48), w = sample(1:3, 48, TRUE))
  data$y <- data$x + rnorm(8)[data$group] + rnorm(48)
  weighted <- relate_levels(set_design(data, weight = w), x, y, group = group)
  repeated <- relate_levels(data[rep(1:48, data$w), ], x, y, group = group)
  expect_equal(weighted$levels[c("r", "ci_low", "ci_high")], repeated$levels[c("r", "ci_low", "ci_high")], tolerance = 1e-10)
  expect_error(
    relate_levels(set_design(data, replicates = c("w", "x")), x, y, group = group), "replicate|weight",
    class = "unsere_error"
  )
})
