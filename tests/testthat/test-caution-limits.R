# Each caution on both sides of its limit, with the figures that it tells.

caution_of <- function(data, code, ...) {
  found <- cautions(relate(data, x, y, ...))
  found[found$code == code, ]
}

test_that("a rare category is a warning below five cases, a note below a tenth, and nothing from there on", {
  set.seed(3)
  binary <- function(small, n) data.frame(x = rep(c("no", "yes"), c(n - small, small)), y = rnorm(n))
  severity <- function(small, n) caution_of(binary(small, n), "rare_category")$severity
  expect_identical(severity(4, 60), "warning")
  expect_identical(severity(5, 60), "note")
  expect_identical(severity(4, 40), "warning")
  expect_identical(severity(6, 60), character())
  expect_identical(caution_of(binary(4, 60), "rare_category")$figures[[1]]$count, 4L)
})

test_that("a pile of zeros is a note where zero is a count, and a warning where it is the end of a scale", {
  set.seed(4)
  counts <- data.frame(x = c(rep(0, 40), rpois(60, 6) + 1), y = rnorm(100))
  expect_identical(caution_of(counts, "floor_or_ceiling")$severity, "note")
  expect_identical(caution_of(transform(counts, x = x + 3), "floor_or_ceiling")$severity, "warning")
  expect_identical(caution_of(transform(counts, x = 20 - x), "floor_or_ceiling")$severity, "warning")
  scored <- set_variable(as_study(counts), x, range = c(0, 20))
  expect_identical(caution_of(scored, "floor_or_ceiling")$severity, "warning")
})

test_that("one value far away lies, two lie", {
  set.seed(5)
  told <- function(extra) format(cautions(relate(data.frame(x = c(rnorm(40), extra), y = rnorm(40 + length(extra))), x, y)))
  expect_match(told(30), "\\) lies far from all others", all = FALSE)
  expect_match(told(c(30, 31)), "\\) lie far from all others", all = FALSE)
})

test_that("rounding makes one measure twice, a difference beyond the rounding does not", {
  kept <- seq(10, 90, length.out = 80) + sin(1:80)
  copy <- function(y) nrow(caution_of(data.frame(x = round(kept, 2), y = y), "same_measure")) > 0
  expect_true(copy(round(kept)))
  expect_true(copy(round(kept, 1)))
  expect_false(copy(round(kept) + rep(c(0, 2), 40)))
  told <- caution_of(data.frame(x = round(kept, 2), y = round(kept)), "same_measure")$figures[[1]]
  expect_identical(told[c("equal", "rounded")], list(equal = TRUE, rounded = TRUE))
  other_unit <- caution_of(data.frame(x = round(kept, 2), y = round(1.8 * kept + 32)), "same_measure")$figures[[1]]
  expect_identical(other_unit[c("equal", "rounded")], list(equal = FALSE, rounded = TRUE))
})

test_that("cases in order of a declared time are doubted by the autocorrelation of what a line leaves", {
  set.seed(6)
  walk <- as.double(stats::filter(rnorm(80), .9, "recursive"))
  series <- function(left) set_variable(as_study(data.frame(year = 1941:2020, x = rnorm(80), y = left)), year, role = "time")
  doubts <- function(study) cautions(relate(study, x, y))
  alone <- doubts(series(walk))
  expect_true("serial_dependence" %in% alone$code)
  expect_lt(alone$figures[[match("serial_dependence", alone$code)]]$durbin_watson, 1)
  expect_false("serial_dependence" %in% doubts(series(rnorm(80)))$code)
})

test_that("replicates in as many directions as there are replicates are told, fewer are not", {
  set.seed(7)
  n <- 120
  unit <- rep(1:12, each = 10)
  half <- function(k) ifelse(unit %in% sample(12, 6), 2, 0)
  weights <- vapply(1:8, half, numeric(n))
  data <- data.frame(x = rnorm(n), y = rnorm(n), w = 1, weights)
  names(data)[4:11] <- paste0("rw", 1:8)
  designed <- function(data, ...) set_design(data, weight = w, replicates = "rw*", method = "brr", ...)
  code <- "replicates_of_full_rank"
  expect_identical(caution_of(designed(data), code)$severity, "warning")
  expect_identical(caution_of(designed(data), code)$figures[[1]]$replicates, 8L)
  expect_identical(nrow(caution_of(designed(data, df = 6), code)), 0L)
  double <- data
  double[paste0("rw", 5:8)] <- data[paste0("rw", 1:4)]
  expect_identical(nrow(caution_of(designed(double), code)), 0L)
})

test_that("groups of fewer than five cases are counted and named", {
  set.seed(8)
  grouped <- function(sizes) data.frame(x = rep(c("Hill", "Mill", "Dale")[seq_along(sizes)], sizes), y = rnorm(sum(sizes)))
  told <- caution_of(grouped(c(20, 4, 30)), "small_groups")
  expect_identical(told$severity, "note")
  expect_identical(told$figures[[1]][c("groups", "small", "which")], list(groups = 3L, small = 1L, which = "Mill"))
  said <- gsub("\\s+", " ", paste(format(told), collapse = " "))
  expect_match(said, "fewer than five cases each in 1 of the 3 groups of x (Mill)", fixed = TRUE)
  expect_identical(nrow(caution_of(grouped(c(20, 5, 30)), "small_groups")), 0L)
})

test_that("unequal spreads are grave where Welch's test decides otherwise, and equal spreads about unequal means are none", {
  two <- function(shift, wild) {
    data.frame(x = rep(0:1, c(80, 12)), y = c(stats::qnorm(ppoints(80)), shift + wild * stats::qnorm(ppoints(12))))
  }
  doubt <- function(shift, wild) {
    found <- relate(two(shift, wild), x, y, interval = "analytic")
    c(as.list(found$cautions[found$cautions$code == "unequal_spreads", ]), p_told = found$p)
  }
  apart <- doubt(1.2, 4)
  expect_identical(apart$severity, "serious")
  expect_true(apart$p_told < .05 && apart$figures[[1]]$p > .05)
  agreed <- doubt(6, 4)
  expect_identical(agreed$severity, "warning")
  expect_true(agreed$p_told < .05 && agreed$figures[[1]]$p < .05)
  expect_identical(doubt(6, 1)$code, character())
})

test_that("groups of unequal spread are told by their distances from their own medians", {
  three <- function(means, spreads, sizes) {
    y <- unlist(Map(function(m, s, n) m + s * stats::qnorm(ppoints(n)), means, spreads, sizes))
    data.frame(x = rep(c("Hill", "Mill", "Dale"), sizes), y = y)
  }
  expect_identical(nrow(caution_of(three(c(0, 8, -20), c(1, 1, 1), c(60, 40, 20)), "unequal_groups")), 0L)
  told <- caution_of(three(c(0, .4, 1.5), c(1, 1, 5), c(90, 60, 8)), "unequal_groups")
  expect_identical(nrow(told), 1L)
  expect_equal(told$figures[[1]]$sd_most, stats::sd(5 * stats::qnorm(ppoints(8))), tolerance = 1e-12)
})
