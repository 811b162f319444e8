test_that("the jackknife is its definition: each case left out, on the z scale, Student's t", {
  set.seed(61)
  data <- data.frame(x = exp(rnorm(25)), y = rnorm(25))
  r <- function(d) cor_table(cbind(d$x, d$y))[1, 2]
  z <- vapply(1:25, function(k) atanh(r(data[-k, ])), 0)
  # Degrees of freedom by how unevenly the cases move z (Satterthwaite), three at least.
  moves <- function(z) mean((z - mean(z))^4) / mean((z - mean(z))^2)^2
  df <- function(z) min(23, max(3, 50 / (moves(z) - 1)))
  half <- qt(.975, df(z)) * sqrt(24 / 25 * sum((z - mean(z))^2))
  found <- relate(data, x, y, interval = "jackknife")
  expect_equal(c(found$ci_low, found$ci_high), tanh(atanh(r(data)) + c(-1, 1) * half), tolerance = 1e-12)
  expect_identical(found$ci_method, "jackknife")
  ranked <- vapply(1:25, function(k) atanh(r(as.data.frame(lapply(data[-k, ], rank)))), 0)
  expect_equal(c(found$df, found$p), c(df(z), 2 * pt(-abs(found$value), df(z))), tolerance = 1e-10)
  half <- qt(.975, df(ranked)) * sqrt(24 / 25 * sum((ranked - mean(ranked))^2))
  spearman <- relate(data, x, y, "spearman", interval = "jackknife")
  expect_equal(spearman$ci_high, tanh(atanh(spearman$r) + half), tolerance = 1e-12)
  group <- rep(1:5, 5)
  slow <- vapply(1:5, function(k) r(data[group != k, ]), 0)
  expect_equal(unsere:::r_without_groups(data$x, data$y, group), slow, tolerance = 1e-12)
  for (kind in c("tau-b", "spearman")) expect_match(paste(format(relate(data, x, y, kind, interval = "jackknife")),
    collapse = ""
  ), "jackknife")
})

test_that("intervals that are too narrow, classes, far values and unequal spreads are told, and clean data are not", {
  codes <- function(data) relate(data, x, y)$cautions$code
  set.seed(62)
  x <- rnorm(200)
  growing <- data.frame(x, y = .5 * x + abs(x) * rnorm(200))
  expect_true("interval_too_narrow" %in% relate(growing, x, y, interval = "analytic")$cautions$code)
  expect_identical(relate(growing, x, y)$ci_method, "jackknife")
  expect_false("interval_too_narrow" %in% codes(growing))
  class <- rep(sprintf("class %d", 1:20), each = 25)
  mix <- function() sqrt(.3) * rnorm(20)[rep(1:20, each = 25)] + sqrt(.7) * rnorm(500)
  taught <- data.frame(class, x = mix(), y = mix())
  expect_true("clustered_cases" %in% codes(taught))
  figures <- relate(taught, x, y)$cautions
  figures <- figures$figures[[match("clustered_cases", figures$code)]]
  expect_identical(figures$classes, 20L)
  expect_lt(abs(figures$icc_x - .3), .15)
  typed <- data.frame(x = c(runif(40, 0, 100), 880), y = rnorm(41))
  expect_true("far_value" %in% codes(typed))
  expect_match(paste(format(relate(typed, x, y)), collapse = " "), "Try: +draw_box\\(study, x, y\\)")
  # At the ends of a double nothing is stumbled over.
  expect_s3_class(relate(data.frame(x = x * 1e150, y = rnorm(200) * 1e-300, class = rep(1:20, 10)), x, y), "unsere_relation")
  uneven <- data.frame(x = rep(c("a", "b"), c(12, 90)), y = c(rnorm(12, sd = 5), rnorm(90)))
  told <- relate(uneven, x, y, interval = "analytic")$cautions
  expect_true("unequal_spreads" %in% told$code)
  parts <- split(uneven$y, uneven$x)
  share <- vapply(parts, function(v) sum((v - mean(v))^2) / (length(v) - 1) / length(v), 0)
  welch <- told$figures[[match("unequal_spreads", told$code)]]
  expect_equal(welch$t, unname(diff(vapply(parts, mean, 0)) / sqrt(sum(share))), tolerance = 1e-12)
  expect_equal(welch$df, sum(share)^2 / sum(share^2 / (lengths(parts) - 1)), tolerance = 1e-12)
  class <- sprintf("c%d", rep(1:10, 6))
  clean <- unlist(lapply(1:40, function(k) codes(data.frame(class, x = rnorm(60), y = rnorm(60)))))
  expect_lt(sum(clean %in% c("interval_too_narrow", "clustered_cases", "far_value")), 5)
})

test_that("one case is judged as relate() judges the data without it", {
  set.seed(63)
  data <- data.frame(x = c(rnorm(25), 7), y = c(rnorm(25), 7))
  for (expect in c("either", "positive", "negative")) for (kind in c("pearson", "spearman")) {
    told <- relate(data, x, y, kind, expect = expect)$cautions
    if (!"one_case" %in% told$code) next
    figures <- told$figures[[match("one_case", told$code)]]
    without <- relate(data[-26, ], x, y, kind, expect = expect)
    expect_equal(figures[c("r", "p")], without[c("r", "p")], ignore_attr = TRUE, tolerance = 1e-12)
  }
  expect_true("one_case" %in% relate(data, x, y)$cautions$code)
})

test_that("phi's interval agrees with the test about 0, and p is exact for few expected", {
  table_of <- function(counts) {
    cells <- rep(1:4, counts)
    data.frame(x = ifelse(cells <= 2, "yes", "no"), y = ifelse(cells %in% c(1, 3), "yes", "no"))
  }
  set.seed(64)
  for (k in 1:60) {
    counts <- as.vector(rmultinom(1, sample(c(20, 40, 100), 1), c(.1, .2, .2, .5)))
    data <- table_of(counts)
    if (length(unique(data$x)) < 2 || length(unique(data$y)) < 2) next
    found <- relate(data, x, y)
    if (is.na(found$ci_low)) next
    expect_identical(found$ci_low <= 0 && found$ci_high >= 0, found$p >= .05, label = toString(counts))
    expect_true(found$ci_low <= found$r && found$r <= found$ci_high)
    margins <- c(counts[1] + counts[2], counts[1] + counts[3])
    least <- min(outer(c(margins[1], sum(counts) - margins[1]), c(margins[2], sum(counts) - margins[2]))) / sum(counts)
    expect_identical(found$p_method, if (least < 5) "exact" else "analytic")
    if (least < 5) {
      both <- max(0, sum(margins) - sum(counts)):min(margins)
      weight <- choose(margins[1], both) * choose(sum(counts) - margins[1], margins[2] - both) / choose(
        sum(counts),
        margins[2]
      )
      expect_equal(found$p, sum(weight[weight <= weight[both == counts[1]] * (1 + 1e-7)]), tolerance = 1e-10)
    }
  }
})

test_that("a parabola without scatter is told, not stumbled over; r is 0 and its direction none", {
  data <- data.frame(x = -7:7, y = (-7:7)^2, side = 1:15, area = (1:15)^2)
  relation <- relate(data, x, y)
  expect_identical(relation$r, 0)
  expect_identical(relation$direction, "none")
  expect_match(paste(format(relate(data, side, area)), collapse = " "), "lie on a curve")
  expect_identical(fit_line(data, x, y)$terms$estimate[2], 0)
  expect_s3_class(correlation_matrix(data), "unsere_matrix")
  for (shape in 1:40) {
    line <- fit_line(data.frame(x = 1:30, y = 2 * (1:30) + rnorm(30)), x, y, shape = "quadratic")
    backwards <- estimate_x(line, c(10, 40, 70))
    there <- backwards$limits != "none"
    expect_true(all((backwards$x_low <= backwards$x + 1e-9 & backwards$x <= backwards$x_high + 1e-9)[there]))
  }
})

test_that("what runs against the prediction says so, and .05 itself is not below .05", {
  set.seed(65)
  data <- data.frame(x = rnorm(30))
  data$y <- rnorm(30) - data$x
  against <- relate(data, x, y, expect = "positive")
  expect_match(in_words(against), "the correlation had the opposite sign")
  expect_match(paste(format(against), collapse = " "), "opposite to the positive direction")
  expect_false(unsere:::is_below(.05, .95))
  expect_false(unsere:::is_below(.05 - 1e-17, .95))
  expect_true(unsere:::is_below(.0499999, .95))
  expect_identical(unsere:::format_p_clause(c(.0504)), "p = .0504")
  expect_identical(unsere:::format_p_clause(.05), "p = .050")
  expect_identical(unsere:::format_statistic(c(2.345, 23456.7, 3.2e7)), c("2.35", "23,457", "3.20 \u00d7 10^7"))
  two <- relate(data.frame(x = rep(c(10, 20), 12), g = rep(c("a", "a", "b"), 8)), x, g)
  if (!is.null(two$groups)) expect_true(all(two$groups$mean >= 10))
})

test_that("where the route chose the textbook's interval no caution asks for the jackknife's, whatever the data", {
  set.seed(31)
  draws <- list(
    function(n) cbind(rnorm(n), rnorm(n)), function(n) exp(matrix(rnorm(2 * n), n)), function(n) matrix(rt(2 * n, 3), n),
    function(n) cbind(rep(0:1, n / 2), rexp(n) * rep(1:2, n / 2)), function(n) matrix(rnbinom(2 * n, 1, mu = 2), n)
  )
  for (n in c(20, 60, 200)) for (draw in draws) for (k in 1:6) {
    data <- stats::setNames(as.data.frame(draw(n)), c("x", "y"))
    found <- tryCatch(relate(data, x, y), unsere_error_undefined = function(e) NULL)
    if (is.null(found)) next
    expect_false("interval_too_narrow" %in% found$cautions$code)
    expect_identical(found$ci_method == "jackknife", found$p_method == "jackknife")
  }
  heavy <- data.frame(x = c(stats::qnorm(ppoints(40)), 9), y = c(rep(c(-1, 1), 20), 9))
  expect_true("interval_too_narrow" %in% relate(heavy, x, y, interval = "analytic")$cautions$code)
})
