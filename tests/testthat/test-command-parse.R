declared <- c(unsere:::commands()$relate$arguments, unsere:::commands()$line$arguments["at"], unsere:::closing_arguments())

parse <- function(...) unsere:::parse_words(c(...), declared)

test_that("values stand after a space or an equals sign, negative ones too, and words stay in order", {
  expect_identical(parse("f", "--format", "json", "x", "y")$words, c("f", "x", "y"))
  expect_identical(parse("--format=json")$options$format, "json")
  expect_identical(parse("--missing-codes", "-9,-8")$options$missing_codes, c("-9", "-8"))
  expect_identical(parse("--missing-codes=-9")$options$missing_codes, "-9")
  expect_identical(parse("-", "x")$words, c("-", "x"))
  expect_true(parse("--quiet", "x")$options$quiet)
  expect_null(parse("x")$options$quiet)
  expect_identical(parse("--strength", "small=.1,large=.4")$options$strength, c(small = .1, large = .4))
  expect_identical(parse("--at", "5, 10,-2.5")$options$at, c(5, 10, -2.5))
  expect_identical(parse("--seed=1", "--", "--x", "-y")$words, c("--x", "-y"))
})

test_that("wrong options are answered with the nearest or with what they take", {
  refused <- function(text, ...) expect_error(parse(...), text, class = "unsere_error_usage")
  refused("Did you mean --expect", "--expct", "positive")
  refused("takes no value", "--quiet=yes")
  refused("needs a value", "--format")
  refused("needs a value", "--format=")
  refused("whole words", "-f", "json")
  refused("no option --zzzz", "--zzzz")
  refused("given twice", "--seed=1", "--seed", "2")
  refused("takes numbers", "--at", "5,x")
  refused("one number", "--seed", "1,2")
})

test_that("options reach the engine: direction, scale, seed, coefficient, bootstrap", {
  run <- function(...) jsonlite::fromJSON(unsere("relate", demo_file("learners.csv"), ..., "--format", "json")$out)
  learners <- demo_study("learners")
  own <- run("m1", "m2", "--strength", "little=.2,much=.6", "--expect", "positive", "--coefficient=pearson")
  direct <- relate(learners, m1, m2, "pearson", expect = "positive", strength = c(little = .2, much = .6))
  expect_identical(
    own[c("r", "p", "strength", "strength_scale")],
    unclass(direct)[c("r", "p", "strength", "strength_scale")]
  )
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
