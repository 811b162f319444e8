test_that("the line agrees with fractions written out longhand", {
  set.seed(7)
  for (x in list(c(1.5, 2, 3.7, 4, 5.1, 6.9), 1994:2023 + 0, 1e6 + 1:20)) {
    y <- 3 + 0.25 * x + rnorm(length(x))
    truth <- longhand(x, y)
    fit <- fit_line(data.frame(x, y), x, y)
    terms <- fit$terms
    expect_gte(digits_of(terms$estimate[2], truth$slope), 13)
    expect_gte(digits_of(terms$estimate[1], truth$intercept), 12)
    expect_gte(digits_of(fit$residual_sd, truth$residual_sd), 13)
    se_slope <- truth$residual_sd / sqrt(truth$sxx)
    expect_gte(digits_of(terms$se[2], se_slope), 13)
    half <- qt(.975, truth$n - 2) * se_slope
    expect_gte(digits_of(terms$ci_high[2], truth$slope + half), 12)
    expect_gte(digits_of(terms$p[2], student_two_sided(truth$t, truth$n - 2)), 10)
  }
})

test_that("the slope's t is the t of r, F is its square, and the squares add up", {
  fit <- fit_line(demo_study("learners"), practice_hours, speaking_score)
  found <- relate(demo_study("learners"), practice_hours, speaking_score)
  expect_equal(fit$terms$t[2], found$value, tolerance = 1e-13)
  expect_equal(fit$terms$p[2], found$p, tolerance = 1e-12)
  expect_equal(fit$variance$f[1], found$value^2, tolerance = 1e-13)
  expect_equal(fit$variance$p[1], found$p, tolerance = 1e-12)
  expect_equal(sum(fit$variance$ss[1:2]), fit$variance$ss[3], tolerance = 1e-14)
  expect_equal(fit$r_squared, found$r_squared)
  expect_equal(fit$adj_r_squared, 1 - (1 - fit$r_squared) * 221 / 220, tolerance = 1e-14)
  expect_equal(sum(residuals(fit)), 0, tolerance = 1e-9)
  expect_equal(unname(coef(fit)), fit$terms$estimate)
})

test_that("the equation speaks the variables' labels and rounds for use, not the figures behind it", {
  fit <- fit_line(demo_study("dial"), dial, level_db)
  expect_match(equation(fit), "^Sound level = 41.31 \\+ 2.840 . Dial setting$")
  rounded <- 41.31 + 2.840 * (1:12)
  full <- fit$terms$estimate[1] + fit$terms$estimate[2] * (1:12)
  expect_lt(max(abs(rounded - full)), fit$residual_sd / 20)
  falling <- fit_line(data.frame(x = 1:5, y = c(-1, -3.1, -4.9, -7, -9.2)), x, y)
  expect_match(equation(falling), "^y = 1.05 . 2.030 . x$")
})

test_that("an exact line is said to be one", {
  fit <- fit_line(data.frame(x = 1:4, y = 2 * (1:4) + 1), x, y)
  expect_identical(fit$residual_sd, 0)
  expect_match(in_words(fit), "lay exactly on the line y = 1 \\+ 2 . x")
  expect_true(all(is.na(fit$terms$p)))
})

test_that("in words: the change in y for one unit of x, or that none is clear", {
  expect_match(in_words(fit_line(demo_study("dial"), dial, level_db)), paste0(
    "^Sound level was on average 2.84 dB higher for each additional step of dial setting, ",
    "b = 2.84, 95% CI \\[2.72, 2.96\\]"
  ))
  set.seed(3)
  expect_match(in_words(fit_line(data.frame(x = 1:20, y = rnorm(20)), x, y)), "^The slope of y on x was not significant")
})

test_that("a constant variable and an unknown shape are refused", {
  flat <- data.frame(x = c(2, 2, 2, 2), y = 1:4)
  expect_error(fit_line(flat, x, y), "x is 2 in all 4", class = "unsere_error_undefined")
  expect_error(fit_line(flat, y, x), class = "unsere_error_undefined")
  expect_error(fit_line(flat, x, y, shape = "bent"), "linear", class = "unsere_error_usage")
})

test_that("what a label holds never becomes part of the equation's arithmetic", {
  study <- data.frame(a = 1:20, b = 1:20 + c(1, -1), y = sin(1:20) + 1:20)
  study <- set_variable(set_variable(as_study(study), a, label = "2"), b, label = "x = y, log")
  ranked <- rank_predictors(study, y, a, b)
  panels <- levels(ggplot2::ggplot_build(draw_predictors(ranked))$layout$layout$panel)
  expect_match(panels, "\ny = 0\\.\\d+ \\+ 0\\.\\d+ . x", all = TRUE)
  expect_match(equation(fit_line(study, a, y)), "^y = [0-9.]+ \\+ [0-9.]+ . 2$")
  expect_match(equation(fit_line(study, a, y), "u", "v"), "^v = [0-9.]+ \\+ [0-9.]+ . u$")
  logged <- set_variable(study, a, label = "The logarithm of it")
  expect_identical(draw_box(logged, a)$labels$title, "The logarithm of it: no outliers")
})

test_that("predict() takes new data, and predictions print as lines but format as rows", {
  fit <- fit_line(demo_study("dial"), dial, level_db)
  rows <- predict(fit, newdata = data.frame(dial = c(4.5, 40), other = 1:2))
  expect_identical(rows$fit, predict_y(fit, c(4.5, 40))$fit)
  expect_identical(nrow(format(rows)), 2L)
  expect_identical(nrow(format(estimate_x(fit, c(55, 62)))), 2L)
  expect_error(predict(fit, newdata = data.frame(other = 1)), "dial", class = "unsere_error")
})

test_that("p of a line is never 0, and lines hold at any scale", {
  set.seed(4)
  x <- rnorm(3000)
  y <- x + 0.57 * rnorm(3000)
  line <- fit_line(data.frame(x, y), x, y)
  relation <- relate(data.frame(x, y), x, y)
  expect_equal(line$terms$log10_p[2], relation$log10_p, tolerance = 1e-12)
  expect_equal(line$variance$log10_p[1], relation$log10_p, tolerance = 1e-12)
  expect_false(any(grepl("NaN|Inf", format(line))))
  for (text in list(unsere:::as_json(line), unsere:::as_csv(unsere:::csv_fields(line)))) {
    expect_match(paste(text, collapse = " "), sprintf("e%d", floor(relation$log10_p)))
  }
  small <- fit_line(data.frame(x = x[1:50], y = y[1:50]), x, y)
  far <- fit_line(data.frame(x = x[1:50] * 2^500, y = y[1:50] * 2^-500), x, y)
  expect_identical(far$terms$t, small$terms$t)
  expect_equal(far$terms$se[2], small$terms$se[2] * 2^-1000, tolerance = 1e-15)
  expect_equal(predict_y(far, 2^500)$case_low, predict_y(small, 1)$case_low * 2^-500, tolerance = 1e-14)
  expect_equal(estimate_x(far, 2^-500)$x_high, estimate_x(small, 1)$x_high * 2^500, tolerance = 1e-12)
  expect_identical(
    unsere:::square_figures(c(3031.3, 0.325)),
    c("3,031.300", "0.325")[1:2][c(1, 2)] |> sub(pattern = ",", replacement = "")
  )
})
