years <- demo_study("town_years")

test_that("a shared trend is told from a tie, in words that may stand in a paper", {
  shared <- flag_spurious(years, ebook_loans, cycle_path_km)
  expect_identical(shared$verdict, "trend only")
  expect_gt(shared$levels$r, .95)
  expect_lt(abs(shared$changes$r), .2)
  expect_match(in_words(shared), "A shared trend is enough to explain")
  tied <- flag_spurious(years, warm_days, pool_visits)
  expect_identical(tied$verdict, "holds")
  expect_match(in_words(tied), "were correlated from year to year")
  expect_lte(max(nchar(format(shared), "width")), 80)
  expect_equal(tied$levels$r, relate(years, warm_days, pool_visits)$r, tolerance = 1e-12)
  expect_match(draw_over_time(shared)$labels$subtitle, "Verdict: shared trend only")
  expect_s3_class(draw_over_time(tied, kind = "scatter"), "ggplot")
})

test_that("no sentence calls a figure insignificant whose own p is below .05", {
  for (seed in c(1, 51, 58)) {
    set.seed(seed)
    shock <- rnorm(150)
    series <- function() 1:150 * .6 + cumsum(rnorm(150)) * .4 + .5 * shock + rnorm(150)
    data <- data.frame(year = 1801:1950, x = series(), y = series())
    found <- flag_spurious(data, x, y)
    expect_identical(found$verdict, "trend only")
    expect_lt(found$changes$p, .05)
    words <- c(in_words(found), in_words(relate(data, x, y)))
    expect_match(words[1], "Without the trend the evidence is weak: the changes were significantly correlated")
    expect_match(words[2], "without the trend the evidence is weak \\(changes: r = ")
    denied <- regmatches(words, gregexpr("(were|was) not [^(]*\\(r = [^)]*p [=<] \\.[0-9]+", words))
    expect_false(any(as.numeric(sub("^.*p [=<] ", "", unlist(denied))) < .05))
  }
})

test_that("changes, the trend taken out and Durbin-Watson are what their definitions say", {
  set.seed(3)
  x <- cumsum(rnorm(40)) + 1:40 / 5
  y <- cumsum(rnorm(40)) + 1:40 / 7
  found <- unsere:::check_trend(x, y, 1:40)
  resid_on <- function(v, basis) qr.resid(qr(basis), v)
  quartic <- outer((1:40 - 20.5) / 20, 0:4, `^`)
  expect_equal(found$detrended$r, cor_table(cbind(resid_on(x, quartic), resid_on(y, quartic)))[1, 2], tolerance = 1e-9)
  bent <- outer((2:40 - 21) / 20, 0:2, `^`)
  expect_equal(found$changes$r, cor_table(cbind(resid_on(diff(x), bent), resid_on(diff(y), bent)))[1, 2],
    tolerance = 1e-9
  )
  e <- as.vector(resid_on(y, cbind(1, x)))
  expect_equal(found$durbin_watson, sum(diff(e)^2) / sum(e^2), tolerance = 1e-9)
  a <- as.vector(resid_on(x, quartic))
  b <- as.vector(resid_on(y, quartic))
  tie <- function(v, j) mean(v[1:(40 - j)] * v[(1 + j):40]) / mean(v^2)
  share <- 1 / 40 + 2 / 40 * sum(vapply(1:8, function(j) (40 - j) / 40 * tie(a, j) * tie(b, j), 0))
  expect_equal(found$detrended$n_effective, min(40, 1 / share), tolerance = 1e-9)
  carried <- function(v) max(0, min(1, 1 + 2 * (mean(v[-1] * v[-39]) / mean(v^2) + 1 / 39)))
  kept <- mean(c(carried(resid_on(diff(x), bent)), carried(resid_on(diff(y), bent))))
  new <- cbind(x[-1] - kept * x[-40], y[-1] - kept * y[-40])
  tied <- function(extra) {
    both <- resid_on(new, cbind(quartic[-1, ], extra))
    sum(both[, 1] * both[, 2]) / sqrt(sum(both[, 1]^2) * sum(both[, 2]^2))
  }
  expect_equal(found$prewhitened$r, tied(NULL), tolerance = 1e-9)
  without <- vapply(1:37, function(i) tied(cbind(diag(39)[, i + 0:2], as.numeric(1:39 > i + 1))), 0)
  expect_equal(found$weakest$r, min(without * sign(tied(NULL))) * sign(tied(NULL)), tolerance = 1e-9)
})

test_that("the verdict's error rates keep their limits in a small run", {
  set.seed(12)
  share <- function(make, n = 40, runs = 100) {
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
  event <- function(sizes) {
    function(n) {
      common <- replace(numeric(n), sample(3:(n - 3), 1) + seq_along(sizes) - 1, sizes)
      list(x = rnorm(n) + common, y = rnorm(n) + common)
    }
  }
  seasonal <- function(n) list(x = rep_len(c(3, 0, -3, 1), n) + rnorm(n), y = rep_len(c(2, 1, -3, 0), n) + rnorm(n))
  grown <- function(n) list(x = 9 / (1 + exp(-seq(-4, 4, length.out = n))) + rnorm(n) / 9, y = exp(1:n / 20) + rnorm(n) / 9)
  for (make in list(walks, trends, event(5), event(c(4, 4)), seasonal, grown)) expect_lt(share(make, runs = 60), .12)
  expect_lt(share(event(5), 20, 80), .1)
  expect_gt(share(tied), .85)
})

test_that("time is read as researchers write it", {
  grid <- function(values) unsere:::time_grid(values, "t")
  expect_identical(grid(c("2019 Q1", "2019 Q2", "2019 Q3", "2019 Q4", "2020 Q1"))$step, "quarter")
  expect_identical(grid(sprintf("%d-%02d", rep(2019:2021, each = 12), rep(1:12, 3)))$season, 12L)
  expect_identical(grid(c("2019/20", "2020/21", "2021/22"))$step, "school year")
  expect_identical(grid(c("2020-W52", "2020-W53", "2021-W01", "2021-W02"))$gaps, integer())
  expect_identical(grid(as.Date(c("2020-01-31", "2020-02-29")))$step, "month")
  expect_identical(grid(as.Date(c("2020-01-31", "2020-02-28", "2020-03-27")))$step, "4 weeks")
  halves <- grid(c("2015-01", "2015-07", "2016-01", "2016-07"))
  expect_identical(halves[c("step", "season")], list(step = "half-year", season = 2L))
  expect_identical(grid(c(201911, 201912, 202001))$step, "month")
  expect_identical(grid(c(20191101, 20191108, 20191115))$step, "week")
  expect_identical(grid(c(2019.1, 2019.2, 2020.1))$step, "half-year")
  expect_identical(grid(2019 + 0:7 / 4)$season, 4L)
  expect_identical(grid(c("May-01", "May-02", "May-03"))$times, NULL)
  expect_identical(grid(as.Date(sprintf("2020-%02d-01", c(1, 4, 7))))$step, "quarter")
  expect_identical(grid(as.Date("2020-03-02") + 7 * 0:5)$step, "week")
  expect_identical(grid(c(2001, 2003, 2002, 2006))$gaps, 4:5)
  expect_false(grid(c(2001, 2003, 2002))$sorted)
  hours <- as.POSIXct("2024-01-01", tz = "UTC") + 3600 * 0:71
  expect_identical(grid(hours)[c("step", "season")], list(step = "hour", season = 24L))
  expect_identical(grid(hours[1] + 900 * 0:20)[c("step", "season")], list(step = "15 minutes", season = 1L))
  expect_identical(grid(hours[1] + 86400 * 0:9)$step, "day")
  # When somebody answered is no period of a series.
  expect_match(unsere:::in_english(grid(hours[1] + cumsum(rexp(40, 1 / 900)))$trouble), "more than once")
  expect_match(unsere:::in_english(grid(c("spring", "autumn"))$trouble), "no time that can be read")
  expect_match(unsere:::in_english(grid(c(2001, 2001, 2002))$trouble), "more than once \\(rows 1, 2\\)")
  expect_true(grid(c(1, 2, 3.5, 4.2))$uneven)
})

test_that("order, gaps and scale of the rows make no difference, or are said", {
  set.seed(6)
  data <- data.frame(year = 2001:2030, x = cumsum(rnorm(30)))
  data$y <- data$x + rnorm(30, sd = .3)
  whole <- flag_spurious(data, x, y, time = year)
  mixed <- flag_spurious(data[sample(30), ], x, y, time = year)
  expect_equal(mixed$changes$r, whole$changes$r, tolerance = 1e-12)
  expect_match(format(mixed), "sorted by year", all = FALSE)
  scaled <- flag_spurious(transform(data, x = 1e8 + 1e-3 * x), x, y, time = year)
  expect_equal(scaled$detrended$r, whole$detrended$r, tolerance = 1e-4)
  gappy <- flag_spurious(data[-c(10, 11), ], x, y, time = year)
  expect_equal(gappy$periods$gaps, 2)
  expect_match(format(gappy), "Missing periods: 2 years", all = FALSE)
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
  expect_match(paste(format(found), collapse = " "), "seasonal pattern \\(12 periods\\) was removed")
})

test_that("several pairs at once are adjusted for their number; groups are looked into without a time", {
  table <- flag_spurious(years)
  expect_equal(nrow(table$pairs), 21)
  expect_identical(table$pairs$verdict[1], "holds")
  expect_lte(max(nchar(format(table), "width")), 80)
  expect_equal(nrow(as.data.frame(flag_spurious(years, hives))), 6)
  grouped <- flag_spurious(demo_study("learners"), commute_min, listening_score)
  expect_true(is.na(grouped$verdict) && grouped$within$r < -.4)
  expect_match(in_words(grouped), "Within 5 groups, r")
})

test_that("the command flags, as text and as JSON with the contract's fields", {
  file <- demo_file("town_years.csv")
  json <- jsonlite::fromJSON(unsere("flag", file, "ebook_loans", "cycle_path_km", "--format", "json")$out)
  expect_identical(json$verdict, "trend only")
  expect_true(all(c("kind", "levels", "changes", "detrended", "durbin_watson", "cautions") %in% names(json)))
  expect_match(unsere("flag", file)$out, "robust", all = FALSE)
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
    expect_identical(warned, flagged %in% c("trend only", "weakened", "cannot tell"), label = name)
    expect_identical(flagged == "refused", name %in% c("twice", "gappy"), label = name)
  }
})

test_that("a lag is sought at its price, units over years are compared within, uneven times count by their length", {
  set.seed(5)
  x <- cumsum(rnorm(50))
  late <- data.frame(year = 1971:2020, x, y = c(0, 0, x[1:48]) + rnorm(50, sd = .4))
  expect_false(flag_spurious(late, x, y, time = year)$verdict == "holds")
  found <- flag_spurious(late, x, y, time = year, lag = 3)
  expect_identical(c(found$verdict, found$lag), c("holds", "2"))
  expect_equal(found$lags$p_adjusted, pmin(1, 4 * found$lags$p))
  expect_match(format(found), "y follows x most closely after 2 years", all = FALSE)
  panel <- expand.grid(school = paste("School", 1:12), year = 2011:2018)
  common <- rnorm(8, sd = 3)[panel$year - 2010]
  own <- rnorm(96)
  apart <- transform(panel, x = rnorm(96) + common, y = rnorm(96) + common)
  joined <- transform(panel, x = own + common, y = .8 * own + rnorm(96, sd = .5) - common)
  told <- flag_spurious(apart, x, y, time = year, group = school)
  expect_gt(told$levels$r, .6)
  expect_false(told$verdict == "holds")
  tied <- flag_spurious(joined, x, y, time = year, group = school)
  expect_identical(c(tied$verdict, sign(tied$levels$r)), c("holds", "-1"))
  demeaned <- function(v) v - stats::ave(v, panel$school) - stats::ave(v, panel$year) + mean(v)
  expect_equal(tied$detrended$r, cor_table(cbind(demeaned(joined$x), demeaned(joined$y)))[1, 2], tolerance = 1e-9)
  expect_match(format(tied), "12 units \\(school\\) over 8 times", all = FALSE)
  expect_identical(flag_spurious(joined, x, y, time = year)$detrended, tied$detrended)
  expect_error(flag_spurious(joined[-1], x, y, time = year), "more than once", class = "unsere_error_input")
  uneven <- data.frame(t = cumsum(c(1, 3, 1, 2, 5, 1, 1, 4, 2, 1.5, rep(c(1, 2.5), 10))))
  step <- rnorm(30) * sqrt(c(1, diff(uneven$t)))
  uneven <- transform(uneven, x = cumsum(step), y = cumsum(step + rnorm(30, sd = .2)))
  expect_identical(flag_spurious(uneven, x, y, time = t)$verdict, "holds")
})

test_that("a verdict is withheld where a tie beyond the trends can be neither shown nor ruled out", {
  set.seed(10)
  short <- data.frame(year = 2001:2014, x = 1:14 + rnorm(14), y = 1:14 + rnorm(14))
  found <- flag_spurious(short, x, y, time = year)
  expect_identical(found$verdict, "cannot tell")
  expect_match(in_words(found), "14 years are too few to tell")
  set.seed(2)
  month <- sprintf("%d-%02d", c(rep(2019, 12), rep(2020, 6)), c(1:12, 1:6))
  tied <- rnorm(18)
  few <- data.frame(month, x = tied, y = tied + rnorm(18, sd = .2))
  expect_identical(flag_spurious(few, x, y, time = month)$verdict, "cannot tell")
  expect_identical(flag_spurious(few, x, y, time = month, season = 1)$verdict, "holds")
})

test_that("periods are read however they are written, and are the time by themselves", {
  set.seed(12)
  semesters <- paste(c("SS", "WS"), c(rbind(2001:2012, sprintf("%d/%02d", 2001:2012, 2:13))))
  forms <- list(
    quarter = sprintf("Q%d %d", rep(1:4, 6), rep(2014:2019, each = 4)),
    quarter = sprintf("%d. Quartal %d", rep(1:4, 6), rep(2014:2019, each = 4)),
    month = paste(
      c("Jan", "Feb", "M\u00e4rz", "Apr.", "Mai", "Juni", "Juli", "Aug", "Sept", "Okt", "Nov", "Dez"),
      rep(2019:2020, each = 12)
    ),
    month = paste(
      c("janvier", "f\u00e9vr.", "mars", "avril", "mai", "juin", "juil.", "ao\u00fbt", "sept", "oct", "nov", "d\u00e9c"),
      rep(2019:2020, each = 12)
    ),
    month = sprintf("%02d/%d", rep(1:12, 2), rep(2019:2020, each = 12)), week = sprintf("KW %d/2020", 1:24),
    "school year" = sprintf("%d-%02d", 1990:2013, c(91:99, 0:14)), "school year" = sprintf("AY %d/%d", 1990:2013, 1991:2014),
    "half-year" = sprintf("%d. Halbjahr %d", 1:2, rep(2001:2012, each = 2)), semester = semesters,
    "half-year" = paste(c("Spring", "Fall"), rep(2001:2012, each = 2)),
    "school term" = sprintf("T%d %d", 1:3, rep(2001:2008, each = 3)), year = paste("Fall", 2001:2024),
    month = paste0(month.abb, "-", rep(19:20, each = 12)), week = paste("Week", 1:24)
  )
  for (k in seq_along(forms)) {
    data <- data.frame(t = forms[[k]], x = cumsum(rnorm(24, 1)), y = cumsum(rnorm(24, 1)))
    study <- as_study(data)
    expect_identical(codebook(study)$role[1], "time")
    expect_true(forms[[k]][5] %in% find_outliers(transform(data, x = replace(x, 5, 900)), x)$case)
    found <- relate(study, x, y)
    expect_true("shared_trend" %in% found$cautions$code, label = forms[[k]][1])
    expect_identical(flag_spurious(study, x, y)$step, names(forms)[k])
  }
  # Names of cases and codes are none.
  others <- list(
    sprintf("A%04d", 1:24), sprintf("0%03d-07", 1:24), sprintf("Case %d", 2001:2024), sprintf("Q%d", 101:124)
  )
  for (other in others) {
    expect_identical(codebook(as_study(data.frame(t = other, x = rnorm(24))))$role[1], "case")
  }
  expect_identical(codebook(as_study(data.frame(
    id = sprintf("p%d", 1:24), began = rep(c("2019/20", "2020/21", "2021/22"), 8),
    x = rnorm(24)
  )))$role[2], "measure")
})

test_that("a trend that units share is told of their cases, a relation between units is not taken for one", {
  set.seed(31)
  school <- rep(1:15, each = 8)
  data <- data.frame(school = sprintf("S%02d", school), year = rep(2010:2017, 15))
  level <- cbind(rnorm(15), rnorm(15))
  trend <- data.frame(data, x = level[school, 1] + .5 * data$year + rnorm(120))
  trend$y <- level[school, 2] + .4 * data$year + rnorm(120)
  told <- relate(trend, x, y)$cautions
  expect_identical(as.character(told$severity[told$code == "shared_trend"]), "serious")
  figures <- told$figures[[which(told$code == "shared_trend")]]
  expect_identical(figures[c("time", "units", "unit")], list(time = "year", units = 15L, unit = "school"))
  # Longhand: what the means of schools and of years leave, in this even panel.
  left <- function(v) v - ave(v, trend$school) - ave(v, trend$year) + mean(v)
  by_hand <- sum(left(trend$x) * left(trend$y)) / sqrt(sum(left(trend$x)^2) * sum(left(trend$y)^2))
  expect_equal(figures$detrended$r, by_hand, tolerance = 1e-9)
  expect_match(in_words(relate(trend, x, y)), "a shared trend is enough")
  flagged <- flag_spurious(trend, x, y)
  expect_identical(c(flagged$verdict, flagged$time), c("trend only", "year"))
  expect_match(paste(format(flagged), collapse = " "), "15 units \\(school\\)")
  # Waves in uneven steps: each unit's change is from one wave to the next.
  waves <- transform(trend, year = c(2000, 2003, 2004, 2008, 2009, 2012, 2018, 2022)[year - 2009])
  uneven <- flag_spurious(waves, x, y, time = year, group = school)
  expect_identical(uneven$changes[c("r", "n")], flagged$changes[c("r", "n")])
  expect_match(in_words(uneven), "changes from one time to the next were not")
  both <- level[school, 1]
  between <- data.frame(data, x = both + rnorm(120, 0, .5), y = .8 * both + .5 * level[school, 2] + rnorm(120, 0, .5))
  found <- flag_spurious(between, x, y)
  expect_identical(found$verdict, "between units")
  expect_match(in_words(found), "were correlated between the 15 units")
  drawn <- draw_over_time(found)
  expect_match(drawn$labels$subtitle, "between units")
  layers <- ggplot2::ggplot_build(drawn)$data
  expect_identical(length(unique(layers[[1]]$group)), 15L)
  expect_equal(layers[[2]]$y[layers[[2]]$PANEL == 1], unname(c(tapply(between$x, between$year, mean))))
  expect_s3_class(draw_over_time(found, kind = "scatter"), "ggplot")
  # Of many pairs looked at, p is adjusted for them.
  third <- transform(between, z = rnorm(120))
  table <- flag_spurious(third)
  alone <- flag_spurious(third, x, y)$changes$p
  expect_gte(table$pairs$p_adjusted[table$pairs$x == "x" & table$pairs$y == "y"], alone)
  expect_false("shared_trend" %in% relate(between, x, y)$cautions$code)
  # A trend that is not told of silences no other caution.
  expect_true("mixed_groups" %in% relate(between, x, y)$cautions$code)
})

test_that("rows that resemble their neighbours are told where nothing says why, and turn the sentence round", {
  set.seed(5)
  told <- function(data) {
    found <- relate(data, x, y)$cautions
    as.character(found$severity[found$code == "alike_neighbours"])
  }
  walks <- data.frame(no = cumsum(sample(1:3, 60, TRUE)), x = cumsum(rnorm(60)), y = cumsum(rnorm(60)))
  while (textbook_p(relate(walks, x, y)) > 1e-3) walks$y <- cumsum(rnorm(60))
  expect_identical(told(walks), "serious")
  found <- relate(walks, x, y)
  figures <- found$cautions$figures[[match("alike_neighbours", found$cautions$code)]]
  # Longhand: Bartlett's number of cases, over twelve lags.
  ties <- function(v, lag) sum(v[-seq_len(lag)] * v[seq_len(60 - lag)]) / (60 - lag) / (sum(v^2) / 60)
  both <- vapply(1:12, function(lag) {
    ties(walks$x - mean(walks$x), lag) * ties(walks$y - mean(walks$y), lag) * (60 - lag) / 60
  }, 0)
  expect_equal(figures$effective, 1 / (1 / 60 + 2 / 60 * sum(both)), tolerance = 1e-9)
  expect_match(in_words(found), "not significantly correlated.*by the effective sample size of \\d+ \\(autocorrelation\\)")
  # In another order, with a time, or sorted by what both go with, there is nothing to say.
  expect_identical(told(walks[sample(60), ]), character())
  expect_identical(told(transform(walks, year = 1951:2010)), character())
  z <- sort(rnorm(80))
  data <- data.frame(x = z + rnorm(80), y = z + rnorm(80))
  expect_length(told(data), 1)
  expect_identical(told(cbind(data, z)), character())
  expect_identical(told(cbind(data, band = cut(z, 8, labels = letters[1:8]))), character())
  fired <- replicate(300, length(told(data.frame(x = x <- rnorm(40), y = .8 * x + rnorm(40)))))
  expect_identical(sum(fired), 0L)
})

test_that("a trend in each unit is told where the units differ so much that all cases together hide it", {
  set.seed(31)
  d <- expand.grid(year = 2001:2016, centre = LETTERS[1:6])
  apart <- c(40, -40, 20, -20, 30, -30)[d$centre]
  d$x <- apart + (d$year - 2001) * 3 + rnorm(96)
  d$y <- c(20, 20, -30, -30, 10, 10)[d$centre] + (d$year - 2001) * 2 + rnorm(96)
  flags <- flag_spurious(d, x, y)
  expect_gt(flags$levels$p, .05)
  expect_identical(flags$verdict, "trend only")
  shown <- paste(format(flags), collapse = " ")
  expect_match(shown, "levels within units +\\.99")
  expect_match(in_words(flags), "within units r = .99", fixed = TRUE)
  d$x <- d$x - 0.8 * apart
  told <- relate(d, x, y)$cautions
  expect_true("shared_trend" %in% told$code)
  expect_false("mixed_groups" %in% told$code) # r within the units is the trend's
})

test_that("the mean of fewer than five units is looked at as one series, none counting more where another lacks a time", {
  set.seed(32)
  d <- expand.grid(year = 2001:2020, region = c("North", "South", "East"))
  d$x <- c(0, 60, 20)[d$region] + 2 * (d$year - 2001) + rnorm(60)
  d$y <- c(5, 0, 30)[d$region] + 3 * (d$year - 2001) + rnorm(60)
  flags <- flag_spurious(d, x, y)
  means <- stats::aggregate(cbind(x, y) ~ year, d, mean)
  alone <- flag_spurious(means, x, y, time = year)
  expect_identical(flags$verdict, alone$verdict)
  expect_equal(flags$levels$r, alone$levels$r, tolerance = 1e-12)
  expect_match(paste(format(flags), collapse = " "), "mean of the 3 units")
  expect_match(in_words(flags), "in the mean of 3 units")
  expect_match(paste(format(relate(d, x, y)), collapse = " "), "in\\s+the\\s+mean\\s+of\\s+3\\s+units")
  fewer <- flag_spurious(d[-(41:50), ], x, y) # the unit that has most of y lacks the first ten years
  expect_equal(fewer$levels$r, flags$levels$r, tolerance = .02)
})

test_that("what does not change within a person, or is the same for all, breaks no answer over three waves or more", {
  set.seed(21)
  n <- 40
  waves <- do.call(rbind, lapply(1:4, function(wave) {
    data.frame(
      person = sprintf("P%02d", 1:n), wave, home = rep(1:8, 5), girl = rep(0:1, 20), hours = rnorm(n), score = rnorm(n)
    )
  }))
  waves$known <- 10 * waves$wave
  for (kept in list(1:3, 1:4)) for (lacking in c(FALSE, TRUE)) {
    data <- waves[waves$wave %in% kept & !(lacking & waves$wave == 3 & waves$person < "P07"), ]
    for (pair in list(c("home", "score"), c("home", "girl"), c("known", "score"), c("hours", "known"))) {
      expect_no_warning(found <- relate(data, pair[1], pair[2]))
      expect_s3_class(flag_spurious(data, pair[1], pair[2], time = wave, group = person), "unsere_flags")
    }
    expect_no_warning(correlation_matrix(data, home, girl, hours, score))
  }
})

test_that("the day of an answer is no series: the pair is checked without it; even repeats are refused", {
  set.seed(9)
  days <- as.Date("2026-03-02") + sample(0:20, 90, TRUE, (1:21)^2)
  answers <- data.frame(came = days, x = rnorm(90), y = rnorm(90))
  found <- flag_spurious(answers, x, y)
  expect_true(is.na(found$verdict))
  expect_identical(found$relation$r, relate(answers, x, y)$r)
  expect_error(flag_spurious(answers, x, y, time = came), "more than once", class = "unsere_error_input")
  expect_false(grepl("spurious:", paste(unsere:::brief_lines(local({
    file <- withr::local_tempfile(fileext = ".csv")
    utils::write.csv(answers, file, row.names = FALSE)
    read_study(file)
  }), tempfile()), collapse = " ")))
})
