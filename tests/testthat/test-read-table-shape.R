grid_of <- function(...) do.call(rbind, lapply(list(...), function(row) ifelse(nzchar(row), row, NA)))

test_that("the row of the headings is found under titles, and taken as given", {
  sheet <- grid_of(c("Survey", "", ""), c("", "", ""), c("name", "h", "s"), c("Ada", "1", "2"), c("Ben", "3", "4"))
  expect_identical(unsere:::find_header_row(sheet), 3L)
  expect_identical(unsere:::find_header_row(sheet[3:5, ]), 1L)
  years <- grid_of(c("town", "2019", "2020", "count"), c("A", "1", "2", "3"), c("B", "4", "5", "6"))
  expect_identical(unsere:::find_header_row(years), 1L)
  expect_identical(unsere:::find_header_row(matrix(c("score", "1", "2"))), 1L)
  shaped <- unsere:::shape_grid(sheet, 4L, "f")
  expect_identical(names(shaped$data), c("Ada", "1", "2"))
})

test_that("notes are rows of one cell at the end of a wide table, nothing else", {
  expect_identical(unsere:::trailing_notes(c(3, 3, 1, 0, 1), 3, logical(5)), c(FALSE, FALSE, TRUE, TRUE, TRUE))
  expect_identical(unsere:::trailing_notes(c(3, 1, 3), 3, logical(3)), c(FALSE, FALSE, FALSE))
  expect_false(any(unsere:::trailing_notes(c(2, 1), 2, logical(2))))
  expect_false(any(unsere:::trailing_notes(c(3, 1), 3, c(FALSE, TRUE))))
  lacking <- read_study(csv_file("x;g;y", "1;a;2", "2;b;3", "3;c;4", "NA;NA;24,86"))
  expect_identical(lacking$data$y, c(2, 3, 4, 24.86))
})

test_that("units are taken from headings of every form, and only from those", {
  cases <- list(
    "wait, min" = c("wait", "min"), "income (EUR)" = c("income", "EUR"), "Attendance [%]" = c("Attendance", "%"),
    "speed [km/h]" = c("speed", "km/h"), "cases (per 1,000)" = c("cases", "per 1,000"), "rent, EUR" = c("rent", "EUR"),
    "cost (1,000 EUR)" = c("cost", "1,000 EUR")
  )
  for (name in names(cases)) expect_identical(unlist(unsere:::unit_in_heading(name), use.names = FALSE), cases[[name]])
  for (name in c(
    "score", "x; DROP", "name, first and last", "(all)", "item 3 (reversed)", "income, high",
    "way (to school)", "score (T1)"
  )) expect_null(unsere:::unit_in_heading(name))
})

test_that("delimiter and decimal mark are told apart from text and dates", {
  mark_of <- function(...) unsere:::find_delimiter(csv_file(...))
  expect_identical(mark_of("a;b;c", "1,5;2,5;x", "2;3,1;\"y;z\""), ";")
  expect_identical(mark_of("a,b", "\"x;y;z\",1", "\"p;q;r\",2"), ",")
  expect_identical(mark_of("only", "1", "2"), ",")
  expect_identical(unsere:::find_decimal(c("Ada", "1,5", "01.03.2024", "Ben", "2,25", "02.03.2024"), ";"), ",")
  expect_identical(unsere:::find_decimal(c("1.5", "2", "3", "2.5"), "\t"), ".")
})

test_that("text becomes what it means, or stays text", {
  reads <- function(cells, wanted, decimal = ".") expect_identical(unsere:::convert_text(cells, decimal)$values, wanted)
  reads(c("1", " 2 ", ""), c(1, 2, NA))
  reads(c("1e3", "-.5", "+2"), c(1000, -.5, 2))
  reads(c("12,5 %", "7 %"), c(12.5, 7), ",")
  reads(c("3,5", "4,25"), c(3.5, 4.25))
  reads(c("1,234", "12,345", "7"), c(1234, 12345, 7))
  reads(c("8:05", "23:59:30"), c(485, 1439.5))
  # Going to bed at half past midnight is later than at eleven.
  reads(c("22:10", "23:00", "0:30", "23:45", "1:15"), c(1330, 1380, 1470, 1425, 1515))
  reads(c("22:10", "7:00", "0:30", "12:45", "1:15"), c(1330, 420, 30, 765, 75))
  reads(c("31.12.2023", NA), as.Date(c("2023-12-31", NA)))
  reads(c("Yes", "no", "Y", "-"), c("yes", "no", "yes", NA))
  reads(c("yes", "no"), c("yes", "no"))
  reads(c("12a", "b", "3"), c("12a", "b", "3"))
  reads(c("\u2013", "n/a", "NA"), c(NA_real_, NA, NA))
  moments <- unsere:::convert_text(c("2024-03-01T08:30", "2024-03-02 09:00:30"))$values
  expect_equal(as.numeric(diff(moments), "secs"), 88230)
})
