read_cells <- function(...) suppressMessages(as_study(data.frame(..., check.names = FALSE)))

test_that("two measurements in a cell become two variables, marks out of a maximum and dates do not", {
  systolic <- c(118, 131, 127, 140, 109, 122, 135, 116, 128, 133)
  diastolic <- c(76, 84, 80, 91, 70, 78, 88, 72, 81, 79)
  study <- read_cells(`Blood pressure` = sprintf("%d/%d", systolic, diastolic), mark = sprintf("%d/20", 5:14))
  expect_identical(names(study$data), c("Blood pressure systolic", "Blood pressure diastolic", "mark"))
  expect_equal(study$data[[1]], systolic)
  expect_equal(study$data[[2]], diastolic)
  expect_equal(as.double(study$data$mark), 5:14)
  blanks <- read_cells(RR = c("", sprintf("%d / %d mmHg", systolic, diastolic)))
  expect_equal(blanks$data[["RR diastolic"]], c(NA, diastolic))
  expect_length(read_cells(date = sprintf("%d/%d", 1:10, 2:11))$data, 1L)
  expect_length(read_cells(score = sprintf("%d/%d", 3:12, 5:14))$data, 1L)
})

test_that("values with what they may be off by, and the digits of other scripts, are numbers", {
  study <- read_cells(
    absorbance = sprintf("%.2f \u00b1 0.01", seq(.1, 1, .1)),
    hours = vapply(11:20, function(n) intToUtf8(utf8ToInt(as.character(n)) + 0xff10L - 48L), "")
  )
  expect_equal(study$data$absorbance, seq(.1, 1, .1))
  expect_equal(as.double(study$data$hours), 11:20)
})

test_that("several codes for no answer are asked about together, and values that a count may reach are not", {
  set.seed(3)
  suspected <- function(values) {
    out <- unsere:::suspicious_codes(values, "x")
    if (is.null(out)) numeric() else sort(out$code)
  }
  happy <- c(sample(1:10, 180, TRUE), rep(77, 6), rep(88, 4), 99)
  expect_identical(suspected(happy), c(77, 88, 99))
  expect_identical(suspected(c(round(rlnorm(150, 7.5, .4)), 99999, 99999, 88888, 88888)), c(88888, 99999))
  expect_identical(suspected(c(sample(20:70, 100, TRUE), 77, 77)), numeric())
  alarms <- mean(replicate(200, length(suspected(rpois(120, runif(1, 2, 90)))) > 0))
  expect_lte(alarms, .01)
})

test_that("records a line each, days over marks, and a table beside another are read as they are meant", {
  folder <- withr::local_tempdir()
  path <- function(name) file.path(folder, name)
  records <- sprintf("{\"user\":\"u%d\",\"usage\":{\"minutes\":%d},\"quiz\":%d}", 1:12, 5:16, c(3:13, 20))
  writeLines(records, path("log.jsonl"))
  log <- suppressMessages(read_study(path("log.jsonl")))
  expect_equal(as.double(log$data$usage.minutes), 5:16)
  days <- sprintf("%02d/09", 2:9)
  marks <- matrix(rep(c("P", "A", "P", "P", "L"), length.out = 12 * 8), 12)
  names <- c("Student", days, "Mark")
  table <- stats::setNames(data.frame(paste("Stu", 1:12), marks, 60:71), names)
  write.csv(table, path("days.csv"), row.names = FALSE)
  expect_identical(names(suppressMessages(read_study(path("days.csv")))$data), names)
  skip_if_not_installed("openxlsx")
  book <- openxlsx::createWorkbook()
  openxlsx::addWorksheet(book, "a")
  openxlsx::writeData(book, 1, data.frame(Pupil = paste("P", 1:20), Maths = 41:60))
  openxlsx::writeData(book, 1, data.frame(Grade = c("A", "B", "C"), From = c(75, 60, 45)), startCol = 5)
  openxlsx::saveWorkbook(book, path("side.xlsx"))
  expect_identical(names(suppressMessages(read_study(path("side.xlsx")))$data), c("Pupil", "Maths"))
})

test_that("hours with gaps are the time of a series; the stamps of a form are not", {
  set.seed(5)
  hours <- as.POSIXct("2024-04-01", tz = "UTC") + 3600 * sort(sample(0:99, 80))
  stamps <- as.POSIXct("2024-04-01", tz = "UTC") + sort(runif(80, 0, 1e6))
  role <- function(at) {
    study <- read_cells(timestamp = format(at, "%Y-%m-%dT%H:%M:%SZ"), a = rnorm(80), b = rnorm(80))
    study$codebook$role[1]
  }
  expect_identical(role(hours), "time")
  expect_identical(role(stamps), "about")
})
