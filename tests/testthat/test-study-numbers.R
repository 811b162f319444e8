level <- function(...) codebook(as_study(data.frame(v = c(...), w = seq_along(c(...)))))$level[1]

test_that("levels follow from the values", {
  expect_identical(level(TRUE, FALSE, NA), "binary")
  expect_identical(level(0, 1, 1, 0), "binary")
  expect_identical(level(1, 2, 2, 1), "binary")
  expect_identical(level(3, 8, 8, 3), "numeric")
  expect_identical(level("left", "right", "left"), "binary")
  expect_identical(level("a", "b", "c"), "nominal")
  expect_identical(level("1", "2", "x3", "4"), "numeric")
  # Whole numbers are numbers, whichever they are: a count keeps its level when a value more turns up.
  for (values in list(1:5, 0:6, 1:3, 0:4, 1:15, 16:60)) expect_identical(level(rep(values, 4)), "numeric")
  expect_identical(level(1:5), "numeric")
  expect_identical(level(rep(c(1.5, 2, 3), 10)), "numeric")
  expect_identical(level(rep(10:14, 5)), "numeric")
  ranked <- data.frame(v = factor(c("low", "high", "mid"), c("low", "mid", "high"), ordered = TRUE), w = 1:3)
  expect_identical(codebook(as_study(ranked))$level[1], "ordinal")
  expect_identical(relate(ranked, v, w)$r, 0.5)
})

test_that("which of two values counts as 1: yes, true, the later one", {
  one <- function(...) {
    values <- rep(c(...), 3)
    relate(data.frame(v = values, w = sin(seq_along(values))), v, w)$groups$value
  }
  expect_identical(one("yes", "no", "no"), c("no", "yes"))
  expect_identical(one("Ja", "Nein"), c("Nein", "Ja"))
  expect_identical(one("true", "false"), c("false", "true"))
  expect_identical(one("b", "a"), c("a", "b"))
  expect_identical(one(2, 1), c("1", "2"))
  expect_identical(one(TRUE, FALSE), c("FALSE", "TRUE"))
})

test_that("dates and factors serve as numbers where that makes sense", {
  days <- data.frame(day = as.Date("2024-03-01") + c(0, 3, 1, 7), y = c(1, 3, 2, 9))
  expect_identical(codebook(as_study(days))$role[1], "time")
  expect_equal(relate(days, day, y)$r, relate(data.frame(day = c(0, 3, 1, 7), y = days$y), day, y)$r, tolerance = 1e-12)
  expect_identical(level(factor(c("u", "v", "u"))), "binary")
})

test_that("text in a numeric column is named with its rows, and only a few of them", {
  file <- csv_file("a,b", paste(1:20, c("x", "y", "z", "q", 5:20), sep = ","))
  expect_error(
    relate(read_study(file), a, b),
    "text in 4 of its 20 cells: \"x\" in row 2, \"y\" in row 3, \"z\" in row 4 and 1 more"
  )
})

test_that("suspicious codes need to be usual ones, far out, and not declared", {
  found <- function(...) unsere:::suspicious_codes(c(...))$code
  expect_identical(found(20:60, -9, -9), -9)
  expect_identical(found(1:5, 3, 2, 99), 99)
  expect_length(found(90:110), 0)
  expect_length(found(-20:20), 0)
  expect_length(found(20:60, 75), 0)
  declared <- as_study(data.frame(x = c(20:60, -9)), missing_codes = -9)
  expect_false(any(grepl("far outside", format(declared$provenance$decisions))))
})

test_that("the largest of a count or of a measure is no code; codes are still told", {
  set.seed(9)
  told <- function(v) length(unsere:::suspicious_columns(as_study(data.frame(v, w = seq_along(v) / 7))))
  clean <- c(
    replicate(30, told(rpois(200, 2))), replicate(30, told(rnbinom(200, 1, mu = 3))), told(c(0:7, 0:7, 9)),
    told(c(27:73, 88)), replicate(30, told(round(rnorm(100, 50, 10))))
  )
  expect_identical(sum(clean), 0L)
  expect_identical(c(told(c(rep(1:5, 9), 9)), told(c(27:73, 99)), told(c(27:73, 88, 88)), told(c(0:7, -9))), rep(1L, 4))
})

test_that("codes that columns of one scale share are found; counts and single columns are left alone", {
  set.seed(8)
  right <- function(codes) sample(c(0, 1, codes), 60, TRUE, c(5, 5, rep(0.6, length(codes))))
  test <- data.frame(i1 = right(9), i2 = right(c(8, 9)), i3 = right(9), i4 = right(8), i5 = right(numeric()))
  found <- unsere:::suspicious_columns(as_study(test))
  expect_equal(lapply(found, function(one) one$code), list(i1 = 9, i2 = 9, i3 = 9))
  expect_length(unsere:::suspicious_columns(as_study(test[c("i1", "i2", "i5")])), 0)
  absences <- as.data.frame(replicate(4, pmin(rpois(80, 4), 9)))
  expect_length(unsere:::suspicious_columns(as_study(absences)), 0)
  likert <- as.data.frame(replicate(5, sample(c(1:4, 9), 80, TRUE)))
  expect_equal(unique(unlist(lapply(unsere:::suspicious_columns(as_study(likert)), `[[`, "code"))), 9)
})
