study_of <- function(..., n = 60) {
  set.seed(5)
  file <- withr::local_tempfile(fileext = ".csv", .local_envir = parent.frame())
  utils::write.csv(data.frame(other = round(rnorm(n), 2), ..., check.names = FALSE), file, row.names = FALSE)
  read_study(file)
}
told <- function(study) paste(format(study$provenance$decisions), collapse = "\n")
hours <- as.character(rep(c(35, 38, 40, 42, 39, 41), 10))

test_that("a unit that only some cells repeat is taken off where the heading names it, and nowhere else", {
  mixed <- replace(hours, c(3, 9, 15), c("46h", "38 hours", "40 Hrs"))
  study <- study_of("How many hours do you work per week?" = mixed)
  expect_equal(study$data[[2]][c(3, 9, 15)], c(46, 38, 40))
  expect_match(told(study), "the unit \"h, hours, hrs\" removed from 3 cells")
  # Under "Minutes" hours are something else, and nothing is said of a heading without a unit.
  for (heading in c("Minutes of practice", "Work")) {
    other <- study_of("x" = mixed, "y" = hours)
    names(other$data)
    kept <- do.call(study_of, stats::setNames(list(mixed), heading))
    expect_false(46 %in% suppressWarnings(as.numeric(kept$data[[2]])), label = heading)
  }
})

test_that("odd answers in up to a twentieth of the cells leave the other numbers; limits and other marks do not", {
  odd <- study_of(x = replace(hours, c(4, 8), c("40-45", "about 40")))
  expect_type(odd$data$x, "double")
  expect_equal(sum(is.na(odd$data$x)), 2)
  expect_match(told(odd), "2 cells of text among its numbers taken as missing: \"40-45\", \"about 40\"")
  for (mark in c("<5", "50+", "1.2k", "12:30")) {
    expect_false(is.double(study_of(x = replace(hours, 4, mark))$data$x), label = mark)
  }
  expect_false(is.double(study_of(x = replace(hours, 1:6, "40-45"))$data$x))
})

test_that("ratios to one, stars, codes with leading zeros and numbered cases are what they are", {
  study <- study_of(
    "N\u00b0" = 1:60, ratio = rep(c("16.1:1", "14:1", "15.5:1"), 20),
    stars = rep(strrep("\u2605", 3:5), 20), area = rep(c("01", "2A", "69", "971", "2B"), 12)
  )
  expect_equal(study$data$ratio[1:2], c(16.1, 14))
  expect_identical(as.integer(as.character(study$data$stars[1:3])), 3:5)
  book <- study$codebook
  expect_identical(book$level[match(c("stars", "area"), book$variable)], c("ordinal", "nominal"))
  expect_identical(book$role[match("N\u00b0", book$variable)], "case")
  empty <- study_of(stars = rep(c("\u2605\u2605\u2606\u2606", "\u2605\u2605\u2605\u2605"), 30))
  expect_setequal(as.character(empty$data$stars), c("2", "4"))
})

test_that("7:24 is a time of day only where something says so", {
  times <- rep(c("7:24", "6:50", "8:05"), 20)
  of <- function(heading) do.call(study_of, stats::setNames(list(times), heading))
  expect_match(told(of("Got up")), "times of day read as minutes after midnight")
  expect_match(told(of("sleep")), "durations \\(hours:minutes\\)")
  expect_match(told(of("1600m time")), "durations \\(minutes:seconds\\)")
  expect_equal(of("1600m time")$data[[2]][1], 7.4)
  expect_match(told(of("result")), "times \\(hours:minutes\\) read as minutes")
})

test_that("all units together are no unit of a panel", {
  set.seed(2)
  panel <- expand.grid(district = c("North", "South", "East", "West", "Lake"), year = 2015:2022, stringsAsFactors = FALSE)
  panel$pupils <- round(1000 + 300 * rnorm(40))
  panel$rate <- round(90 + rnorm(40), 1)
  sums <- round(tapply(panel$pupils, panel$year, sum))
  all <- data.frame(district = "State Total", year = 2015:2022, pupils = sums, rate = 90)
  file <- withr::local_tempfile(fileext = ".csv")
  utils::write.csv(rbind(panel, all), file, row.names = FALSE)
  expect_equal(nrow(read_study(file)$data), 40)
  # A label that only looks like one, in the range of the others, stays.
  all$pupils <- 900
  utils::write.csv(rbind(panel, all), file, row.names = FALSE)
  expect_equal(nrow(read_study(file)$data), 48)
})
