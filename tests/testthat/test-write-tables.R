learners <- demo_study("learners")
found <- correlation_matrix(learners, practice_hours, speaking_score, confidence, study_partner)

test_that("the publication table has the lower triangle, M and SD, and a note that explains", {
  table <- publication_table(found, stars = TRUE)
  expect_identical(names(table$cells), c("Variable", "M", "SD", "n", "1", "2", "3"))
  expect_identical(table$cells[[5]][1:2], c("\u2013", ".73***"))
  expect_identical(table$cells[[7]][1:2], c("", ""))
  expect_match(table$note, "n = 221 to 232 .pairwise.*Spearman with 3.*\"yes\" of has a study partner.*Holm")
  expect_lte(max(nchar(format(table), "width")), 80)
  with <- publication_table(found, intervals = TRUE)
  expect_match(paste(with$cells[["1"]], collapse = " "), "[.66, .78]", fixed = TRUE)
  expect_error(publication_table(learners), class = "unsere_error_usage")
})

test_that("each pair on a line has the figures of the pair alone", {
  rows <- list_pairs(found)
  alone <- relate(learners, rows$x[1], rows$y[1])
  expect_equal(c(rows$value[1], rows$p[1]), c(alone$value, alone$p), tolerance = 1e-9)
  expect_identical(rows$sentence[1], in_words(alone))
  expect_identical(rows$strength[1], alone$strength)
  expect_output(print(rows), "Strength by Cohen")
})

test_that("a workbook holds numbers as numbers and text as text, never a formula", {
  file <- withr::local_tempfile(fileext = ".xlsx")
  write_tables(found, file)
  expect_identical(openxlsx::getSheetNames(file), c("Table", "Pairs", "Notes"))
  pairs <- openxlsx::read.xlsx(file, "Pairs")
  expect_equal(pairs$r, found$pairs$r, tolerance = 1e-14)
  odd <- data.frame(name = c("=1+1", "+x", "-y", "@z", "plain"), r = c(.1, .2, NA, .4, -1))
  write_tables(list(odd = odd), file)
  expect_identical(openxlsx::read.xlsx(file, "odd")$name, odd$name)
  sheet <- utils::unzip(file, "xl/worksheets/sheet1.xml", exdir = withr::local_tempdir())
  expect_false(any(grepl("<f>", readLines(sheet, warn = FALSE), fixed = TRUE)))
})

test_that("each form is written, ours is replaced, what is not ours is left alone", {
  folder <- withr::local_tempdir()
  for (form in c("csv", "md", "html", "docx", "xlsx")) {
    file <- file.path(folder, paste0("table.", form))
    write_tables(found, file)
    write_tables(found, file)
    expect_gt(file.size(file), 200)
  }
  expect_match(readLines(file.path(folder, "table.md")), "\\| 1\\. Weekly practice", all = FALSE)
  for (form in c("html", "docx")) {
    other <- file.path(folder, paste0("other.", form))
    writeLines("mine", other)
    expect_error(write_tables(found, other), "left alone", class = "unsere_error_input")
    expect_identical(readLines(other), "mine")
  }
  expect_error(write_tables(found, file.path(folder, "table.png")), class = "unsere_error_usage")
  expect_error(write_tables(found, file.path(folder, "none", "table.md")), class = "unsere_error_input")
})

test_that("a p below what a double holds is written out, never as 0", {
  x <- data.frame(a = 1:3000 + sin(1:3000), b = 1:3000, c = cos(1:3000))
  matrix <- correlation_matrix(x)
  expect_identical(matrix$pairs$p[1], 0)
  csv <- withr::local_tempfile(fileext = ".csv")
  write_tables(matrix, csv)
  expect_match(readLines(csv)[2], "e-[0-9]{4}")
  json <- unsere:::as_json(matrix)
  expect_match(json, "\"p\": [0-9.]+e-[0-9]{4}")
  expect_true(jsonlite::validate(json))
})

test_that("the command writes rectangles, groups, lists and tables", {
  file <- demo_file("learners.csv")
  folder <- withr::local_tempdir()
  got <- unsere("matrix", file, "--rows", "speaking_score", "--columns", "practice_hours,confidence", "--format", "csv")
  expect_equal(nrow(utils::read.csv(text = got$out)), 2)
  got <- unsere("matrix", file, "commute_min", "listening_score", "--by", "centre", "--format", "json")
  expect_named(jsonlite::fromJSON(got$out)$groups, c("Brook", "Canal", "Harbour", "Mill", "Orchard"))
  got <- unsere("matrix", file, "practice_hours", "speaking_score", "--list", "--table", file.path(folder, "t.html"))
  expect_match(got$out, "positively correlated", all = FALSE)
  expect_true(file.exists(file.path(folder, "t.html")))
  got <- unsere("matrix", demo_file("town_years.csv"), "hives", "ebook_loans", "--chunk-rows", "7", "--format", "json")
  expect_equal(jsonlite::fromJSON(got$out)$pairs$r, relate(demo_study("town_years"), hives, ebook_loans)$r,
    tolerance = 1e-13
  )
  got <- unsere("draw", "pairs", file, "practice_hours", "speaking_score", "m1", "--out", file.path(folder, "p.png"))
  expect_equal(got$status, 0)
})
