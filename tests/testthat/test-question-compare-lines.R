learners <- demo_study("learners")

# Least squares in exact fractions by the normal equations, a row of powers a case.
exact_fit <- function(x, y, powers) {
  columns <- lapply(powers, function(p) gmp::as.bigq(x)^p)
  k <- length(columns)
  a <- gmp::as.bigq(matrix(0, k, k))
  b <- gmp::as.bigq(rep(0, k))
  for (i in seq_len(k)) {
    for (j in seq_len(k)) a[i, j] <- sum(columns[[i]] * columns[[j]])
    b[i] <- sum(columns[[i]] * gmp::as.bigq(y))
  }
  as.numeric(solve(a, b))
}

test_that("a curve on ill-conditioned x agrees with exact fractions to ten digits and more", {
  set.seed(11)
  for (x in list(c(1.5, 2, 3.7, 4, 5.1, 6.9), 1994:2023 + 0, 1e6 + 1:20)) {
    y <- round(3 + 0.25 * x + 0.01 * (x - mean(x))^2 + rnorm(length(x)), 3)
    fit <- fit_line(data.frame(x, y), x, y, shape = "quadratic")
    truth <- exact_fit(x, y, 0:2)
    expect_lt(max(abs(fit$terms$estimate / truth - 1)), 1e-12)
    expect_equal(sum(fit$variance$ss[1:2]), fit$variance$ss[3], tolerance = 1e-12)
  }
})

test_that("the published certified values of a quadratic are met", {
  # Powers of whole numbers: y = 1 + x + x^2 exactly, x = 0 to 20; the line is exact and said to be.
  x <- 0:20
  fit <- fit_line(data.frame(x, y = 1 + x + x^2), x, y, shape = "quadratic")
  expect_equal(fit$terms$estimate, c(1, 1, 1), tolerance = 1e-13)
  expect_identical(fit$residual_sd, 0)
})

test_that("a long line by its moments is the line of the same cases by orthogonalisation", {
  set.seed(4)
  x <- 2000 + rnorm(25000, sd = 9)
  y <- 5 + 0.3 * x + 0.02 * (x - 2000)^2 + rnorm(25000)
  for (shape in c("linear", "quadratic", "log")) {
    long <- unsere:::measure_line(x, y, shape = shape)
    score <- if (shape == "log") log(x) else x
    k <- length(long$estimates)
    design <- outer(score - mean(score), seq_len(k) - 1, `^`)
    about <- qr.solve(design, y)
    expect_equal(long$fitted, as.vector(design %*% about), tolerance = 1e-12)
    expect_equal(sum(long$residuals), 0, tolerance = 1e-6)
    expect_equal(long$residual_squares, sum((y - design %*% about)^2), tolerance = 1e-11)
    spread <- solve(crossprod(design))
    at <- cbind(1, 3, if (k == 3) 9)
    shift <- long$centre - mean(score)
    ours <- sum((outer(3 - shift, seq_len(k) - 1, `^`) %*% long$centred_covariance) * outer(
      3 - shift, seq_len(k) - 1,
      `^`
    ))
    expect_equal(ours, as.vector(at %*% spread %*% t(at)), tolerance = 1e-9)
  }
})

test_that("the logarithm is read per 1 % and per doubling, and refused where there is none", {
  fit <- fit_line(learners, practice_hours, speaking_score, shape = "log")
  b <- fit$terms$estimate[2]
  told <- gsub("\\s+", " ", paste(format(fit), collapse = " "))
  expect_match(told, "1% increase in weekly practice is associated with +0.147 points", fixed = TRUE)
  expect_equal(diff(predict_y(fit, c(4, 8))$fit), b * log(2), tolerance = 1e-12)
  expect_match(in_words(fit), "10.2 points higher with each doubling")
  expect_error(fit_line(data.frame(x = c(1, 0, -2, 4), y = 1:4), x, y, shape = "log"),
    "2 cases.*row 2 \\(0\\), row 3 \\(-2\\)",
    class = "unsere_error_undefined"
  )
  expect_error(fit_line(data.frame(x = c(1, 1, 2, 2), y = 1:4), x, y, shape = "quadratic"),
    "only 2 values; a curve needs three",
    class = "unsere_error_undefined"
  )
})

test_that("where a curve turns is said, and whether that is inside the data", {
  fit <- fit_line(learners, practice_hours, speaking_score, shape = "quadratic")
  turn <- -fit$terms$estimate[2] / (2 * fit$terms$estimate[3])
  expect_equal(unsere:::turning_point(fit), turn, tolerance = 1e-12)
  expect_match(paste(format(fit), collapse = " "), "maximum +at +Weekly +practice = 13.5 h, +inside +the +data")
  far <- fit_line(data.frame(x = 1:30, y = (1:30)^1.5 + sin(1:30)), x, y, shape = "quadratic")
  expect_match(in_words(far), "rose with x, more at higher values")
  expect_match(
    paste(format(fit_line(demo_study("town_years"), year, hives)), collapse = " "),
    "predicted +value +at"
  )
})

test_that("predictions hold the mean and the single case as often as they say", {
  set.seed(8)
  held <- replicate(300, {
    x <- runif(12)
    fit <- fit_line(data.frame(x, y = 2 + x + rnorm(12)), x, y)
    row <- predict_y(fit, 0.8)
    c(row$mean_low < 2.8 && 2.8 < row$mean_high, {
      new <- 2.8 + rnorm(1)
      row$case_low < new && new < row$case_high
    })
  })
  expect_true(all(abs(rowMeans(held) - 0.95) < 0.03))
  fit <- fit_line(learners, practice_hours, speaking_score)
  rows <- predict_y(fit, c(5, 30))
  expect_identical(rows$outside_data, c(FALSE, TRUE))
  expect_equal(rows$fit, fit$terms$estimate[1] + fit$terms$estimate[2] * c(5, 30), tolerance = 1e-13)
  expect_error(predict_y(fit, "five"), class = "unsere_error_usage")
})

test_that("limits read backwards are those at which a reading is just no surprise; a flat line has none", {
  dial <- fit_line(demo_study("dial"), dial, level_db)
  found <- estimate_x(dial, c(55, 62))
  for (k in 1:2) {
    band <- predict_y(dial, c(found$x_low[k], found$x_high[k]))
    expect_equal(c(band$case_high[1], band$case_low[2]), rep(found$y[k], 2), tolerance = 1e-10)
  }
  several <- estimate_x(dial, c(54.1, 55.2, 54.8), same_unknown = TRUE)
  expect_lt(several$x_high - several$x_low, found$x_high[1] - found$x_low[1])
  curve <- fit_line(learners, practice_hours, speaking_score, shape = "quadratic")
  at <- estimate_x(curve, 60)
  expect_equal(predict_y(curve, at$x)$fit, 60, tolerance = 1e-10)
  expect_equal(predict_y(curve, at$x_low)$case_high, 60, tolerance = 1e-8)
  expect_identical(estimate_x(curve, 300)$limits, "none")
  set.seed(1)
  noise <- fit_line(data.frame(x = 1:12, y = rnorm(12)), x, y)
  expect_setequal(estimate_x(noise, c(0, 5))$limits, c("unbounded", "two-part"))
  expect_match(capture.output(print(estimate_x(noise, 0))), "no limits: any x will do", all = FALSE)
  two_part <- estimate_x(noise, 5)
  expect_true(two_part$x_low < two_part$x_high)
})

test_that("shapes are compared on the same cases, levels and changes only in words", {
  lines <- lapply(c("linear", "log", "quadratic"), function(shape) {
    fit_line(learners, practice_hours, speaking_score, shape)
  })
  found <- do.call(compare_lines, lines)
  expect_identical(found$lines$line[which.min(found$lines$aicc)], "log")
  expect_equal(found$curve$t, lines[[3]]$terms$t[3])
  expect_equal(sum(found$lines$weight), 1)
  expect_match(in_words(found), "the log line fits best")
  years <- derive(demo_study("town_years"), a = "change(ebook_loans)", b = "change(hives)")
  other <- compare_lines(levels = fit_line(years, ebook_loans, hives), changes = fit_line(years, a, b))
  expect_false(other$same_y)
  expect_match(in_words(other), "cannot be compared.*levels: slope.*changes: slope")
  expect_error(compare_lines(lines[[1]]), class = "unsere_error_usage")
})

test_that("residuals: a planted bend and a planted growth are found, the largest is named", {
  set.seed(2)
  x <- runif(100, 1, 10)
  bent <- check_residuals(fit_line(data.frame(x, y = x^2 + rnorm(100)), x, y))
  expect_lt(bent$bend$p, 1e-6)
  expect_match(in_words(bent), "bending up")
  grown <- check_residuals(fit_line(data.frame(x, y = x + x * rnorm(100)), x, y))
  expect_lt(grown$spread$p, .01)
  found <- check_residuals(fit_line(learners, practice_hours, speaking_score))
  expect_equal(found$bend$value, fit_line(learners, practice_hours, speaking_score, "quadratic")$terms$t[3],
    tolerance = 1e-9
  )
  expect_identical(found$largest$case[1], "L024")
  expect_lt(abs(found$sum), 1e-9)
  expect_error(check_residuals(fit_line(data.frame(x = 1:8, y = 1:8), x, y)), class = "unsere_error_undefined")
})
