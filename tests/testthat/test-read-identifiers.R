values_of <- function(..., ext = ".csv") {
  path <- tempfile(fileext = ext)
  writeLines(c(...), path)
  read_study(path)
}

test_that("codes are text: with E among digits, zeros in front, or more digits than a double holds", {
  text <- function(study, name = "id") expect_type(as.data.frame(study)[[name]], "character")
  text(values_of("id,v", "38E8,1", "12E3,2", "11E4,3"))
  text(values_of("id,v", "38E8,1", "A2,2", "1104,3"))
  text(values_of("id,v", "012,1", "123,2", "345,3"))
  long <- c("9007199254740993", "9007199254740995", "9007199254740997")
  text(values_of("id,v", paste0(long, ",1")))
  json <- values_of(sprintf("[%s]", paste(sprintf("{\"id\":%s,\"v\":%d}", long, 1:3), collapse = ",")), ext = ".json")
  expect_identical(as.data.frame(json)$id, long)
  # Sizes are numbers, however distinct; so are numbers in scientific notation.
  expect_type(as.data.frame(values_of("income,v", "23450,1", "51234,2", "39872,3"))$income, "double")
  expect_equal(as.data.frame(values_of("x,v", "3.8E8,1", "1.2E3,2", "1E-4,3"))$x, c(3.8e8, 1.2e3, 1e-4))
})

test_that("numbers that count the cases are their names: by their heading, or from 10,000 on", {
  role <- function(name, from) {
    data <- stats::setNames(data.frame(from + 0:29, sin(1:30)), c(name, "v"))
    codebook(as_study(data))$role[1]
  }
  for (name in c("Lp.", "idno", "S.No.", "Sr No", "#")) expect_identical(role(name, 1), "case", label = name)
  expect_identical(role("household", 20001), "case")
  for (name in c("depth", "pos")) expect_identical(role(name, 1), "measure", label = name)
})

test_that("headings with a no of another meaning hold measures; numbers of candidates are names", {
  set.seed(8)
  data <- data.frame(
    "No. of pupils" = sample(8:60, 40), "Trust (0 no trust - 10 full trust)" = sample(0:10, 40, TRUE),
    Candidate = sample(1000:9999, 40), "Case No" = sample(200:900, 40), check.names = FALSE
  )
  study <- as_study(data)
  expect_identical(codebook(study)$role, c("measure", "measure", "case", "case"))
  expect_no_match(paste(format(study$provenance$decisions), collapse = " "), "Trust[^;]*read as codes")
  expect_equal(relate(study, "No. of pupils", "Trust (0 no trust - 10 full trust)")$n, 40)
})

test_that("whole numbers of 64 bits keep each digit from data frames, databases and Parquet", {
  skip_if_not_installed("bit64")
  long <- c("9007199254740993", "9007199254740995", "-9007199254740997")
  data <- data.frame(v = 1:3)
  data$id <- bit64::as.integer64(long)
  expect_identical(as.data.frame(as_study(data))$id, long)
  skip_if_not_installed("nanoparquet")
  file <- withr::local_tempfile(fileext = ".parquet")
  nanoparquet::write_parquet(data, file)
  expect_identical(as.data.frame(read_study(file))$id, long)
  unsigned <- nanoparquet::parquet_schema(u = "UINT_32", v = "INT32")
  nanoparquet::write_parquet(data.frame(u = c(4e9, 1, 2), v = 1:3), file, schema = unsigned)
  expect_identical(as.data.frame(read_study(file))$u, c(4e9, 1, 2))
  skip_if_not_installed("RSQLite")
  con <- DBI::dbConnect(RSQLite::SQLite(), ":memory:")
  on.exit(DBI::dbDisconnect(con))
  DBI::dbExecute(con, "CREATE TABLE t (id INTEGER, v INTEGER, b BLOB)")
  DBI::dbExecute(con, sprintf("INSERT INTO t VALUES %s", paste(sprintf("(%s, %d, x'01')", long, 1:3), collapse = ", ")))
  read <- as.data.frame(read_study(con, table = "t"))
  expect_identical(read$id, long)
  expect_true(all(is.na(read$b)))
})

test_that("columns set by blanks keep thousands, names, dates and units in their own column", {
  read <- as.data.frame(values_of(
    "name          people     cost    day          w", "Smith, Ann    1,234,567  $1,234  2024-01-05   12 kg",
    "Jones, Bob    234,567    $234    2024-01-06   13 kg", "Brown, Cy     34,567     $34     2024-01-07   14 kg",
    ext = ".txt"
  ))
  expect_identical(read$name, c("Smith, Ann", "Jones, Bob", "Brown, Cy"))
  expect_equal(read$people, c(1234567, 234567, 34567))
  expect_equal(read$cost, c(1234, 234, 34))
  expect_identical(read$day, as.Date("2024-01-05") + 0:2)
  expect_equal(read$w, 12:14)
  headless <- c("Millby    1,234,567   3.5", "Harbour   234,567     4.5", "Brook     34,567      5.5")
  expect_error(values_of(headless, ext = ".txt"), "may be the headings or the first case", class = "unsere_error_input")
  expect_error(values_of("Ash,3,4.5", "Elm,4,5.5", "Oak,5,2.5"), "may be the headings or the first case")
  expect_named(as.data.frame(values_of("town,2019,2020", "Elm,4,5.5", "Oak,5,2.5", "Ash,3,2")), c("town", "2019", "2020"))
  expect_error(values_of("x,v", "\"626.208\",1", "\"425,805\",2", "\"425,811\",2"), "and no other cell settles it")
})

test_that("a web page's cells are what a browser shows", {
  study <- values_of(
    "<table><tr><th>Town<sup>a</sup></th><th>area (km<sup>2</sup>)</th><th>n</th></tr>",
    "<tr><td>Ash</td><td>12<sup>1</sup></td><td>1</td></tr><tr><td>Elm<br>Park</td><td>15</td><td>3</td></tr>",
    "<tr hidden><td>Oak</td><td>99</td><td>3</td></tr><tr style='display: none'><td>Oax</td><td>98</td><td>3</td></tr>",
    "<tr><td>Yew<span style='display:none'>x</span></td><td>17 <a href='#n1'>[2]</a></td>",
    "<td>5<script>y()</script></td></tr>",
    "<tr><td>Fir</td><td>10<sup>1</sup></td><td>2</td></tr>",
    "</table>",
    ext = ".html"
  )
  read <- as.data.frame(study)
  expect_identical(read[[1]], c("Ash", "Elm Park", "Yew", "Fir"))
  expect_equal(c(read[[2]], read[[3]]), c(12, 15, 17, 10, 1, 3, 5, 2), ignore_attr = TRUE)
  told <- paste(unsere:::fill_templates(study$provenance$decisions), collapse = " ")
  expect_match(told, "2 hidden rows")
  expect_match(told, "4 marks of notes")
})

test_that("answers with < have an order that can be written and read again", {
  study <- values_of("years,v", "<1 year,1", "1-2 years,2", ">5 years,3", "1-2 years,4", "<1 year,2", ">5 years,5")
  expect_identical(levels(as.data.frame(study)$years), c("<1 year", "1-2 years", ">5 years"))
  brief <- withr::local_tempfile(fileext = ".yml")
  write_brief(study, brief)
  run_brief(brief, out = withr::local_tempdir(), quiet = TRUE)
  again <- set_variable(data.frame(y = c("<1", ">5", "1;2"), v = 1:3), y, values = c("<1", "1;2", ">5"))
  expect_identical(levels(as.data.frame(again)$y), c("<1", "1;2", ">5"))
})

test_that("codebooks that say little, or elsewhere, are read or refused", {
  folder <- withr::local_tempdir()
  data <- file.path(folder, "x.csv")
  writeLines(c("a,b", "1,2", "2,3", "3,5"), data)
  book <- function(...) {
    writeLines(paste0(...), file.path(folder, "book.json"))
    read_study(data, codebook = file.path(folder, "book.json"))
  }
  writeLines('{"fields":[{"name":"a","title":"First"},{"name":"b","categories":[]}]}', file.path(folder, "schema.json"))
  package <- '{"resources":[{"path":"x.csv","schema":"%s"}]}'
  expect_identical(codebook(book(sprintf(package, "schema.json")))$label[1], "First")
  expect_error(book(sprintf(package, "../schema.json")), "not a file beside", class = "unsere_error_input")
  told <- book('{"url":"x.csv","tableSchema":{"columns":[{"name":"a"},{"name":"b","titles":"Bee"}]}}')
  expect_s3_class(told, "unsere_study")
  expect_error(book('[{"a": 1, "a": 2}]'), class = "unsere_error_input")
  twice <- file.path(folder, "twice.json")
  writeLines('[{"a":1,"a":2,"v":1},{"a":3,"v":2}]', twice)
  expect_error(read_study(twice), "has \"a\" twice", class = "unsere_error_input")
})

test_that("a last case that has a name alone stays a case, and a note does not", {
  rows <- c("name,a,b", "Ann,1,2", "Bob,2,3", "Cyd,3,5", "Dan,4,4")
  expect_identical(nrow(as.data.frame(values_of(rows, "Eve,,"))), 5L)
  expect_identical(nrow(as.data.frame(values_of(rows, "Source: the register,,"))), 4L)
  expect_identical(nrow(as.data.frame(values_of(rows, "Total,,"))), 4L)
})

test_that("marks that cannot be seen stop no document, and very many unknown names are answered shortly", {
  folder <- withr::local_tempdir()
  set.seed(1)
  x <- rnorm(40)
  rows <- sprintf("%s,%.3f,%.3f", rep(c("a\003b", "c"), 20), x, x + rnorm(40))
  writeLines(c("grp,x\001y,z\002", rows), file.path(folder, "c.csv"))
  brief <- file.path(folder, "b.yml")
  writeLines(c(
    "title: \"bad\\x01title\\x0b\"", "data: {file: c.csv}", "variables: {z: {label: \"lab\\x02el\"}}",
    "report: {formats: [html, docx, pptx], folder: out}", "pairs: [{x: xy, y: z}, {x: grp, y: z}]"
  ), brief)
  run_brief(brief, quiet = TRUE)
  expect_true(all(paste0("report.", c("html", "docx", "pptx")) %in% list.files(file.path(folder, "out"))))
  writeLines(c("data: {file: c.csv}", "matrix:", "  variables:", sprintf("    - unknown_%05d", 1:20000)), brief)
  expect_error(run_brief(brief), "has 21 mistakes", class = "unsere_error_input")
})
