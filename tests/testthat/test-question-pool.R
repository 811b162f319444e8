# Correlations pooled over groups: the model against its definitions, what it is made of, what is said when little is known.

set.seed(5)
rows_of_schools <- do.call(rbind, lapply(seq_len(7), function(school) {
  n <- 20L + 6L * school
  x <- rnorm(n)
  data.frame(x, y = (school / 9) * x + rnorm(n), school = paste("School", school), pupils = 50 * school)
}))
schools <- as_study(rows_of_schools)

r_of <- function(x, y) {
  x <- x - mean(x)
  y <- y - mean(y)
  sum(x * y) / sqrt(sum(x^2) * sum(y^2))
}

test_that("mean, spread and limits are those of their definitions", {
  rows <- data.frame(r = c(.12, .45, .30, .61, .05, .38), n = c(40, 25, 90, 33, 61, 120), name = letters[1:6])
  found <- pool_relations(rows, r = r, n = n, by = name)
  z <- atanh(rows$r)
  v <- 1 / (rows$n - 3)
  k <- length(z)
  restricted <- function(tau2) {
    w <- 1 / (v + tau2)
    mean <- sum(w * z) / sum(w)
    sum(log(w)) / 2 - log(sum(w)) / 2 - sum(w * (z - mean)^2) / 2
  }
  best <- stats::optimize(restricted, c(0, 1), maximum = TRUE, tol = 1e-12)$maximum
  expect_equal(found$tau^2, best, tolerance = 1e-5)
  w <- 1 / (v + found$tau^2)
  mean <- sum(w * z) / sum(w)
  expect_equal(found$r, tanh(mean), tolerance = 1e-12)
  error <- sqrt(max(1, sum(w * (z - mean)^2) / (k - 1)) / sum(w))
  expect_equal(c(found$ci_low, found$ci_high), tanh(mean + c(-1, 1) * qt(.975, k - 1) * error), tolerance = 1e-12)
  expect_equal(found$p, 2 * pt(-mean / error, k - 1), tolerance = 1e-10)
  far <- qt(.975, k - 2) * sqrt(found$tau^2 + error^2)
  expect_equal(unlist(found$textbook), c(low = tanh(mean - far), high = tanh(mean + far), df = k - 2), tolerance = 1e-12)
  expect_lt(found$prediction_low, found$ci_low)
  expect_gt(found$prediction_high, found$ci_high)
  distance <- function(tau2) {
    w <- 1 / (v + tau2)
    sum(w * (z - sum(w * z) / sum(w))^2)
  }
  expect_equal(found$q, distance(0), tolerance = 1e-12)
  expect_equal(distance(found$tau_high^2), qchisq(.025, k - 1), tolerance = 1e-8)
  expect_equal(max(distance(found$tau_low^2), qchisq(.975, k - 1)), qchisq(.975, k - 1), tolerance = 1e-8)
  without <- pool_relations(rows[-2, ], r = r, n = n, by = name)
  expect_equal(found$groups$r_without[2], without$r, tolerance = 1e-12)
  expect_equal(sum(found$groups$weight), 1, tolerance = 1e-12)
})

test_that("groups of cases have the correlation that relate() gives, in their own order", {
  found <- pool_relations(schools, x, y, by = school)
  each <- vapply(split(rows_of_schools, rows_of_schools$school), function(rows) r_of(rows$x, rows$y), 0)
  expect_equal(found$groups$r, unname(each), tolerance = 1e-12)
  expect_identical(found$variance_factor, 1)
  controlled <- pool_relations(demo_study("learners"), practice_hours, speaking_score, by = centre, given = age_years)
  brook <- demo_study("learners")
  brook <- brook[unsere:::study_column(brook, "centre") == "Brook", ]
  expect_equal(controlled$groups$r[1], relate(brook, practice_hours, speaking_score, given = age_years)$r, tolerance = 1e-12)
})

test_that("long tails widen what is told, normal data leave it", {
  set.seed(3)
  wild <- data.frame(x = rt(600, 2.5), school = rep(1:10, 60))
  wild$y <- .3 * wild$x + rt(600, 2.5) * (1 + abs(wild$x))
  found <- pool_relations(wild, x, y, by = school)
  expect_gt(found$variance_factor, 1.5)
  table <- data.frame(found$groups[c("name", "r", "n")])
  expect_gt(found$tau_high, 0)
  expect_lt(found$q, pool_relations(table, r = r, n = n, by = name)$q / 1.4)
})

test_that("the same persons in several waves are not taken for others", {
  set.seed(8)
  person <- rep(1:60, 3)
  steady <- rnorm(60)
  other <- .5 * steady + rnorm(60)
  waves <- data.frame(
    x = steady[person] + .2 * rnorm(180), y = other[person] + .2 * rnorm(180), person, wave = rep(1:3, each = 60)
  )
  named <- pool_relations(set_variable(as_study(waves), "person", role = "case"), x, y, by = wave)
  apart <- pool_relations(waves[names(waves) != "person"], x, y, by = wave)
  expect_true(named$shared_cases)
  # Persons without a role are seen where each wave has all of them once.
  waves$person <- sprintf("p%d", waves$person)
  expect_equal(pool_relations(waves, x, y, by = wave)$ci_low, named$ci_low)
  expect_false(apart$shared_cases)
  expect_gt(diff(c(named$ci_low, named$ci_high)), 1.3 * diff(c(apart$ci_low, apart$ci_high)))
  expect_match(paste(format(named), collapse = " "), "share cases")
})

test_that("a moderator is tested, a published table joins, a correction applies to every group", {
  found <- pool_relations(schools, x, y, by = school, moderator = pupils)
  expect_identical(found$moderator$kind, "slope")
  expect_lt(found$moderator$p, .05)
  expect_gt(found$moderator$shown$r[2], found$moderator$shown$r[1])
  expect_match(in_words(found), "depended on")
  more <- pool_relations(schools, x, y, by = school, published = data.frame(name = "Elsewhere", r = .2, n = 80))
  expect_identical(more$groups$source[8], "published")
  expect_identical(more$k, 8L)
  corrected <- pool_relations(schools, x, y, by = school, correct_for = c(x = .8, y = .9))
  plain <- pool_relations(schools, x, y, by = school)
  expect_equal(corrected$groups$r, plain$groups$r / sqrt(.72), tolerance = 1e-12)
  rows <- data.frame(r = c(.1, .2, .5, .6), n = rep(60, 4), name = 1:4, kind = c("day", "day", "evening", "evening"))
  kinds <- pool_relations(rows, r = r, n = n, by = name, moderator = kind)$moderator
  expect_identical(c(kinds$kind, kinds$statistic), c("kinds", "F"))
  expect_identical(kinds$shown$at, c("day", "evening"))
})

test_that("few groups, empty ones and impossible tables are told plainly", {
  two <- pool_relations(data.frame(r = c(.2, .5), n = c(50, 60), name = c("a", "b")), r = r, n = n, by = name)
  expect_true(is.na(two$prediction_low))
  expect_match(in_words(two), "cannot be predicted")
  expect_match(in_words(two), "little is known")
  some <- data.frame(r = c(.2, .5, .4, NA, .9), n = c(50, 60, 44, 30, 3), name = letters[1:5])
  found <- pool_relations(some, r = r, n = n, by = name)
  expect_identical(found$excluded$name, c("d", "e"))
  expect_identical(found$excluded$reason, c("no r", "fewer than four cases"))
  expect_error(pool_relations(some[4:5, ], r = r, n = n, by = name), class = "unsere_error_undefined")
  expect_error(
    pool_relations(data.frame(r = c(.2, 1.5, .4), n = 30, name = 1:3), r = r, n = n, by = name),
    class = "unsere_error_input"
  )
  expect_error(pool_relations(schools, x, y), class = "unsere_error_usage")
  expect_null(two$asymmetry)
  many <- data.frame(r = tanh(5 / sqrt(seq(8, 96, 8)) + 1:12 / 1e3), n = seq(11, 99, 8), name = 1:12)
  expect_lt(pool_relations(many, r = r, n = n, by = name)$asymmetry$p, .01)
})

test_that("the picture has a row a group, and the mean with its range", {
  figure <- draw_pooled(pool_relations(schools, x, y, by = school))
  expect_identical(nrow(figure$data), 7L)
  expect_false(is.unsorted(-figure$data$r))
  expect_match(figure$labels$caption, "prediction interval")
})

test_that("a report shows no group that is too small to be told of", {
  folder <- withr::local_tempdir()
  small <- rbind(rows_of_schools[1:100, ], data.frame(x = 1:4, y = c(2, 1, 4, 3), school = "Tiny", pupils = 4))
  utils::write.csv(small, file.path(folder, "rows.csv"), row.names = FALSE)
  brief <- file.path(folder, "brief.yml")
  writeLines(c(
    "data: {file: rows.csv}", "pool: [{x: x, \"y\": \"y\", by: school}]", "report: {formats: [html], folder: results}"
  ), brief)
  run_brief(brief, quiet = TRUE)
  told <- jsonlite::fromJSON(file.path(folder, "results", "results.json"))$pooled
  whole <- pool_relations(small, x, y, by = school)
  expect_equal(told$r, whole$r, tolerance = 1e-12)
  expect_false("Tiny" %in% told$groups[[1]]$name)
  page <- paste(readLines(file.path(folder, "results", "report.html"), encoding = "UTF-8"), collapse = " ")
  expect_false(grepl("Tiny", page))
  expect_match(page, "pooled, but not shown")
})

test_that("published correlations are named by the column that names the rows, else by their number", {
  rows <- data.frame(study = c("Adler 2011", "Brandt 2014", "Cruz 2015"), r = c(.31, .22, .45), n = c(84, 211, 45))
  expect_identical(pool_relations(rows, r = r, n = n)$groups$name, rows$study)
  expect_identical(pool_relations(rows[-1], r = r, n = n)$groups$name, c("1.", "2.", "3."))
})

test_that("a table of a database pools as its cases do, also where persons come again after the first thousand rows", {
  skip_if_not_installed("RSQLite")
  set.seed(2)
  data <- data.frame(school = sample(sprintf("S%02d", 1:5), 2700, TRUE), pid = rep(1:1350, 2), x = rnorm(2700))
  data$y <- .3 * data$x + rnorm(2700)
  con <- DBI::dbConnect(RSQLite::SQLite(), ":memory:")
  on.exit(DBI::dbDisconnect(con))
  DBI::dbWriteTable(con, "cases", data)
  study <- read_study(con, table = "cases", collect = FALSE)
  expect_identical(codebook(study)$role, codebook(data)$role)
  fields <- c("r", "tau", "ci_low", "ci_high", "shared_cases")
  expect_equal(
    unclass(pool_relations(study, x, y, by = school))[fields], unclass(pool_relations(data, x, y, by = school))[fields],
    tolerance = 1e-12
  )
})
