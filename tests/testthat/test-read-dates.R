# What was written: 20,000 moments between 1950 and 2049 in every form, each column of one form.
writers <- list(
  iso = "%Y-%m-%d", slashes = "%Y/%m/%d", dots = "%d.%m.%Y", dots_first = "%Y.%m.%d", day_slash = "%d/%m/%Y",
  month_slash = "%m/%d/%Y", day_dash = "%d-%m-%Y", dots_short = "%d.%m.%y", month_short = "%m/%d/%y", week = "%G-W%V-%u",
  iso_space = "%Y-%m-%d %H:%M:%S", iso_t = "%Y-%m-%dT%H:%M:%S", iso_z = "%Y-%m-%dT%H:%M:%SZ", basic = "%Y%m%dT%H%M%S",
  of_year = "%Y-%jT%H:%M:%S", dots_time = "%d.%m.%Y %H:%M:%S", half = "%m/%d/%Y %I:%M:%S %p", day_time = "%d/%m/%Y, %H:%M:%S"
)

moments_written <- function(n) as.POSIXct(floor(runif(n, -631152000, 2524607999)), origin = "1970-01-01", tz = "UTC")

as_written <- function(moments, form) {
  withr::with_locale(c(LC_TIME = "C"), format(moments, form, tz = "UTC"))
}

test_that("each of 20,000 moments comes back as it was written, in every form", {
  set.seed(8601)
  forms <- c(names(writers), "offset", "fraction", "month_word", "german", "word_first")
  n <- ceiling(20000 / length(forms))
  moments <- lapply(stats::setNames(forms, forms), function(name) moments_written(n))
  part <- function(name, form) as_written(moments[[name]], form)
  columns <- Map(as_written, moments[names(writers)], writers)
  hours <- sample(-12:14, n, TRUE)
  shifted <- as_written(moments$offset + hours * 3600, "%Y-%m-%dT%H:%M:%S")
  columns$offset <- sprintf("%s%s%02d:00", shifted, ifelse(hours < 0, "-", "+"), abs(hours))
  columns$fraction <- paste0(as_written(moments$fraction, "%Y-%m-%d %H:%M:%S"), ".25")
  month <- function(name, words) words[as.integer(part(name, "%m"))]
  day <- function(name) as.integer(part(name, "%d"))
  german <- c(
    "Januar", "Februar", "M\u00e4rz", "April", "Mai", "Juni", "Juli", "August", "September", "Oktober", "November",
    "Dezember"
  )
  columns$month_word <- paste(part("month_word", "%d"), month("month_word", month.abb), part("month_word", "%Y"))
  columns$german <- sprintf("%d. %s %s", day("german"), month("german", german), part("german", "%Y"))
  columns$word_first <- sprintf("%s %d, %s", month("word_first", month.name), day("word_first"), part("word_first", "%Y"))
  read <- as.data.frame(as_study(as.data.frame(columns)))
  for (name in names(columns)) {
    told <- as.double(read[[name]]) * if (inherits(read[[name]], "Date")) 86400 else 1
    whole <- as.double(moments[[name]])
    if (inherits(read[[name]], "Date")) whole <- floor(whole / 86400) * 86400
    expect_identical(told, whole + if (name == "fraction") 0.25 else 0, label = name)
  }
})

test_that("times of day and durations are minutes, in each of their forms", {
  read <- function(...) as.data.frame(as_study(data.frame(t = c(...))))$t
  expect_equal(read("08:05", "23:59:30", "12:00"), c(485, 1439.5, 720))
  expect_equal(read("6:49 PM", "12:05 AM", "1:00 pm"), c(1129, 5, 780))
  expect_equal(read("8h05", "10 h 30", "23h59"), c(485, 630, 1439))
  expect_equal(read("PT1H30M", "PT45M", "P1DT2H", "PT30S"), c(90, 45, 1560, 0.5))
  expect_equal(read("1 h 30 min", "45 min", "2 h"), c(90, 45, 120))
})

test_that("what is not settled, or no date at all, stays text and says which cell", {
  kept <- function(cells, why) {
    study <- as_study(data.frame(t = cells, n = seq_along(cells)))
    expect_type(as.data.frame(study)$t, "character")
    expect_match(paste(unsere:::fill_templates(study$provenance$decisions), collapse = " "), why, fixed = TRUE)
  }
  kept(c("03/04/2024", "05/06/2024", "01/02/2024"), "may have the day or the month first")
  kept(c("2023-02-30 10:00", "2023-02-20 10:00", "2023-02-21 10:00"), "\"2023-02-30\" is not a date")
  kept(c("2023-02-03 25:15", "2023-02-20 10:00", "2023-02-21 10:00"), "\"2023-02-03 25:15\" is not a time of day")
  kept(c("10:75", "10:15", "11:20"), "\"10:75\" is not a time of day")
  kept(c("2024-01-05 10:00+02:00", "2024-01-05 10:00", "2024-01-06 10:00"), "some of its times have a time zone")
  kept(c("2024-01-05 10:00 EST", "2024-01-05 10:00 CET", "2024-01-06 10:00 CET"), "different time zones")
  codes <- list(c("45-03-02", "46-03-02", "47-03-20"), c("1.2.3", "1.2.4", "2.0.1"), c("2024-123", "2024-124", "2024-200"))
  for (codes in codes) {
    expect_type(as.data.frame(as_study(data.frame(t = codes)))$t, "character")
  }
})

test_that("moments and short years that lie together one way and far apart the other are read that way", {
  read <- function(t) as.data.frame(as_study(data.frame(t = t, n = seq_along(t))))$t
  days <- as.POSIXct("2026-10-01 08:00", tz = "UTC") + 3600 * 7.3 * (1:20)
  expect_equal(read(as_written(days, "%m/%d/%Y %H:%M")), as.POSIXct(trunc(days, "mins")), ignore_attr = TRUE)
  short <- as.POSIXct("2026-09-01", tz = "UTC") + 86400 * 4 * (0:19)
  expect_equal(read(as_written(short, "%d/%m/%y")), as.Date(short), ignore_attr = TRUE)
  # The tenth of each month may as well be ten days of October.
  months <- as.POSIXct(sprintf("2025-%02d-10", 1:12), tz = "UTC")
  expect_type(read(as_written(months, "%d/%m/%Y")), "character")
})

test_that("offsets are taken off, midnight stays its own day, and a change of clocks moves nothing", {
  read <- function(...) as.data.frame(as_study(data.frame(t = c(...))))$t
  at <- read("2024-01-05T10:00:00+02:00", "2024-01-05T10:00:00-05:00", "2024-01-05T10:00:00Z")
  expect_identical(format(at, "%H:%M"), c("08:00", "15:00", "10:00"))
  late <- read("08.01.2024 00:20", "08.01.2024 03:20", "09.01.2024 23:20", "10.01.2024 22:00", "11.01.2024 06:00")
  expect_identical(format(late[1], "%Y-%m-%d %H:%M"), "2024-01-08 00:20")
  expect_identical(format(read("2024-01-05 10:00 CET", "2024-06-05 10:00 CEST"), "%H:%M"), c("09:00", "08:00"))
  withr::with_timezone("Europe/Berlin", {
    spring <- read("2024-03-31 01:30", "2024-03-31 02:30", "2024-03-31 03:30")
    expect_equal(diff(as.double(spring)), c(3600, 3600))
    expect_identical(as.double(read("2024-10-27", "2024-10-28", "2024-10-29")), 20023 + 0:2)
  })
})

test_that("dates serve in relations, conditions and derived variables, from workbooks too", {
  skip_if_not_installed("openxlsx")
  book <- openxlsx::createWorkbook()
  openxlsx::addWorksheet(book, "S")
  data <- data.frame(
    day = as.Date("2024-01-05") + 0:11 * 7, clock = (8 + 0:11 / 4) / 24, lasted = c(0.5, 1.05, 1.2, 2, 3:10 / 10),
    score = 1:12 + c(0, 1)
  )
  openxlsx::writeData(book, "S", data)
  openxlsx::addStyle(book, "S", openxlsx::createStyle(numFmt = "hh:mm"), rows = 2:13, cols = 2)
  openxlsx::addStyle(book, "S", openxlsx::createStyle(numFmt = "[h]:mm"), rows = 2:13, cols = 3)
  path <- withr::local_tempfile(fileext = ".xlsx")
  openxlsx::saveWorkbook(book, path)
  study <- read_study(path)
  read <- as.data.frame(study)
  expect_identical(read$day, data$day)
  expect_equal(read$clock, 480 + 0:11 * 15)
  expect_equal(read$lasted, data$lasted * 1440)
  expect_equal(relate(study, day, score)$r, relate(data, clock, score)$r, tolerance = 1e-13)
  for (where in c("day >= 2024-02-01", "day >= '01.02.2024'", "not day < '2024-02-01' and score > 0")) {
    expect_identical(nrow(as.data.frame(read_study(path, where = where))), 8L)
  }
  expect_equal(as.data.frame(derive(study, since_start = "since(day)"))$since_start, 0:11 * 7)
  expect_error(
    read_study(path, where = "day > 'soon'"), "compared with dates but is not a date",
    class = "unsere_error_input"
  )
})

test_that("conditions of any length are answered, and what is nested too deep is refused", {
  data <- data.frame(dial = rep(1:50, 4), level = rnorm(200))
  path <- withr::local_tempfile(fileext = ".csv")
  utils::write.csv(data, path, row.names = FALSE)
  kept <- function(where) nrow(as.data.frame(read_study(path, where = where)))
  expect_identical(kept(sprintf("dial in (%s)", toString(0:299))), 200L)
  expect_identical(kept(paste(sprintf("dial = %d", 11:2000), collapse = " or ")), 160L)
  expect_identical(kept(paste(rep("dial >= 2", 3000), collapse = " and ")), 196L)
  expect_error(kept("'a' = 'b'"), "compared with something that is not a variable", class = "unsere_error_input")
  nested <- paste0(strrep("(", 5000), "dial = 1", strrep(")", 5000))
  expect_error(kept(nested), "brackets are nested", class = "unsere_error_input")
  long <- paste("dial >", paste(rep("1", 2000), collapse = " + "))
  expect_error(kept(long), "are chained", class = "unsere_error_input")
})
