raw_file <- function(name, bytes) {
  path <- file.path(tempfile("intake"), name)
  dir.create(dirname(path))
  writeBin(if (is.character(bytes)) charToRaw(enc2utf8(bytes)) else bytes, path)
  path
}

test_that("title rows, notes, empty rows and columns are left out, and it is said", {
  titled <- raw_file("titled.csv", paste0(
    "Evening school, spring\nSurvey\n\nname,hours,,score\nAda,1,,5\n,,,\nBen,2,,7\nCleo,3,,6\n\nSource: register\nMade up\n"
  ))
  study <- read_study(titled)
  expect_identical(study$data, data.frame(name = c("Ada", "Ben", "Cleo"), hours = c(1, 2, 3), score = c(5, 7, 6)))
  expect_match(format(study$provenance$decisions), "headings found in row 4", all = FALSE)
  expect_match(format(study$provenance$decisions), "2 notes below", all = FALSE)
  expect_match(format(study$provenance$decisions), "1 empty row", all = FALSE)
  expect_identical(study$provenance$rows, c(5L, 7L, 8L))
})

test_that("units in headings, percent signs, thousands, dates, times and spellings of yes are understood", {
  file <- raw_file("marks.csv", paste0(
    "\"wait, min\",income (EUR),share,joined,start,ok\n5,\"1,200\",45 %,01.03.2024,08:30,Yes\n",
    "7,\"12,350\",50 %,02.04.2024,17:05,no\n9,800,12.5%,11.05.2024,12:00,Y\n"
  ))
  study <- read_study(file)
  expect_identical(study$data$`income (EUR)`, c(1200, 12350, 800))
  expect_identical(study$data$share, c(45, 50, 12.5))
  expect_identical(study$data$joined, as.Date(c("2024-03-01", "2024-04-02", "2024-05-11")))
  expect_identical(study$data$start, c(510, 1025, 720))
  expect_identical(study$data$ok, c("yes", "no", "yes"))
  expect_identical(codebook(study)$unit, c("min", "EUR", "%", NA, "min after midnight", NA))
  expect_identical(codebook(study)$role[4], "time")
  expect_identical(relate(study, "wait", "income")$x, "wait, min")
})

test_that("every spelling of a number column reads the same", {
  wanted <- c(1234.5, 2, -3)
  for (cells in list(
    c("1,234.5", "2", "-3"), c("1.234,5", "2", "-3"), c("1 234,5", "2,0", "-3"),
    c("1'234,5", "2", "\u22123,0")
  )) {
    decimal <- if (grepl(",5", cells[1])) "," else "."
    expect_identical(unsere:::convert_text(cells, decimal)$values, wanted)
  }
  expect_identical(unsere:::convert_text(c("3/4/2024", "5/6/2024"))$values, c("3/4/2024", "5/6/2024"))
  expect_identical(unsere:::convert_text(c("3/14/2024", "5/6/2024"))$values, as.Date(c("2024-03-14", "2024-05-06")))
})

test_that("encodings and byte-order marks are found, or the one given is used", {
  text <- "name,gr\u00f6\u00dfe\nJ\u00fcrgen,3\nZo\u00eb,5\n"
  for (encoding in c("UTF-8", "latin1", "UTF-16LE")) {
    bytes <- iconv(paste0(if (encoding == "UTF-16LE") "\ufeff", text), "UTF-8", encoding, toRaw = TRUE)[[1]]
    study <- read_study(raw_file("e.csv", bytes))
    expect_identical(names(study$data), c("name", "gr\u00f6\u00dfe"))
    expect_identical(study$data$name, c("J\u00fcrgen", "Zo\u00eb"))
  }
  marked <- read_study(raw_file("bom.csv", paste0("\ufeff", text)))
  expect_identical(names(marked$data)[1], "name")
})

test_that("workbooks, Parquet, JSON and a database give the demo data as the csv does", {
  wanted <- demo_study("learners")
  for (ending in c("xlsx", "ods", "parquet")) {
    study <- read_study(demo_file(paste0("learners.", ending)))
    expect_equal(study$data, wanted$data)
    expect_identical(codebook(study), codebook(wanted))
  }
  expect_identical(read_study(demo_file("learners.xlsx"))$provenance$rows[1], 4L)
  expect_identical(read_study(demo_file("learners.xlsx"), sheet = "2")$provenance$sheet, "About")
  json <- raw_file("records.json", "[{\"a\":1,\"g\":\"x\"},{\"a\":null,\"g\":\"y\"},{\"a\":3,\"g\":\"x\"}]")
  expect_identical(read_study(json)$data, data.frame(a = c(1, NA, 3), g = c("x", "y", "x")))
  base <- DBI::dbConnect(RSQLite::SQLite(), ":memory:")
  on.exit(DBI::dbDisconnect(base))
  DBI::dbWriteTable(base, "dial", demo_study("dial")$data)
  expect_equal(relate(read_study(base, "dial"), dial, level_db)$r, relate(demo_study("dial"), dial, level_db)$r)
  expect_equal(nrow(read_study(base, "select * from dial where dial > 6")$data), 12)
  expect_error(read_study(base, "dail"), "Did you mean dial", class = "unsere_error_input")
  expect_error(read_study(base, "select nothing"), "refused", class = "unsere_error_input")
  expect_equal(nrow(read_study(base, table = "dial")$data), 24)
  expect_equal(nrow(read_study(base, table = DBI::Id(table = "dial"))$data), 24)
  hostile <- "dial\"; drop table dial; --"
  expect_error(read_study(base, table = hostile), "no table", class = "unsere_error_input")
  DBI::dbWriteTable(base, hostile, data.frame("a b" = 1:9, "Select" = 9:1, check.names = FALSE))
  expect_identical(names(read_study(base, table = hostile)$data), c("a b", "Select"))
  expect_true(DBI::dbExistsTable(base, "dial"))
  expect_error(read_study(demo_file("dial.csv"), table = "dial"), "for a database", class = "unsere_error_usage")
})

test_that("codes are not taken for numbers, and suspicious ones are pointed out, not dropped", {
  data <- data.frame(school_id = rep(101:104, 10), pupil_nr = 1:40, age = c(rep(20:37, 2), 999, 999, 30, 31))
  study <- as_study(data)
  expect_identical(codebook(study)$level, c("nominal", "nominal", "numeric"))
  expect_identical(codebook(study)$role[2], "case")
  expect_match(format(study$provenance$decisions), "age: 999 stands in 2 cells", all = FALSE)
  expect_equal(sum(is.na(study$data$age)), 0)
  expect_match(format(as_study(data.frame(x = c("1", "2", "1e400", "4")))$provenance$decisions), "\"1e400\" in row 3",
    all = FALSE
  )
})

test_that("a column without a heading is called by its place, the count of the cases row", {
  study <- read_study(raw_file("a.csv", "\"\",score,\"\",row\n1,4,7,a\n2,5,8,b\n3,9,9,c\n"))
  expect_identical(names(study$data), c("row_name", "score", "column_3", "row"))
  expect_match(format(study$provenance$decisions), "column 1 is called \"row_name\"; column 3 is called", all = FALSE)
  named <- ",learner,score,remark\n1,L1,4,a\n2,L2,5,b\n3,L3,9,c\n4,L4,8,d\n"
  expect_identical(codebook(read_study(raw_file("a.csv", named)))$role, c("about", "case", "measure", "measure"))
  expect_identical(codebook(read_study(raw_file("a.csv", sub("learner", "motto", named))))$role[1:2], c("case", "measure"))
  expect_identical(codebook(read_study(raw_file("a.csv", ",score\n1,4\n2,5\n3,9\n")))$role, c("case", "measure"))
})

test_that("units stand with or without a space, classes are none, and no answer may carry a code", {
  taken <- function(...) codebook(as_study(data.frame(v = rep(c(...), 5))))$unit
  expect_identical(c(taken("30kg", "41kg"), taken("1.5 km/h", "2,5km/h"), taken("45min", "60min")), c("kg", "km/h", "min"))
  expect_true(all(is.na(c(taken("7a", "8a"), taken("4th", "5th"), taken("2pm", "3pm")))))
  words <- c("1 - disagree", "2 - neutral", "3 - agree", "99 - don't know")
  study <- as_study(data.frame(q = rep(words, 6)))
  expect_identical(study$data$q[1:4], c(1, 2, 3, NA))
  expect_identical(
    format(study$provenance$decisions),
    "q: in the order 1 = disagree < 2 = neutral < 3 = agree; no answer: 99 - don't know",
    ignore_attr = TRUE
  )
})

test_that("records within JSON are the table, with fields within fields, and several answers in one", {
  record <- "{\"id\": %d, \"answers\": {\"q1\": %d, \"use\": %s}}"
  used <- rep(c("[\"radio\"]", "[\"radio\", \"books\"]", "[]", "[\"books\", \"films\"]"), 5)
  records <- paste(sprintf(record, 1:20, rep(1:5, 4), used), collapse = ",")
  text <- sprintf("{\"form\": \"May\", \"responses\": [%s]}", records)
  study <- read_study(raw_file("form.json", text))
  expect_identical(study$data$answers.q1, rep(c(1, 2, 3, 4, 5), 4), ignore_attr = TRUE)
  expect_identical(study$data[["answers.use: books"]][1:4], c("no", "yes", NA, "yes"))
  expect_match(format(study$provenance$decisions), "the records of \"responses\"", all = FALSE)
  expect_error(read_study(raw_file("deep.json", "[{\"a\": [{\"b\": 1}]}]")), "no table", class = "unsere_error_input")
})

test_that("bad files get one to three lines of the right class, and are left as they are", {
  cases <- list(
    list("a.xlsx", charToRaw("PK not a zip"), "cannot be opened"), list("a.csv", as.raw(0:255), "not a text file"),
    list("a.csv", "a,b,c\n1,2,3\n4,5\n6,7,8,9\n", "Row 3 .* 2 fields .* 3 \\(2 rows"),
    list("a.csv", "a,b\n1,\"open\n2,3\n", "opens in row 2 .* never closes"), list("a.csv", "\n\n", "is empty"),
    list("a.json", "{\"a\": [1,2", "not valid JSON"), list("a.json", "{\"a\": {\"b\": 1}}", "holds no table"),
    list("a.parquet", "PAR1", "cannot be read as Parquet"),
    list("a.xls", as.raw(c(208, 207, 17, 224, 1:9)), "Files that end in .xls"),
    list("a.html", "<html><p>no data</p></html>", "a web page without a table")
  )
  for (case in cases) {
    path <- raw_file(case[[1]], case[[2]])
    before <- tools::md5sum(path)
    error <- expect_error(read_study(path), case[[3]], class = "unsere_error_input")
    expect_lte(length(strsplit(conditionMessage(error), "\n")[[1]]), 3)
    expect_identical(tools::md5sum(path), before)
  }
  expect_error(read_study(demo_file("learners.xlsx"), sheet = "Learnrs"), "Did you mean Learners",
    class = "unsere_error_input"
  )
  expect_error(read_study(raw_file("l.csv", as.raw(c(97, 10, 228, 10))), encoding = "UTF-8"), "decoded",
    class = "unsere_error_input"
  )
  expect_error(read_study("x.csv", decimal = ";"), class = "unsere_error_usage")
})

test_that("names with spaces, umlauts, emoji and HTML can be used", {
  odd <- raw_file("odd.csv", "\"my var\",Gr\u00f6\u00dfe,\U1F642,<b>h</b>\n1,3,4,6\n2,5,4,2\n4,1,9,1\n5,2,3,8\n")
  for (name in c("Gr\u00f6\u00dfe", "\U1F642", "<b>h</b>")) expect_equal(relate(read_study(odd), "my var", name)$n, 4)
})

test_that("a codebook written beside the data is found again", {
  file <- raw_file("mine.csv", "h,s\n1,5\n2,7\n-9,6\n4,9\n")
  study <- set_variable(read_study(file), h, label = "Hours, weekly", unit = "h", missing_codes = -9)
  write_codebook(study, file.path(dirname(file), "codebook.csv"))
  again <- read_study(file)
  expect_identical(
    codebook(again)[c("label", "unit", "missing_codes")],
    codebook(study)[c("label", "unit", "missing_codes")]
  )
  expect_identical(again$data$h, c(1, 2, NA, 4))
  expect_error(write_codebook(study, file), "never written", class = "unsere_error_input")
})

test_that("a mark of thousands is told from a decimal one by what the whole file proves, or asked about", {
  read <- function(...) read_study(csv_file(...), decimal = NULL)$data
  mixed <- read("x;y", "1,5;877", "2,5;1.250", "3,5;2.300", "4,0;2.900")
  expect_identical(mixed$y, c(877, 1250, 2300, 2900))
  expect_identical(mixed$x, c(1.5, 2.5, 3.5, 4))
  expect_identical(read("x;y", "0,648;1", "0,700;2", "0,812;3")$x, c(.648, .7, .812))
  expect_identical(read("x,y", "\"1,250\",2.5", "877,3.5", "\"2,300\",1.5")$x, c(1250, 877, 2300))
  expect_identical(read("x;y", "1.250;0,5", "2.300;0,25")$x, c(1250, 2300))
  expect_identical(read("x;y", "1.250;0.5", "2.300;0.25")$x, c(1.25, 2.3))
  open <- c("x;y", "1;1,250", "2;2,300", "3;877")
  expect_error(read(open), "1,250 can mean 1250 or 1.250", class = "unsere_error_input")
  expect_identical(read_study(csv_file(open), decimal = ",")$data$y, c(1.25, 2.3, 877))
  expect_identical(read_study(csv_file(open), decimal = ".")$data$y, c(1250, 2300, 877))
  points <- c("x;y", "1;1.250", "2;2.300", "3;877")
  expect_error(read(points), "can mean 1250 or 1.250", class = "unsere_error_input")
})

test_that("numbers that are names stay text: many digits, leading zeros; a codebook may say otherwise", {
  file <- csv_file("id,pin,x,y", "12345678901234567,007,1,2", "12345678901234568,008,2,1", "12345678901234569,010,4,5")
  study <- read_study(file)
  expect_identical(study$data$id[2], "12345678901234568")
  expect_identical(study$data$pin, c("007", "008", "010"))
  expect_identical(names(residuals(fit_line(study, x, y)))[3], "12345678901234569")
  expect_match(format(study$provenance$decisions),
    "pin: kept as text: as numbers they would lose leading zeros",
    all = FALSE
  )
  writeLines(c("variable,level", "pin,numeric"), file.path(dirname(file), "codebook.csv"))
  expect_identical(read_study(file)$data$pin, c(7, 8, 10))
})

test_that("dates with time serve in every command", {
  file <- csv_file("when,x,y", sprintf("2024-01-%02d 0%d:30:00,%d,%d", 5:14, 0:9, 1:10, c(2, 1, 4, 3, 6, 5, 8, 7, 10, 9)))
  asked <- list(
    c("look", file), c("relate", file, "x", "y"), c("relate", file, "when", "y"), c("matrix", file),
    c("line", file, "when", "y"), c("flag", file, "x", "y"), c("brief", file, "--out", tempfile(fileext = ".yml"))
  )
  for (words in asked) {
    said <- utils::capture.output(status <- suppressMessages(run_command(words)))
    expect_identical(status, 0L, label = paste(words[-2], collapse = " "))
  }
})

test_that("a copy that a full disk cut short is no file to read", {
  copy <- withr::local_tempfile(lines = "a,b")
  expect_silent(unsere:::check_copied(copy, 4))
  expect_error(unsere:::check_copied(copy, 5), "no space left", class = "unsere_error_input")
})

test_that("no case is lost to headings: quoted line breaks, too many fields, names of rows, no headings at all", {
  broken <- read_study(csv_file("\"He", "ading\",b,c", "1,\"a", "b\",4", "2,\"c", "d", "e\",5", "3,f,6"))
  expect_identical(names(broken$data), c("He ading", "b", "c"))
  expect_identical(broken$data$c, c(4, 5, 6))
  expect_identical(find_outliers(read_study(csv_file("a,b", "\"x", "y\",1", "z,2", "v,3", "w,99")), b)$row, 6L)
  refused <- function(text, ...) expect_error(read_study(csv_file(...)), text, class = "unsere_error_input")
  refused("Row 1 of own.csv has 2 headings where", "a,b", "r1,1,2", "r2,2,3", "r3,3,1", "r4,4,5")
  refused("Row 1 of own.csv has 2 headings where", "id,b", "1,1,2", "2,2,3", "3,3,1", "4,4,5")
  counted <- read_study(csv_file("a,b", "\"1\",4,2", "\"2\",2,3", "\"3\",3,1"))
  expect_identical(counted$data, data.frame(row = c(1, 2, 3), a = c(4, 2, 3), b = c(2, 3, 1)))
  ended <- read_study(csv_file("a,b", "1,2,", "2,3,", "3,1,"))
  expect_identical(ended$data, data.frame(a = c(1, 2, 3), b = c(2, 3, 1)))
  expect_match(format(ended$provenance$decisions), "delimiter at the end of each row ignored", all = FALSE)
  # A blank row between them may have one delimiter less.
  gap <- read_study(csv_file("x,a,b", "p,1,2,", ",,", "q,3,4,"))
  expect_identical(as.list(gap$data)[c("x", "b")], list(x = c("p", "q"), b = c(2, 4)))
  refused("no headings: its row 1 holds numbers only", "1,2", "2,3", "3,1", "4,5")
  expect_identical(nrow(read_study(csv_file("1,2", "2,3", "3,1"), header_row = 1)$data), 2L)
  titled <- read_study(csv_file("Survey 2024", "", "a,b", "1,2", "2,3", "3,1"))
  expect_identical(nrow(titled$data), 3L)
  # More comments than cases, with fields of their own.
  noted <- csv_file(paste("# set", 1:40, c("with one, two", "and one")), "a,b,c", sprintf("%d,%d,%d", 1:9, 9:1, 2))
  expect_identical(read_study(noted)$data$b, as.double(9:1))
})

test_that("quotes that should have been written twice, and stray ones, are kept as they stand", {
  study <- read_study(csv_file("a,b", "1,\"he said \"no\" twice\"", "2,5\" wide", "3, \"x, y\" ", "4,\"\"\"q\"\"\""))
  expect_identical(study$data$b, c("he said \"no\" twice", "5\" wide", "x, y", "\"q\""))
  expect_error(read_study(csv_file("a,b", "1,\"open", "2,x", "3,\"y\"", "4,z")), "opens in row 2",
    class = "unsere_error_input"
  )
  old <- csv_file("x")
  writeBin(charToRaw("a,b\r1,2\r2,5\r3,4\r"), old)
  expect_identical(read_study(old)$data, data.frame(a = c(1, 2, 3), b = c(2, 5, 4)))
})

test_that("a file in chunks is read as the whole is: titles, delimiter, marks, codes, codebook", {
  set.seed(9)
  cells <- function(v) sub(".", ",", format(v, trim = TRUE), fixed = TRUE)
  x <- round(rnorm(60), 2)
  rows <- paste(cells(x), cells(c(-9, round(x[-1] + rnorm(59), 2))), ifelse(seq_along(x) %% 2, "\"NA\"", "\"7\""), sep = ";")
  file <- csv_file("Report of a year", "", "a;b;c", rows, "Source: nobody", name = "t.csv")
  writeLines(c("variable,missing_codes", "b,-9"), file.path(dirname(file), "codebook.csv"))
  whole <- correlation_matrix(read_study(file), a, b)$pairs
  expect_identical(whole$n, 59L)
  parts <- correlation_matrix(gather_moments(file, "a", "b", chunk_rows = 7))$pairs
  expect_equal(parts$r, whole$r, tolerance = 1e-13)
  expect_equal(parts$n, whole$n)
  expect_equal(gather_moments(file, "a", "c", chunk_rows = 7)$n, 60)
  expect_error(gather_moments(demo_file("learners.xlsx")), "in chunks", class = "unsere_error_input")
})

test_that("in any split of quotes, rows in are cases, headings and what is said to be left out", {
  set.seed(71)
  read <- 0L
  word <- function() paste(sample(c("a", "b,", "\"\"", "\n", "; ", "'"), 4, TRUE), collapse = "")
  for (round in 1:40) {
    n <- sample(3:12, 1)
    texts <- vapply(seq_len(n), function(k) word(), "")
    cells <- sprintf("\"%s\"", texts)
    file <- csv_file("id,text,x", paste(sprintf("k%d", seq_len(n)), cells, seq_len(n) * 1.5, sep = ","))
    study <- tryCatch(read_study(file), unsere_error_input = function(e) NULL)
    if (is.null(study)) next # refused plainly, which loses nothing
    read <- read + 1L
    expect_identical(study$data$x, seq_len(n) * 1.5)
    squashed <- function(text) gsub("[[:space:]]", "", text)
    meant <- squashed(gsub("\"\"", "\"", texts, fixed = TRUE))
    expect_identical(squashed(ifelse(is.na(study$data$text), "", study$data$text)), meant)
  }
  expect_gt(read, 15)
})

test_that("decimal commas do not become the delimiter below many remarks and quoted headings", {
  rows <- sprintf("%s;1.%03d,%02d;2024-09-%02d;-%d,5", c("-", sprintf("%d,25", 2:15)), 1:15, 1:15, 1:15, 1:15)
  rows[14] <- "7;1.014;2024-09-14;-14,5"
  study <- read_study(csv_file(rep("# a remark", 40), "\"a\";\"b (c)\";\"t\";\"z\"", rows), decimal = NULL)
  expect_identical(dim(study$data), c(15L, 4L))
  expect_identical(study$data$z[1:2], c(-1.5, -2.5))
})

test_that("text that is packed, set by spaces, by bars or in a web page is read as its cells say", {
  rows <- data.frame(name = sprintf("Person %d", 1:12), hours = (1:12) / 2, score = (12:1)^2)
  expected <- function(study) expect_equal(unname(as.list(study$data)), unname(as.list(rows)))
  lines <- function(text) raw_file("table.txt", paste(text, collapse = "\n"))
  wide <- sprintf("%-14s%6.1f%8d", rows$name, rows$hours, as.integer(rows$score))
  expected(read_study(lines(c(sprintf("%-14s%6s%8s", "name", "hours", "score"), wide))))
  # One blank alone between the columns, and names with blanks in them: what no line fills parts them.
  tight <- sprintf("%-9s %4.1f %3d", rows$name, rows$hours, as.integer(rows$score))
  expected(read_study(lines(c(sprintf("%-9s %4s %3s", "name", "hrs", "pts"), tight))))
  quoted <- utils::capture.output(utils::write.table(rows, quote = TRUE))
  expect_identical(read_study(lines(quoted))$data$score, rows$score)
  expected(read_study(lines(c("name|hours|score", do.call(paste, c(rows, sep = "|"))))))
  comma <- read_study(lines(c("x y", "1,5  2", "2,5 3,25", "-1 4")))
  expect_identical(c(comma$data$y, comma$provenance$delimiter), c("2", "3.25", "4", "spaces"))
  cells <- function(row, tag = "td") paste0("<tr>", paste0("<", tag, ">", row, "</", tag, ">", collapse = ""), "</tr>")
  body <- paste(c(cells(names(rows), "th"), apply(format(rows), 1, cells)), collapse = "\n")
  page <- paste0("<!DOCTYPE html><table><tr><td>menu</td></tr></table><table>", body, "</table>")
  for (name in c("page.html", "page.xls")) expected(read_study(raw_file(name, page)))
  packed <- withr::local_tempfile(fileext = ".csv.gz")
  utils::write.csv(rows, connection <- gzfile(packed, "w"), row.names = FALSE)
  close(connection)
  before <- list.files(tempdir())
  expected(read_study(packed))
  expect_identical(list.files(tempdir()), before)
  bytes <- readBin(packed, "raw", 1e4)
  cut <- raw_file("cut.csv.gz", bytes[seq_len(length(bytes) - 20L)])
  expect_error(read_study(cut), "cannot be unpacked to its end", class = "unsere_error_input")
  # Two bytes a letter and no mark that says so; one column of words stays one.
  expected(read_study(raw_file("a.csv", iconv(paste(c("name,hours,score", do.call(paste, c(rows, sep = ","))),
    collapse = "\n"
  ), "UTF-8", "UTF-16LE", toRaw = TRUE)[[1]])))
  expect_length(read_study(lines(c("full name", "Ada Lovelace", "Emmy Noether", "Mary Cartwright")))$data, 1)
})

test_that("words of no answer among numbers are told and count as missing, others stop the column", {
  told <- as_study(data.frame(age = c("18", "refused", "30", "?", "41"), n = c("1", "none", "3", "4", "5")))
  expect_identical(told$data$age, c(18, NA, 30, NA, 41))
  expect_match(format(told$provenance$decisions), "age: 2 cells treated as missing.*\"refused\", \"\\?\"", all = FALSE)
  expect_match(format(told$provenance$decisions), "n: text in 1 of its 5 cells", all = FALSE)
  money <- as_study(data.frame(pay = c("CHF 1'234", "CHF 900", "CHF 12'000.50"), code = c("REG 1", "REG 2", "REG 3")))
  expect_identical(money$data$pay, c(1234, 900, 12000.5))
  expect_type(money$data$code, "character")
})
