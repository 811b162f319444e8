changed_ods <- function(change) with_member(demo_file("learners.ods"), "content.xml", change)

test_that("a hidden sheet of an .ods file is passed over and named, joined cells are told", {
  style <- "<style:style style:name=\"ta1\".*?</style:style>"
  hidden <- changed_ods(function(text) {
    table <- regmatches(text, regexpr("<table:table .*</table:table>", text))
    old <- gsub("\"ta1\"", "\"ta9\"", sub("\"Learners\"", "\"Old\"", table), fixed = FALSE)
    shown <- regmatches(text, regexpr(style, text, perl = TRUE))
    unseen <- sub("display=\"true\"", "display=\"false\"", sub("\"ta1\"", "\"ta9\"", shown))
    sub(table, paste0(old, table), sub(shown, paste0(shown, unseen), text, fixed = TRUE), fixed = TRUE)
  })
  study <- read_study(hidden)
  expect_identical(study$provenance$sheet, "Learners")
  expect_match(format(study$provenance$decisions), "also there: Old (hidden)", fixed = TRUE, all = FALSE)
  expect_identical(nrow(read_study(hidden, sheet = "Old")$data), nrow(study$data))
  joined <- changed_ods(function(text) {
    sub("<table:table-cell ", "<table:table-cell table:number-rows-spanned=\"3\" ", text, fixed = TRUE)
  })
  expect_match(format(read_study(joined)$provenance$decisions), "1 cell reaches over several rows", all = FALSE)
})

test_that("columns are named as spreadsheets name them", {
  for (number in c(1, 26, 27, 52, 53, 702, 703, 16384)) {
    expect_identical(unsere:::letters_number(unsere:::column_letters(number)), as.integer(number))
  }
  expect_identical(unsere:::column_letters(703), "AAA")
})

test_that("codes are spelled out: spans, labels, signs, and what stands for itself", {
  expect_identical(unsere:::spell_codes("97-99"), c("97-99", "97", "98", "99"))
  expect_identical(unsere:::spell_codes("-99 to -97"), c("-99 to -97", "-99", "-98", "-97"))
  expect_identical(unsere:::spell_codes(c("-9", "k.A.")), c("-9", "k.A."))
  expect_identical(unsere:::spell_codes("99 = refused"), c("99 = refused", "99"))
  expect_identical(unsere:::code_entry("98, 99"), c("98", "99"))
  expect_identical(unsere:::code_entry("Don't know, refused; 9"), c("Don't know, refused", "9"))
  expect_length(unsere:::spell_codes("1-99999"), 1)
})

test_that("the delimiter is the one that parts headings and cases alike, decimal commas or not", {
  mark_of <- function(...) unsere:::find_delimiter(csv_file(...))
  for (mark in c(";", "\t")) {
    row <- function(...) paste(c(...), collapse = mark)
    cases <- vapply(1:9, function(k) row(sprintf("%d,%d", k, 9 - k), sprintf("0,%d", k), k), "")
    expect_identical(mark_of(row("a", "b", "c"), cases), mark)
    expect_identical(mark_of(
      "A title", "", row("a", "b", "c"), paste0(cases, mark), row("", "", ""),
      "Source: nobody"
    ), mark)
    study <- read_study(csv_file("A title", "", row("a", "b", "c"), paste0(cases, mark), row("", "", ""), "Source: nobody"))
    expect_identical(study$data$a[1:2], c(1.8, 2.7))
    expect_identical(nrow(study$data), 9L)
  }
  expect_identical(mark_of("x", "1", "2"), ",")
})

test_that("the decimal comma of a file is said, and holds in chunks as in the whole", {
  file <- csv_file("a;b", sprintf("%d,5;%d", 1:12, c(3, 1, 2)))
  told <- paste(format(relate(read_study(file), a, b)), collapse = " ")
  expect_match(told, "\",\" is the decimal mark")
  parts <- correlation_matrix(gather_moments(file, chunk_rows = 5))
  expect_equal(parts$pairs$r, relate(read_study(file), a, b)$r, tolerance = 1e-13)
})

test_that("an unpacking beyond all measure is refused before anything is unpacked, an ordinary file is not", {
  folder <- withr::local_tempdir()
  writeLines(strrep("0", 6e7), file.path(folder, "content.xml"))
  bomb <- file.path(folder, "bomb.ods")
  withr::with_dir(folder, utils::zip(bomb, "content.xml", flags = "-q9X"))
  expect_lt(file.size(bomb), 1e6)
  expect_error(read_study(bomb), "unpacks to 60 megabytes; it is not opened", class = "unsere_error_input")
  expect_identical(nrow(read_study(demo_file("learners.ods"))$data), 240L)
  none <- file.path(folder, "none.xlsx")
  writeLines("no archive", none)
  expect_error(read_study(none), "cannot be opened as a workbook", class = "unsere_error_input")
})

test_that("what stands in brackets after a name is a unit only where it is one", {
  for (unit in c(
    "EUR", "km/h", "g per day", "1,000 EUR", "m\u00b2", "per 1,000 inhabitants", "min", "\u00b0C",
    "in minutes"
  )) {
    expect_true(unsere:::is_unit(unit), label = unit)
  }
  for (word in c(
    "reversed", "T1", "high", "to school", "part 2", "see note",
    "post"
  )) expect_false(unsere:::is_unit(word), label = word)
})

# An .xlsx file of one sheet, its rows as they stand in its XML.
workbook_of <- function(rows, env = parent.frame()) {
  skip_if(!nzchar(Sys.which("zip")), "no zip")
  folder <- withr::local_tempdir(.local_envir = env)
  openxlsx::write.xlsx(data.frame(a = 1:20, b = (1:20)^2 %% 7), file.path(folder, "whole.xlsx"))
  place <- file.path(folder, "parts")
  utils::unzip(file.path(folder, "whole.xlsx"), exdir = place)
  sheet <- file.path(place, "xl", "worksheets", "sheet1.xml")
  writeLines(sub("</sheetData>", paste0(rows, "</sheetData>"), paste(readLines(sheet, warn = FALSE), collapse = "")), sheet)
  path <- file.path(folder, "crafted.xlsx")
  withr::with_dir(place, utils::zip(path, list.files(".", all.files = TRUE, recursive = TRUE), flags = "-qr9X"))
  path
}

test_that("a reference that is none is told before the reader sees it", {
  cell <- function(reference) sprintf("<row r=\"30\"><c r=\"%s\"><v>5</v></c></row>", reference)
  odd <- c(
    vapply(c("A-2", "A0", "AAAA1", "XFE1", "A1048577", "-1", "a5", "", "12", "A&#45;2", "A99999999999999999999"), cell, ""),
    "<row r=\"-5\"><c r=\"A30\"><v>5</v></c></row>", "<!-- <c x=\" --><row r=\"30\"><c r='A-2'><v>5</v></c></row>",
    "<x:c xmlns:x=\"y\" r=\"A-2\"><v>5</v></x:c>"
  )
  for (rows in odd) expect_error(read_study(workbook_of(rows)), "is not a cell address",
    class = "unsere_error_input", label = rows
  )
  for (rows in c(strrep("<a>", 5000), "<!DOCTYPE x>")) {
    expect_error(read_study(workbook_of(rows)), "cannot be opened", class = "unsere_error_input")
  }
  expect_identical(nrow(as.data.frame(read_study(workbook_of("<row><c><v>21</v></c><c><v>0</v></c></row>")))), 21L)
})

test_that("a sheet costs what its filled cells cost, or is refused at once", {
  far <- function(reference, row) sprintf("<row r=\"%d\"><c r=\"%s\"><v>5</v></c></row>", row, reference)
  spent <- system.time({
    expect_error(read_study(workbook_of(far("XFD1048576", 1048576))), "XFD1048576 lies far from",
      class = "unsere_error_input"
    )
    expect_error(read_study(workbook_of(far("A1048576", 1048576))), "A1048576 lies far from", class = "unsere_error_input")
  })
  expect_lt(spent[["elapsed"]], 4)
  # A place that is only formatted is none.
  blank <- read_study(workbook_of("<row r=\"1048576\"><c r=\"XFD1048576\" s=\"1\"/></row>"))
  expect_identical(dim(as.data.frame(blank)), c(20L, 2L))
  skip_if_not_installed("readODS")
  ods <- function(rows) {
    folder <- withr::local_tempdir(.local_envir = parent.frame())
    parts <- file.path(folder, "parts")
    utils::unzip(demo_file("learners.ods"), exdir = parts)
    content <- file.path(parts, "content.xml")
    text <- paste(readLines(content, warn = FALSE), collapse = "")
    at <- regexpr("</table:table>", text, fixed = TRUE)
    writeLines(paste0(substr(text, 1, at - 1L), rows, substring(text, at)), content)
    path <- file.path(folder, "crafted.ods")
    withr::with_dir(parts, utils::zip(path, list.files(".", all.files = TRUE, recursive = TRUE), flags = "-qr9X"))
    path
  }
  value <- "<table:table-cell office:value-type=\"float\" office:value=\"5\"%s><text:p>5</text:p></table:table-cell>"
  row <- function(cells, more = "") sprintf("<table:table-row%s>%s</table:table-row>", more, cells)
  wide <- sprintf(value, " table:number-columns-repeated=\"16384\"")
  for (rows in c(
    row(wide, " table:number-rows-repeated=\"1048000\""),
    row(sprintf(value, ""), " table:number-rows-repeated=\"9999999999999\""),
    row(paste0("<table:table-cell table:number-columns-repeated=\"99999999\"/>", sprintf(value, "")))
  )) expect_error(read_study(ods(rows)), "lies far from", class = "unsere_error_input")
  expect_error(read_study(ods(row(sprintf(value, " table:number-columns-repeated=\"-7\"")))), "not a cell address")
  tail <- row("<table:table-cell table:number-columns-repeated=\"16384\"/>", " table:number-rows-repeated=\"1048000\"")
  expect_identical(nrow(as.data.frame(read_study(ods(tail)))), 240L)
})

test_that("rows that a workbook hides are read and told, or left out when asked", {
  shown <- nrow(read_study(demo_file("learners.ods"))$data)
  some <- changed_ods(function(text) {
    parts <- strsplit(text, "<table:table-row", fixed = TRUE)[[1]]
    parts[c(4, 6)] <- paste0(" table:visibility=\"", c("collapse", "filter"), "\"", parts[c(4, 6)])
    paste(parts, collapse = "<table:table-row")
  })
  told <- function(study) paste(format(study$provenance$decisions), collapse = " ")
  expect_match(told(read_study(some)), "2 hidden rows read with the others (row 3, 5", fixed = TRUE)
  expect_identical(nrow(read_study(some)$data), shown)
  left <- read_study(some, hidden_rows = "leave out")
  expect_identical(nrow(left$data), shown - 2L)
  expect_false(any(c(3, 5) %in% left$provenance$rows))
  expect_match(told(left), "2 hidden rows skipped (row 3, 5)", fixed = TRUE)

  book <- demo_file("learners.xlsx")
  shown <- nrow(read_study(book)$data)
  some <- with_member(book, "xl/worksheets/sheet1.xml", function(text) {
    gsub("(<row [^>]*r=\"(9|11)\")", "\\1 hidden=\"1\"", text)
  })
  sheet <- read_study(some)$provenance$sheet
  expect_match(told(read_study(some)), "2 hidden rows read with the others", fixed = TRUE)
  expect_identical(nrow(read_study(some, hidden_rows = "leave out")$data), shown - 2L)
  expect_error(read_study(some, hidden_rows = "maybe"), class = "unsere_error_usage")
  brief <- write_brief(left, tempfile(fileext = ".yml"))
  expect_match(readLines(brief), "hidden_rows: leave out", fixed = TRUE, all = FALSE)
})
