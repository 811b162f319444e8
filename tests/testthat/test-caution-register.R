codes_of <- function(study, x = "x", y = "y", ...) cautions(relate(study, x, y, ...))$code

figures_of <- function(found, code) found$figures[[match(code, found$code)]]

test_that("clean data raise no warning", {
  set.seed(31)
  grave <- replicate(150, {
    x <- rnorm(100)
    any(cautions(relate(data.frame(x, y = .4 * x + rnorm(100)), x, y))$severity != "note")
  })
  expect_lt(mean(grave), .06)
})

test_that("each planted trouble is named, with its figures and what to do next", {
  set.seed(32)
  x <- rnorm(100)
  y <- rnorm(100)
  outlier <- cautions(relate(data.frame(x = c(x, 9), y = c(y, 9)), x, y))
  expect_true("one_case" %in% outlier$code)
  expect_identical(figures_of(outlier, "one_case")[c("case", "x", "y")], list(case = "row 101", x = 9, y = 9))
  expect_match(format(outlier), "without row 101 \\(9, 9\\), r would be", all = FALSE)
  u <- runif(100, 1, 10)
  expect_true("curved" %in% codes_of(data.frame(x = u, y = log(u) + rnorm(100, sd = .2))))
  expect_true("uneven_spread" %in% codes_of(data.frame(x = u, y = u + .5 * u * rnorm(100))))
  expect_identical(codes_of(data.frame(x, y = 2 * x - 3)), "same_measure")
  spent <- round(rexp(60, .02) + 2, 2)
  bent <- list(round(log(spent), 3), round(5 - 2 * log1p(spent), 3), round(sqrt(spent), 2), spent^2, round(900 / spent, 2))
  for (made in bent) {
    expect_true("same_measure" %in% codes_of(data.frame(x = spent, y = made)))
    expect_true("same_measure" %in% codes_of(data.frame(x = made, y = spent)))
    expect_false("same_measure" %in% codes_of(data.frame(x = spent, y = made + rnorm(60) * stats::sd(made) / 50)))
  }
  kept <- round(50 + 10 * x, 2)
  expect_true(all(vapply(
    list(round(kept, 1), round(kept), round(1.8 * kept + 32), round(kept / 20, 1), -round(kept)), function(copy) {
      "same_measure" %in% codes_of(data.frame(x = kept, y = copy))
    }, NA
  )))
  near <- list(kept + round(rnorm(100, sd = .1), 2), round(kept + rnorm(100)), kept + sin(kept / 5))
  for (other in near) expect_false("same_measure" %in% codes_of(data.frame(x = kept, y = other)))
  rater <- pmin(5, pmax(1, round(3 + x)))
  expect_false("same_measure" %in% codes_of(data.frame(x = rater, y = pmin(5, rater + (y > 1.3)))))
  parts <- data.frame(x = round(x, 2), a = round(y, 2), b = round(rnorm(100), 2))
  whole <- cautions(relate(transform(parts, y = (x + a + b) / 3), x, y))
  expect_identical(figures_of(whole, "part_whole")[c("whole", "part")], list(whole = "y", part = "x"))
  expect_false("part_whole" %in% codes_of(transform(parts, y = x + rnorm(100, sd = 1e-4) + a)))
  expect_true("floor_or_ceiling" %in% codes_of(data.frame(x, y = pmin(round(x + y, 1), .5))))
  expect_true("codes_not_numbers" %in% codes_of(data.frame(x = c(abs(x), -9, -9), y = c(y, 1, 2))))
  expect_true("few_cases" %in% codes_of(data.frame(x = x[1:8], y = y[1:8])))
  expect_true("many_missing" %in% codes_of(data.frame(x = replace(x, 1:45, NA), y)))
  expect_true("rare_category" %in% codes_of(data.frame(x = rep(c("no", "yes"), c(97, 3)), y)))
  expect_true("coarse_scale" %in% codes_of(data.frame(x = rep(1:4 * 1.5, 25), y), coefficient = "pearson"))
  rates <- set_variable(set_variable(as_study(data.frame(x, y)), "x", unit = "per 1000 pupils"), "y",
    unit = "euro per 1000 pupils"
  )
  expect_true("shared_denominator" %in% codes_of(rates))
})

test_that("groups that turn the relation round are named; averages of groups are said to be ones", {
  learners <- demo_study("learners")
  found <- cautions(relate(learners, commute_min, listening_score))
  expect_identical(found$code[1], "mixed_groups")
  expect_identical(found$severity[1], "serious")
  expect_identical(found$next_step[[1]]$question, "draw scatter")
  expect_identical(found$next_step[[1]]$arguments, list(by = "centre", panels = TRUE))
  set.seed(33)
  towns <- set_variable(as_study(data.frame(town = sprintf("T%d", 1:30), x = rnorm(30), y = rnorm(30))), "town",
    role = "group"
  )
  expect_true("group_averages" %in% codes_of(towns))
})

test_that("one case in O(n) is what leaving each out one by one gives", {
  set.seed(34)
  x <- rnorm(30)
  y <- x + rnorm(30)
  slow <- vapply(1:30, function(i) cor_table(cbind(x[-i], y[-i]))[1, 2], 0)
  expect_equal(unsere:::r_without_each(x, y), slow, tolerance = 1e-12)
})

test_that("a matrix sums up, a ranking names the predictor, a line and a prediction carry their own", {
  learners <- demo_study("learners")
  found <- cautions(correlation_matrix(learners, practice_hours, speaking_score, commute_min, listening_score))
  expect_identical(found$code, c("mixed_groups", "clustered_cases", "curved"))
  expect_identical(figures_of(found, "mixed_groups")$pairs[[1]][c("x", "y")], list(x = "commute_min", y = "listening_score"))
  expect_match(paste(format(found), collapse = " "), "1 pair: commute_min with listening_score")
  expect_true("many_tests" %in% cautions(correlation_matrix(learners, multiplicity = "none"))$code)
  expect_identical(cautions(rank_predictors(learners, speaking_score, practice_hours, age_years))$x, "practice_hours")
  expect_true("curved" %in% cautions(fit_line(learners, practice_hours, speaking_score))$code)
  expect_false("curved" %in% cautions(fit_line(learners, practice_hours, speaking_score, "quadratic"))$code)
  got <- unsere("line", demo_file("learners.csv"), "practice_hours", "speaking_score", "--at", "40", "--format", "json")
  expect_true("outside_data" %in% jsonlite::fromJSON(got$out)$cautions$code)
  expect_error(cautions(learners), class = "unsere_error_usage")
})

test_that("every caution has its section of help", {
  codes <- names(unsere:::all_cautions())
  help <- readLines(file.path(root_of_project(), "R", "question-cautions.R"))
  expect_setequal(codes, intersect(codes, sub("^#' @section ([a-z_]+):.*$", "\\1", grep("^#' @section [a-z_]+:", help,
    value = TRUE
  ))))
})

test_that("what education data have is seen though nothing is declared: groups, times, repeats, waves, ends of scales", {
  set.seed(36)
  form <- rep(c("North", "South", "West", "East"), 25)
  own <- rnorm(100)
  step <- 2 * match(form, c("South", "West", "North", "East"))
  turned <- data.frame(x = step + own, y = step - .8 * own + rnorm(100), form)
  found <- cautions(relate(turned, x, y))
  expect_identical(found$code[1], "mixed_groups")
  expect_identical(found$next_step[[1]]$arguments$by, "form")
  one <- data.frame(x = own, y = ifelse(form == "West", -1, 1) * own + rnorm(100, sd = .5), form)
  expect_identical(figures_of(cautions(relate(one, x, y)), "mixed_groups")$turned, "West")
  years <- data.frame(year = 1961:2000, x = 1:40 / 5 + rnorm(40), y = 1:40 / 5 + rnorm(40))
  told <- cautions(relate(years, x, y))
  expect_match(format(told), "by year, which appears to be", all = FALSE)
  expect_identical(told$next_step[[1]]$arguments$time, "year")
  decided <- function(data) paste(format(unsere:::study_provenance(as_study(data))$decisions), collapse = "; ")
  expect_match(decided(years), "year appears to be the time")
  expect_match(decided(data.frame(klasse = rep(1:6, 10), x = rnorm(60))), "klasse appears to be a group")
  values <- matrix(round(rnorm(240), 2), 60, dimnames = list(NULL, c("x", "y", "z", "w")))
  rows <- data.frame(id = sprintf("P%d", 1:60), values)
  rows[60, -1] <- rows[3, -1]
  again <- cautions(relate(rows, x, y))
  expect_identical(figures_of(again, "repeated_rows")[c("count", "case", "of")], list(count = 1L, case = "P60", of = "P3"))
  expect_match(decided(rows), "1 row repeats an earlier one in all but the case's name")
  likely <- as.data.frame(lapply(stats::setNames(1:3, c("x", "y", "z")), function(k) sample(5, 200, TRUE)))
  expect_false("repeated_rows" %in% codes_of(likely))
  u <- runif(120, 0, 10)
  waved <- cautions(relate(data.frame(x = u, y = sin(1.3 * u) + rnorm(120) / 3), x, y))
  expect_match(format(waved), "in +waves", all = FALSE)
  narrow <- data.frame(x = u - 5)
  narrow$y <- narrow$x + (.3 + abs(narrow$x)) * rnorm(120)
  expect_match(paste(format(cautions(relate(narrow, x, y))), collapse = " "), "as wide far +from its middle as near it")
  top <- data.frame(x = own, y = as.integer(cut(own + rnorm(100), c(-Inf, qnorm(c(.05, .1, .2, .35)), Inf))))
  expect_true("floor_or_ceiling" %in% codes_of(top))
  expect_false("floor_or_ceiling" %in% codes_of(data.frame(x = own, y = as.integer(cut(rnorm(100), 5)))))
  expect_true("group_averages" %in% codes_of(data.frame(x = own, mean_score = rnorm(100)), y = "mean_score"))
})

test_that("codes that are no answer on a short scale or of an age are seen, a running number of people is no measure", {
  set.seed(37)
  data <- data.frame(pupil = 1:80, age = c(sample(11:14, 77, TRUE), 0, -1, 99), q = c(sample(5, 78, TRUE), 9, 9))
  data$hits <- rpois(80, 4)
  data$hits[1:3] <- c(9, 9, 0)
  study <- as_study(data)
  told <- paste(unlist(format(unsere:::study_provenance(study)$decisions)), collapse = "; ")
  expect_match(told, "age: -1|age: 0")
  expect_match(told, "q: 9 stands in 2 cells")
  expect_no_match(told, "hits: ")
  expect_identical(codebook(study)$role[1], "case")
  expect_identical(correlation_matrix(study)$variables$variable, c("age", "q", "hits"))
})

test_that("a part is told from its whole through right and wrong, rounding, subscales, turned items and blanks", {
  set.seed(35)
  ability <- rnorm(200)
  answers <- as.data.frame(lapply(1:40, function(k) ifelse(ability + rnorm(200) > 0, "right", "wrong")))
  names(answers) <- paste0("i", 1:40)
  answers$score <- rowSums(answers == "right")
  expect_true("part_whole" %in% codes_of(answers, "i7", "score"))
  expect_false("part_whole" %in% codes_of(answers, "i7", "i8", coefficient = "phi"))
  items <- as.data.frame(lapply(1:8, function(k) pmin(5, pmax(1, round(3 + ability + rnorm(200))))))
  names(items) <- paste0("q", 1:8)
  items$q3 <- 6 - items$q3
  items$first <- rowSums(items[c("q1", "q2")])
  items$all <- round((rowSums(items[c(1, 2, 4:8)]) + 6 - items$q3) / 8, 2)
  items[cbind(1:20, rep(5:8, 5))] <- NA
  for (part in c("q1", "q3", "first")) {
    figures <- figures_of(cautions(relate(items, part, "all")), "part_whole")
    expect_identical(figures[c("whole", "part", "rounded")], list(whole = "all", part = part, rounded = TRUE))
  }
  expect_false("part_whole" %in% codes_of(items, "q1", "q3"))
  expect_false("part_whole" %in% codes_of(items, "first", "q7"))
})

test_that("a gain goes against what it is taken from; the two measurements themselves are left alone", {
  set.seed(36)
  data <- data.frame(pre = round(rnorm(80, 50, 10)))
  data$post <- round(25 + .6 * data$pre + rnorm(80, sd = 8))
  data$gain <- data$post - data$pre
  expect_match(format(cautions(relate(data, gain, pre))), "difference of pre and post", all = FALSE)
  expect_true("part_whole" %in% codes_of(data, "gain", "post"))
  expect_false("part_whole" %in% codes_of(data, "pre", "post"))
  expect_match(format(cautions(relate(data[c("pre", "gain")], gain, pre))), "by its name a difference", all = FALSE)
})

test_that("averages are known by their decimals, with the counts beside them or by changing denominators", {
  set.seed(37)
  size <- sample(12:30, 60, TRUE)
  score <- vapply(size, function(k) mean(sample(0:20, k, TRUE)), 0)
  data <- data.frame(size, score = round(score, 2), whole = score, heat = round(rnorm(60, 20, 3), 2))
  data$own <- vapply(1:60, function(k) mean(sample(5, 7, TRUE)), 0)
  expect_identical(figures_of(cautions(relate(data, score, heat)), "group_averages")$counts, "size")
  expect_true("group_averages" %in% codes_of(data[c("whole", "heat")], "whole", "heat"))
  for (x in c("own", "size")) expect_false("group_averages" %in% codes_of(data, x, "heat"))
})

test_that("a declared range is told where values leave it, and where cases cover a small part of it", {
  set.seed(38)
  data <- data.frame(score = round(runif(60, 70, 100)), y = rnorm(60), share = round(runif(60, 0, 100)))
  study <- set_variable(set_variable(as_study(data), score, range = "0 to 100"), share, range = c(0, 100))
  expect_match(format(cautions(relate(study, score, y))), "Restricted range", all = FALSE)
  expect_false("restricted_range" %in% codes_of(study, "share", "y"))
  book <- data.frame(variable = "share", range = "0 - 100")
  data$share[3] <- 880
  expect_match(unname(format(as_study(data, book)$provenance$decisions)),
    "share: 1 value outside its range .*880",
    all = FALSE
  )
  expect_error(set_variable(study, y, range = "5"), "no range", class = "unsere_error_input")
  for (ending in c(".csv", ".json", ".xml")) {
    path <- write_codebook(study, withr::local_tempfile(fileext = ending))
    expect_identical(codebook(as_study(data, path))$range, c("0 to 100", NA, "0 to 100"))
  }
})

test_that("large measurements are no averages, and averages of large numbers are", {
  set.seed(41)
  for (size in 10^(2:8)) {
    told <- replicate(8, cautions(relate(data.frame(x = runif(100, 1, 10) * size, y = rnorm(100, 5) * size), x, y))$code)
    expect_false("group_averages" %in% unlist(told), label = format(size))
  }
  people <- round(rnorm(90, 3e6, 5e5))
  area <- rnorm(90, 3e6, 5e5)
  expect_false("group_averages" %in% cautions(relate(data.frame(area, people), area, people))$code)
  sizes <- sample(7:15, 80, TRUE)
  means <- vapply(sizes, function(m) mean(sample(2e6, m, TRUE)), 0)
  expect_true("group_averages" %in% cautions(relate(data.frame(x = means, y = rnorm(80)), x, y))$code)
})
