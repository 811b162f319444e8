test_that("delimiter and decimal mark are found, blanks become missing, text stays text", {
  for (file in list(
    csv_file("name,h,score", "Ada,1.5,10", "Ben,2.5,", "Cleo,NA,30"),
    csv_file("name;h;score", "Ada;1,5;10", "Ben;2,5;", "Cleo;n/a;30"),
    csv_file("name\th\tscore", "Ada\t1.5\t10", "Ben\t2.5\t-", "Cleo\t\t30")
  )) {
    study <- read_study(file)
    expect_identical(study$data, data.frame(name = c("Ada", "Ben", "Cleo"), h = c(1.5, 2.5, NA), score = c(10, NA, 30)))
    expect_identical(codebook(study)$role, c("case", "measure", "measure"))
  }
})

test_that("levels are found: numbers, two values, groups without an order", {
  data <- data.frame(
    agree = rep(1:5, 5), partner = rep(c("yes", "no", "yes", "no", "no"), 5),
    place = rep(letters[1:5], 5), hours = 1:25 / 3
  )
  expect_identical(codebook(as_study(data))$level, c("numeric", "binary", "nominal", "numeric"))
})

test_that("a codebook beside the file gives labels, units and missing codes", {
  file <- csv_file("h,s", "1,10", "-9,20", "3,15")
  writeLines(c("variable,label,unit,missing_codes", "h,Hours,h,-9"), file.path(dirname(file), "codebook.csv"))
  study <- read_study(file)
  expect_identical(study$data$h, c(1, NA, 3))
  expect_identical(codebook(study)$label, c("Hours", NA))
  expect_match(format(study), "missing-value code: h 1", all = FALSE)
})

test_that("missing codes hold for all or for one variable, and set_variable() adds to the entry", {
  data <- data.frame(a = c(1, 99, 3), b = c(99, 2, 3))
  expect_identical(as_study(data, missing_codes = 99)$data, data.frame(a = c(1, NA, 3), b = c(NA, 2, 3)))
  expect_identical(as_study(data, missing_codes = list(b = 99))$data$a, c(1, 99, 3))
  study <- set_variable(data, a, label = "First", unit = "kg", missing_codes = 99)
  expect_identical(study$data$a, c(1, NA, 3))
  expect_identical(unlist(codebook(study)[1, c("label", "unit")], use.names = FALSE), c("First", "kg"))
  expect_error(set_variable(data, a, level = "big"), "ordinal", class = "unsere_error_usage")
})

test_that("bad files are refused in one or two lines", {
  refused <- function(path, text, ...) expect_error(read_study(path, ...), text, class = "unsere_error_input")
  refused("no-such.csv", "no file")
  refused(withr::local_tempdir(), "no table in the folder")
  refused(csv_file(character()), "empty")
  refused(csv_file("a,b"), "no case")
  refused(csv_file("a,b", "1,2", "3,4,5"), "Row 3 .* 3 fields .* 2")
  refused(csv_file("a,b", "1,2"), "headings cannot be in row 9", header_row = 9)
  refused(csv_file("a,b", "1,2"), "knows", codebook = data.frame(variable = c("p", "q")))
  refused(csv_file("a,b", "1,2"), "level \"big\"", codebook = data.frame(variable = "a", level = "big"))
})

test_that("workbooks say what their cells do not: hidden and empty sheets, formulas, errors, merged cells", {
  data <- data.frame(x = 1:12, y = c(2, 1, 4, 3, 6, 5, 8, 7, 10, 9, 12, 11))
  book <- openxlsx::createWorkbook()
  for (name in c("codes", "blank", "data", "notes")) openxlsx::addWorksheet(book, name, visible = name != "codes")
  openxlsx::writeData(book, "codes", data.frame(old = 1:3))
  openxlsx::writeData(book, "data", data)
  openxlsx::writeFormula(book, "data", paste0("A", 2:13, "*2"), startCol = 3, startRow = 2)
  openxlsx::writeData(book, "data", "z", startCol = 3, startRow = 1)
  openxlsx::mergeCells(book, "data", 2, 4:6)
  openxlsx::writeData(book, "notes", "Read me")
  file <- tempfile(fileext = ".xlsx")
  openxlsx::saveWorkbook(book, file)
  study <- read_study(file)
  told <- paste(format(study$provenance$decisions), collapse = " | ")
  expect_match(told, "sheet \"data\" read; also there: codes (hidden), blank, notes", fixed = TRUE)
  expect_match(told, "12 formulas without a stored value (C2, C3, C4 and 9 more)", fixed = TRUE)
  expect_match(told, "1 cell reaches over several rows or columns (from B4)", fixed = TRUE)
  expect_match(paste(format(relate(study, x, y)), collapse = " "), "sheet \"data\" read")
  expect_error(read_study(file, sheet = "notes"), "no case", class = "unsere_error_input")
  spoilt <- with_member(file, "xl/worksheets/sheet3.xml", function(text) {
    sub("<c r=\"B3\"[^>]*><v>1</v>", "<c r=\"B3\" t=\"e\"><v>#DIV/0!</v>", text)
  })
  expect_error(relate(read_study(spoilt), x, y), "\"#DIV/0!\" in row 3", class = "unsere_error_input")
  expect_identical(read_study(spoilt, missing_codes = "#DIV/0!")$data$y[1:3], c(2, NA, 4))
  bomb <- with_member(file, "xl/worksheets/sheet3.xml", function(text) {
    sub("<sheetData>", paste0("<sheetData>", strrep(" ", 6e7)), text, fixed = TRUE)
  })
  expect_error(read_study(bomb), "unpacks to 60 megabytes", class = "unsere_error_input")
})

test_that("headings that come twice are told apart and said; in a data frame they are refused", {
  study <- read_study(csv_file("a,a,b", "1,2,3", "3,4,5", "6,1,2"))
  expect_identical(names(study$data), c("a", "a 2", "b"))
  expect_match(format(study$provenance$decisions),
    "headings that come twice: \"a\" \\(column 2\\) is called \"a 2\"",
    all = FALSE
  )
  expect_error(as_study(data.frame(a = 1, a = 2, check.names = FALSE)), "share the name", class = "unsere_error_input")
})
