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

test_that("marks that notes explain are taken off numbers, and what official tables write for nothing is blank", {
  given <- c("12 345", "9 870*", "..", "10 001 [b]", "11 000 (e)", "8 120", "7 600 p", ":", "9 999", "10 100\u2020")
  given <- c(given, as.character(9001:9008))
  study <- study_of(gdp = rep(given, 6), n = 108)
  expect_equal(study$data$gdp[1:10], c(12345, 9870, NA, 10001, 11000, 8120, 7600, NA, 9999, 10100))
  expect_match(told(study), "the marks \"*\", \"[b]\", \"(e)\", \"p\", \"\u2020\" removed from 30 cells", fixed = TRUE)
  # What all carry is a unit, and letters of their own are no mark.
  expect_identical(codebook(study_of(x = rep(c("5 p", "7 p"), 30)))$unit[2], "p")
  expect_type(study_of(x = rep(c("5a", "7b", "8c"), 20))$data$x, "character")
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

test_that("points out of ten, accounts' negatives, thousands by a letter and money with a point for thousands are numbers", {
  study <- study_of(
    rating = rep(c("7.1/10", "8/10", "6.5/10"), 20), profit = rep(c("12", "(17)", "40"), 20),
    revenue = rep(c("812.3k", "1.2M", "900k"), 20), spend = rep(c("\u20ac24.300", "\u20ac8.150", "\u20ac31.005"), 20),
    length = rep(c("5 m", "7 m", "9 m"), 20)
  )
  expect_equal(study$data$rating[1:3], c(7.1, 8, 6.5))
  expect_equal(study$data$profit[1:3], c(12, -17, 40))
  expect_equal(study$data$revenue[1:3], c(812300, 1.2e6, 9e5))
  expect_equal(study$data$spend[1:3], c(24300, 8150, 31005))
  expect_equal(study$data$length[1:3], c(5, 7, 9))
  # Days of one month, an M of men, and money with cents are none of them.
  cents <- rep(c("\u20ac24.30", "\u20ac8.15", "\u20ac1.05"), 20)
  other <- study_of("Date of visit" = rep(c("1/10", "7/10", "9/10"), 20), cost = cents)
  expect_false(is.numeric(other$data[[2]]))
  expect_equal(other$data$cost[1:3], c(24.3, 8.15, 1.05))
  expect_false(is.numeric(study_of(group = rep(c("7M", "8M", "9M"), 20))$data$group))
})

test_that("a column of ticks and blanks is yes and no, one of another single word is not", {
  study <- study_of(sport = rep(c("x", "", ""), 20), music = rep(c("", "x"), 30), word = rep(c("late", ""), 30))
  expect_setequal(study$data$sport, c("yes", "no"))
  expect_equal(sum(study$data$music == "yes"), 30)
  expect_true(anyNA(study$data$word))
  expect_match(told(study), "sport, music: a mark is read as yes, a blank as no")
})

test_that("a row of right answers is no case, and groups with numbers in their names stand in their order", {
  set.seed(3)
  answers <- as.data.frame(matrix(sample(LETTERS[1:4], 40 * 5, TRUE), 40))
  names(answers) <- paste0("Q", 1:5)
  table <- rbind(
    data.frame(student = "KEY", t(stats::setNames(LETTERS[c(1, 3, 2, 4, 1)], names(answers)))),
    data.frame(student = sprintf("s%d", 1:40), answers)
  )
  table$year <- c("", rep(c("Y9", "Y10", "Y7", "Y11"), 10))
  file <- withr::local_tempfile(fileext = ".csv")
  utils::write.csv(table, file, row.names = FALSE)
  study <- read_study(file)
  expect_equal(nrow(study$data), 40)
  expect_match(paste(format(study$provenance$decisions), collapse = " "), "an answer key: row 2")
  # It is the key of a test of these items, unless another is given.
  told <- check_items(study, Q1, Q2, Q3, Q4, Q5)
  by_hand <- check_items(study, Q1, Q2, Q3, Q4, Q5, key = stats::setNames(LETTERS[c(1, 3, 2, 4, 1)], names(answers)))
  expect_identical(told$items$mean, by_hand$items$mean)
  expect_equal(told$items$mean[2], mean(answers$Q2 == "C"))
  expect_match(paste(format(overview(study)), collapse = " "), "Y7: 10, Y9: 10, Y10: 10, Y11: 10")
})

test_that("measurements under the headings of two occasions take the names of both rows", {
  skip_if_not_installed("openxlsx")
  file <- withr::local_tempfile(fileext = ".xlsx")
  book <- openxlsx::createWorkbook()
  openxlsx::addWorksheet(book, "Results")
  put <- function(row, cells) openxlsx::writeData(book, 1, t(cells), startRow = row, colNames = FALSE)
  put(1, "Summer school, test results")
  put(3, c("Student", NA, "Pre-test", NA, "Post-test", NA))
  put(4, c("ID", "Group", "Maths", "Reading", "Maths", "Reading"))
  set.seed(9)
  for (k in 1:30) {
    put(4 + k, c(sprintf("S%02d", k), c("A", "B")[k %% 2 + 1], NA, NA, NA, NA))
    for (column in 3:6) openxlsx::writeData(book, 1, round(50 + 10 * rnorm(1)), column, 4 + k, colNames = FALSE)
  }
  openxlsx::saveWorkbook(book, file)
  study <- read_study(file)
  expect_true(all(c("Pre-test: Maths", "Post-test: Reading") %in% names(study$data)))
  expect_match(told(study), "two rows of headings: questions, and under them what each asks")
})

test_that("years and months are months; one of the two throughout is a unit; keys are no telephone numbers", {
  tenure <- study_of(tenure = rep(c("7 yrs 3 mths", "11 months", "2 years, 1 month", "4y"), 15))
  expect_equal(tenure$data$tenure[1:4], c(87, 11, 25, 48))
  expect_identical(codebook(tenure)$unit[2], "months")
  expect_equal(study_of(age = rep(c("7 years", "9 years", "8 years"), 20))$data$age[1:3], c(7, 9, 8))
  keys <- study_of("Gemeindeschl\u00fcssel" = sprintf("%08d", 1000:1059), phone = sprintf("0%09d", 2e8 + 1:60))
  expect_no_match(told(keys), "Gemeindeschl.{1,2}ssel \\(telephone")
  expect_match(told(keys), "phone (telephone numbers)", fixed = TRUE)
})

test_that("signs before money, money in brackets, fractions, feet and inches are numbers", {
  money <- study_of(
    balance = rep(c("-$1,250", "$300", "$-20", "$4,000"), 15), net = rep(c("($12)", "$7", "$30", "$1,200"), 15)
  )
  expect_equal(money$data$balance[1:4], c(-1250, 300, -20, 4000))
  expect_equal(money$data$net[1:4], c(-12, 7, 30, 1200))
  body <- study_of(
    cups = rep(c("1/2", "1", "1 1/2", "2 1/4"), 15), height = rep(c("5'11\"", "6'0\"", "5' 4\"", "6'2\""), 15)
  )
  expect_equal(body$data$cups[1:4], c(.5, 1, 1.5, 2.25))
  expect_equal(body$data$height[1:4], c(71, 72, 64, 74))
  expect_identical(codebook(body)$unit[3], "in")
  # Days of a month and shares of points are no fractions.
  expect_no_match(told(study_of(x = rep(c("1/2", "3/4", "2/3"), 20))), "fractions read")
  expect_no_match(told(study_of(x = rep(c("7/10", "9/10", "10"), 20))), "fractions read")
})
