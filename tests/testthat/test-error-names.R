test_that("mistyped names find their neighbours: letters missing, changed, swapped, parts, case", {
  names <- c("practice_hours", "speaking_score", "listening_score", "confidence", "centre")
  near <- function(name) unsere:::nearest_names(name, names)[1]
  cases <- c(
    practice_hour = "practice_hours", practise_hours = "practice_hours", speking_score = "speaking_score",
    CONFIDENCE = "confidence", center = "centre", center = "centre", practice = "practice_hours", cnetre = "centre"
  )
  for (typed in names(cases)) expect_identical(near(typed), cases[[typed]])
  expect_true(is.na(near("zzz")))
  suggested <- function(...) unsere:::in_english(unsere:::suggest_names(...))
  expect_match(suggested("zzz", names, "variables"), "^The variables: practice_hours, .*centre\\.$")
  expect_match(suggested("zzz", paste0("v", 1:40), "variables"), "and 28 more")
})

test_that("errors carry their class, what was said and what to do, whatever stands in the names", {
  for (kind in c("usage", "input", "undefined")) {
    raise <- get(paste0("abort_", kind), asNamespace("unsere"))
    error <- tryCatch(raise("In {braces} and %s signs", "Try {this}."), unsere_error = identity)
    expect_s3_class(error, paste0("unsere_error_", kind))
    expect_identical(c(unsere:::error_text(error), error$hint), c("In {braces} and %s signs", "Try {this}."))
    expect_match(conditionMessage(error), "In {braces} and %s signs", fixed = TRUE)
  }
})

test_that("an error carries a code and its figures, and is worded where it is shown", {
  error <- tryCatch(relate(demo_study("dial"), "dial", "lewel_db"), unsere_error_input = identity)
  expect_identical(error$code, "has_no_variable")
  expect_identical(error$figures, list("dial.csv", "lewel_db"))
  expect_match(conditionMessage(error), "dial.csv has no variable \"lewel_db\".*level_db")
})

test_that("counts are said in words", {
  expect_identical(unsere:::count_of(1, "case"), "1 case")
  expect_identical(unsere:::count_of(c(0, 2), "cell"), c("0 cells", "2 cells"))
  expect_identical(unsere:::count_of(12345, "row"), "12,345 rows")
})
