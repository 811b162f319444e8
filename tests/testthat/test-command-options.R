taken <- c("format", "missing-codes", "expect", "plain", "seed", "strength", "help")

parse <- function(...) unsere:::parse_command(c(...), taken)

test_that("values stand after a space or an equals sign, negative ones too, and words stay in order", {
  expect_identical(parse("f", "--format", "json", "x", "y")$words, c("f", "x", "y"))
  expect_identical(parse("--format=json")$options$format, "json")
  expect_identical(parse("--missing-codes", "-9,-8")$options$missing_codes, "-9,-8")
  expect_identical(parse("--missing-codes=-9")$options$missing_codes, "-9")
  expect_identical(parse("-", "x")$words, c("-", "x"))
  expect_true(parse("--plain", "x")$options$plain)
  expect_null(parse("x")$options$plain)
  expect_identical(parse("--strength", "small=.1,large=.4")$options$strength, "small=.1,large=.4")
})

test_that("wrong options are answered with the nearest or with what they take", {
  refused <- function(text, ...) expect_error(parse(...), text, class = "unsere_error_usage")
  refused("Did you mean --expect", "--expct", "positive")
  refused("takes no value", "--plain=yes")
  refused("needs a value", "--format")
  refused("whole words", "-f", "json")
  refused("no option --zzzz", "--zzzz")
})

test_that("numbers and lists in options are checked", {
  expect_equal(unsere:::numbers_option(list(at = "5, 10,-2.5"), "at"), c(5, 10, -2.5))
  expect_error(unsere:::numbers_option(list(at = "5,x"), "at"), "takes numbers", class = "unsere_error_usage")
  expect_equal(unsere:::number_option(list(), "seed", 3), 3)
  expect_error(unsere:::number_option(list(seed = "1,2"), "seed"), "one number", class = "unsere_error_usage")
  expect_equal(unsere:::strength_option(list(strength = "small=.1,large=.4")), c(small = .1, large = .4))
  expect_equal(unsere:::strength_option(list()), "cohen")
})

test_that("options reach the engine: direction, scale, seed, coefficient, bootstrap", {
  run <- function(...) jsonlite::fromJSON(unsere("relate", demo_file("learners.csv"), ..., "--format", "json")$out)
  learners <- demo_study("learners")
  own <- run("m1", "m2", "--strength", "little=.2,much=.6", "--expect", "positive", "--coefficient=pearson")
  direct <- relate(learners, m1, m2, "pearson", expect = "positive", strength = c(little = .2, much = .6))
  expect_identical(own[c("r", "p", "strength", "strength_scale")],
    unclass(direct)[c("r", "p", "strength", "strength_scale")])
  sampled <- run("m1", "m2", "--interval", "bootstrap", "--resamples", "999", "--seed", "14", "--threads", "1")
  expect_identical(sampled$ci_low, relate(learners, m1, m2, interval = "bootstrap", resamples = 999, seed = 14)$ci_low)
  expect_equal(unsere("relate", demo_file("learners.csv"), "m1", "m2", "--seed", "soon")$status, 2)
  expect_equal(unsere("relate", demo_file("learners.csv"), "m1", "m2", "--strength", "huge")$status, 2)
})

test_that("p that no double holds is written from its logarithm, never as 0", {
  x <- 1:500
  file <- csv_file("x,y", paste(x, format(x + sin(x), digits = 15), sep = ","))
  json <- unsere("relate", file, "x", "y", "--format", "json")$out
  expect_match(json, "\"p\": [1-9][.0-9]*e-[0-9]{3,4}", all = FALSE)
  csv <- unsere("relate", file, "x", "y", "--format", "csv")$out
  expect_match(csv[2], ",[1-9][.0-9]*e-[0-9]{3,4},")
})
