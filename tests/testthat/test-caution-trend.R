years <- demo_study("town_years")

test_that("a shared trend is told from a tie, in words that may stand in a paper", {
  shared <- flag_spurious(years, ebook_loans, cycle_path_km)
  expect_identical(shared$verdict, "trend only")
  expect_gt(shared$levels$r, .95)
  expect_lt(abs(shared$changes$r), .2)
  expect_match(in_words(shared), "a shared trend is enough to explain it")
  tied <- flag_spurious(years, warm_days, pool_visits)
  expect_identical(tied$verdict, "holds")
  expect_match(in_words(tied), "went together from year to year")
  expect_lte(max(nchar(format(shared), "width")), 80)
  expect_equal(tied$levels$r, relate(years, warm_days, pool_visits)$r, tolerance = 1e-12)
  expect_match(draw_over_time(shared)$labels$subtitle, "Verdict: trend only")
  expect_s3_class(draw_over_time(tied, kind = "scatter"), "ggplot")
})

test_that("changes, the trend taken out and Durbin-Watson are what their definitions say", {
  set.seed(3)
  x <- cumsum(rnorm(40)) + 1:40 / 5
  y <- cumsum(rnorm(40)) + 1:40 / 7
  found <- unsere:::check_trend(x, y, 1:40)
  resid_on <- function(v, basis) v - basis %*% solve(crossprod(basis), crossprod(basis, v))
  cubic <- outer((1:40 - 20.5) / 20, 0:3, `^`)
  expect_equal(found$detrended$r, cor_table(cbind(resid_on(x, cubic), resid_on(y, cubic)))[1, 2], tolerance = 1e-9)
  straight <- cbind(1, 2:40)
  expect_equal(found$changes$r, cor_table(cbind(resid_on(diff(x), straight), resid_on(diff(y), straight)))[1, 2],
    tolerance = 1e-9
  )
  e <- as.vector(resid_on(y, cbind(1, x)))
  expect_equal(found$durbin_watson, sum(diff(e)^2) / sum(e^2), tolerance = 1e-9)
  a <- as.vector(resid_on(x, cubic))
  b <- as.vector(resid_on(y, cubic))
  tie <- function(v, j) mean(v[1:(40 - j)] * v[(1 + j):40]) / mean(v^2)
  share <- 1 / 40 + 2 / 40 * sum(vapply(1:8, function(j) (40 - j) / 40 * tie(a, j) * tie(b, j), 0))
  expect_equal(found$detrended$n_effective, min(40, 1 / share), tolerance = 1e-9)
})

test_that("the verdict's error rates keep their limits in a small run", {
  set.seed(12)
  share <- function(make, n = 40, runs = 250) {
    mean(replicate(runs, {
      pair <- make(n)
      unsere:::check_trend(pair$x, pair$y, seq_len(n))$verdict == "holds"
    }))
  }
  walks <- function(n) list(x = cumsum(rnorm(n)), y = cumsum(rnorm(n)))
  trends <- function(n) list(x = 1:n / 5 + rnorm(n), y = 1:n / 4 + rnorm(n))
  tied <- function(n) {
    common <- rnorm(n)
    list(x = 1:n / 5 + common, y = 1:n / 4 + .75 * common + sqrt(1 - .75^2) * rnorm(n))
  }
  expect_lt(share(walks), .08)
  expect_lt(share(trends), .08)
  expect_gt(share(tied), .85)
})

test_that("time is read as researchers write it", {
  grid <- function(values) unsere:::time_grid(values, "t")
  expect_identical(grid(c("2019 Q1", "2019 Q2", "2019 Q3", "2019 Q4", "2020 Q1"))$step, "quarter")
  expect_identical(grid(sprintf("%d-%02d", rep(2019:2021, each = 12), rep(1:12, 3)))$season, 12L)
  expect_identical(grid(c("2019/20", "2020/21", "2021/22"))$step, "school year")
  expect_identical(grid(c("2020-W52", "2020-W53", "2021-W01", "2021-W02"))$gaps, integer())
  expect_identical(grid(as.Date(c("2020-01-31", "2020-02-29")) + 0)$step, "29 days")
  expect_identical(grid(as.Date(sprintf("2020-%02d-01", c(1, 4, 7))))$step, "quarter")
  expect_identical(grid(as.Date("2020-03-02") + 7 * 0:5)$step, "week")
  expect_identical(grid(c(2001, 2003, 2002, 2006))$gaps, 4:5)
  expect_false(grid(c(2001, 2003, 2002))$sorted)
  expect_match(grid(c("spring", "autumn"))$trouble, "no time that can be read")
  expect_match(grid(c(2001, 2001, 2002))$trouble, "more than once \\(rows 1, 2\\)")
  expect_match(grid(c(1, 2, 3.5, 4.2))$trouble, "uneven steps")
})

test_that("order, gaps and scale of the rows make no difference, or are said", {
  set.seed(6)
  data <- data.frame(year = 2001:2030, x = cumsum(rnorm(30)))
  data$y <- data$x + rnorm(30, sd = .3)
  whole <- flag_spurious(data, x, y, time = year)
  mixed <- flag_spurious(data[sample(30), ], x, y, time = year)
  expect_equal(mixed$changes$r, whole$changes$r, tolerance = 1e-12)
  expect_match(format(mixed), "put into the order of year", all = FALSE)
  scaled <- flag_spurious(transform(data, x = 1e8 + 1e-3 * x), x, y, time = year)
  expect_equal(scaled$detrended$r, whole$detrended$r, tolerance = 1e-4)
  gappy <- flag_spurious(data[-c(10, 11), ], x, y, time = year)
  expect_equal(gappy$periods$gaps, 2)
  expect_match(format(gappy), "2 years are missing on the way", all = FALSE)
  expect_identical(gappy$changes$n, 26L)
  few <- flag_spurious(data[1:7, ], x, y, time = year)
  expect_identical(few$verdict, "too little data")
  expect_error(flag_spurious(transform(data, year = 2001), x, y, time = year), "more than once",
    class = "unsere_error_input"
  )
  apart <- data.frame(year = 2001:2020, x = c(rnorm(10), rep(NA, 10)), y = c(rep(NA, 10), rnorm(10)))
  expect_error(flag_spurious(apart, x, y, time = year), "share no period", class = "unsere_error_undefined")
  line <- flag_spurious(transform(data, x = 1:30), x, y, time = year)
  expect_match(paste(format(line), collapse = " "), "same +step +every +time")
  expect_error(flag_spurious(transform(data, x = 1), x, y, time = year), class = "unsere_error_undefined")
})

test_that("a season that two monthly series share is taken out", {
  set.seed(7)
  month <- sprintf("%d-%02d", rep(2015:2020, each = 12), rep(1:12, 6))
  wave <- rep(sin(1:12 / 12 * 2 * pi) * 5, 6)
  data <- data.frame(month, x = wave + rnorm(72), y = wave + rnorm(72))
  found <- flag_spurious(data, x, y, time = month)
  expect_identical(found$verdict, "trend only")
  expect_match(paste(format(found), collapse = " "), "season +\\(12 periods a year\\) +was +taken +out")
})

test_that("several pairs at once are adjusted for their number; groups are looked into without a time", {
  table <- flag_spurious(years)
  expect_equal(nrow(table$pairs), 21)
  expect_identical(table$pairs$verdict[1], "holds")
  expect_lte(max(nchar(format(table), "width")), 80)
  expect_equal(nrow(as.data.frame(flag_spurious(years, hives))), 6)
  grouped <- flag_spurious(demo_study("learners"), commute_min, listening_score)
  expect_true(is.na(grouped$verdict) && grouped$within$r < -.4)
  expect_match(in_words(grouped), "Within 5 groups the relation was")
})

test_that("the command flags, as text and as JSON with the contract's fields", {
  file <- demo_file("town_years.csv")
  json <- jsonlite::fromJSON(unsere("flag", file, "ebook_loans", "cycle_path_km", "--format", "json")$out)
  expect_identical(json$verdict, "trend only")
  expect_true(all(c("kind", "levels", "changes", "detrended", "durbin_watson", "cautions") %in% names(json)))
  expect_match(unsere("flag", file)$out, "holds", all = FALSE)
  expect_equal(unsere("flag", file, "hives", "year")$status, 2)
  expect_equal(unsere("flag", demo_file("learners.csv"), "age_years", "commute_min", "--time", "learner")$status, 3)
  out <- withr::local_tempfile(fileext = ".png")
  expect_equal(unsere("draw", "over-time", file, "hives", "ebook_loans", "--out", out)$status, 0)
})

test_that("relate() and flag_spurious() see the same times: where one refuses them, the other speaks of no trend", {
  set.seed(55)
  n <- 24
  trend <- data.frame(x = 1:n + rnorm(n), y = 1:n + rnorm(n))
  uneven <- c(seq(2000, 2010, 1), 2013.4, seq(2020, 2031, 1))
  cases <- list(
    sound = 2001:(2000 + n), uneven = uneven, twice = rep(2001:(2000 + n / 2), each = 2),
    gappy = 2001:(2000 + n) + c(rep(0, 20), rep(4000, 4))
  )
  for (name in names(cases)) {
    data <- set_variable(as_study(data.frame(trend, year = cases[[name]])), year, role = "time")
    flagged <- tryCatch(flag_spurious(data, x, y)$verdict, unsere_error = function(e) "refused")
    warned <- "shared_trend" %in% cautions(relate(data, x, y))$code
    expect_identical(warned, flagged %in% c("trend only", "weakened"), label = name)
    expect_identical(flagged == "refused", name != "sound", label = name)
  }
})
