# Headings over more than one row, as exports of forms have them.

names_of <- function(...) names(read_study(csv_file(...))$data)
labels_of <- function(...) codebook(read_study(csv_file(...)))$label
said_of <- function(...) format(read_study(csv_file(...))$provenance$decisions)
cases <- function(n = 12) sprintf("P%02d,%d,%d", seq_len(n), seq_len(n), (seq_len(n) * 7) %% 11)

test_that("codes above questions: the codes are names, the questions labels, and which is which is said", {
  lines <- c("id,q1,q2", "Person,How many hours do you read?,How old are you?", cases())
  expect_identical(do.call(names_of, as.list(lines)), c("id", "q1", "q2"))
  expect_identical(do.call(labels_of, as.list(lines)), c("Person", "How many hours do you read?", "How old are you?"))
  expect_match(do.call(said_of, as.list(lines)), "codes as names, and questions, kept as labels", all = FALSE)
  study <- do.call(function(...) read_study(csv_file(...)), as.list(lines))
  expect_identical(nrow(study$data), 12L)
  expect_identical(study$provenance$rows[1], 3L)
  # The other way round too.
  turned <- lines[c(2, 1, 3:14)]
  expect_identical(do.call(names_of, as.list(turned)), c("id", "q1", "q2"))
})

test_that("a question over its parts, with or without an empty corner, gives names that hold both", {
  expect_identical(
    names_of("id,How is it?,,Age", ",warm,light,", sprintf("%d,%d,%d,%d", 1:9, 1:9, 9:1, 21:29)),
    c("id", "How is it?: warm", "How is it?: light", "Age")
  )
  above <- names_of(
    ",How is it?,,,About you", "id,warm,light,loud,age",
    sprintf("%d,%d,%d,%d,%d", 1:9, 1:9, 9:1, 2:10, 21:29)
  )
  expect_identical(above, c("id", "How is it?: warm", "How is it?: light", "How is it?: loud", "About you: age"))
})

test_that("a row of units is taken for units, a row for machines left out, three rows are told apart", {
  units <- read_study(csv_file("site,temp,rain", ",\u00b0C,mm", sprintf("s%d,%d,%d", 1:9, 11:19, 3:11)))
  expect_identical(codebook(units)$unit, c(NA, "\u00b0C", "mm"))
  logged <- read_study(csv_file("depth,temp,salt", "(m),(degC),(PSU)", sprintf("%d,%d,%d", 1:9, 11:19, 31:39)))
  expect_identical(codebook(logged)$unit, c("m", "degC", "PSU"))
  machine <- read_study(csv_file("id,a,b", "Who,How many books?,How many films?", "{x},{y},{z}", cases()))
  expect_identical(nrow(machine$data), 12L)
  expect_match(format(machine$provenance$decisions), "1 row of machine codes", all = FALSE)
  three <- read_study(csv_file(
    ",How often do you ...?,,About you", "Code,read,write,Age", "id,f1,f2,age", sprintf("%d,%d,%d,%d", 1:9, 1:9, 9:1, 21:29)
  ))
  expect_identical(names(three$data), c("id", "f1", "f2", "age"))
  expect_identical(codebook(three)$label[2], "How often do you ...?: read")
})

test_that("a first case is never taken for a heading: words among words, a typing error, blanks, a title above", {
  whole <- function(...) nrow(read_study(csv_file(...))$data)
  expect_identical(whole("name,town,mood", "Ada,Ulm,good", "Ben,Kiel,bad", "Cleo,Ulm,good", "Dan,Kiel,bad"), 4L)
  expect_identical(whole("name,hours,town", "Ada,about ten,Ulm", sprintf("B%d,%d,Kiel", 1:8, 1:8)), 9L)
  expect_identical(whole("name,hours,score", "Ada,,", cases(8)), 9L)
  expect_identical(whole("name,hours,score", "Ada,n/a,-", cases(8)), 9L)
  expect_identical(whole("name,hours,score", "Ada,refused,refused", cases(8)), 9L)
  expect_identical(whole("name,hours,score", "Ada,sick,don't know", cases(8)), 9L)
  titled <- read_study(csv_file("Spring survey,,", "name,hours,score", cases(8)))
  expect_identical(names(titled$data), c("name", "hours", "score"))
  answers <- sprintf("%s,%s", rep(c("Agree", "Disagree"), 6), rep(c("Often", "Never", "Often"), 4))
  expect_identical(whole("I like it,I read", answers), 12L)
})

test_that("a workbook's two rows of headings are read as those of a text", {
  skip_if_not_installed("openxlsx")
  skip_if_not_installed("readxl")
  file <- tempfile(fileext = ".xlsx")
  book <- openxlsx::createWorkbook()
  openxlsx::addWorksheet(book, "A")
  openxlsx::writeData(book, "A", "Title of all", startRow = 1)
  rows <- rbind(c("id", "q1", "q2"), c("Person", "How many books do you own?", "How many films did you see?"))
  openxlsx::writeData(book, "A", as.data.frame(rows), startRow = 3, colNames = FALSE)
  openxlsx::writeData(book, "A", data.frame(sprintf("P%d", 1:9), 1:9, 9:1), startRow = 5, colNames = FALSE)
  openxlsx::saveWorkbook(book, file)
  study <- read_study(file)
  expect_identical(dim(study$data), c(9L, 3L))
  expect_identical(codebook(study)$label[2], "How many books do you own?")
  expect_identical(study$provenance$rows[1], 5L)
})
