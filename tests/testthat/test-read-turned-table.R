# Tables whose variables stand in rows.

lines_file <- function(...) {
  file <- tempfile(fileext = ".csv")
  writeLines(enc2utf8(c(...)), file, useBytes = TRUE)
  file
}

across <- function(heading = "Indicator") {
  lines_file(
    sprintf("%s;2019;2020;2021;2022", heading), "Visits;1200;1260;1310;1390", "Loans;300;360;;520",
    "Teachers (FTE);22,5;22,0;23,1;23,4"
  )
}

test_that("years across and a variable a row: the years become cases, where the heading says so or where it is asked for", {
  study <- read_study(across())
  expect_identical(names(study$data), c("year", "Visits", "Loans", "Teachers (FTE)"))
  expect_equal(study$data$year, 2019:2022)
  expect_equal(study$data$Loans, c(300, 360, NA, 520))
  expect_equal(study$data[[4]], c(22.5, 22, 23.1, 23.4))
  expect_identical(codebook(study)$unit[4], "FTE")
  expect_match(
    paste(format(study$provenance$decisions), collapse = " "),
    "reshaped to long format: 2019 to 2022 stand across"
  )
  expect_identical(names(read_study(across(), turn = "never")$data)[1:2], c("Indicator", "2019"))
  # A table of regions may mean either: it stays, and how to turn it is told where one looks.
  regions <- read_study(across("Region"))
  expect_length(names(regions$data), 5)
  expect_match(paste(format(overview(regions)), collapse = " "), "--turn\\s+rows\\) each row of Region")
  expect_no_match(paste(format(relate(regions, `2019`, `2020`)), collapse = " "), "turn rows")
  expect_equal(read_study(across("Region"), turn = "rows")$data, study$data)
  # Years over columns are headings, though they are numbers; months are times, too.
  bare <- read_study(lines_file(",2015,2016,2017", "Visits,10,12,13", "Loans,100,103,110"), turn = "rows")
  expect_identical(names(bare$data), c("year", "Visits", "Loans"))
  months <- read_study(lines_file("name,sep_2023,oct_2023,nov_2023", "Anna,12,13,14", "Ben,10,9,11"), turn = "rows")
  expect_identical(names(months$data), c("month", "Anna", "Ben"))
  expect_error(read_study(lines_file("3,2015,2016,2017", "1,10,12,13", "2,100,103,110")), "has no headings")
  expect_error(read_study(across(), turn = "up"), "cannot be", class = "unsere_error_usage")
})

test_that("units over years across: a row a unit and a year, units of measures told, remarks and codes of measures left", {
  units <- c("Mill", "Dock", "Park")
  rows <- expand.grid(kind = c("Visits", "Loans"), unit = units, stringsAsFactors = FALSE)
  value <- function(k, t) 10 * k + t
  text <- vapply(seq_len(6), function(k) {
    cells <- paste(value(k, 1:4), collapse = ",")
    sprintf(
      "%s,C%d,%s,%s,%s,%s", rows$unit[k], match(rows$unit[k], units), rows$kind[k], substr(rows$kind[k], 1, 1),
      if (rows$kind[k] == "Visits") "persons" else "items", cells
    )
  }, "")
  file <- lines_file(
    "Centre,Centre code,Indicator name,Indicator code,Unit,2015 [YR2015],2016 [YR2016],2017 [YR2017],2018 [YR2018]", text
  )
  study <- read_study(file)
  expect_identical(names(study$data), c("Centre", "Centre code", "year", "Visits", "Loans"))
  expect_identical(dim(study$data), c(12L, 5L))
  dock <- study$data[study$data$Centre == "Dock" & study$data$year == 2017, ]
  expect_equal(c(dock$Visits, dock$Loans), c(value(3, 3), value(4, 3)))
  expect_identical(codebook(study)$unit[4:5], c("persons", "items"))
  one <- lines_file("Centre,Indicator,2015,2016,2017", "Mill,Visits,1,2,3", "Dock,Visits,4,5,6")
  expect_identical(names(read_study(one)$data)[3], "2015") # of one measure the years may be what is to be related
  # A variable that a case has twice cannot be reshaped.
  twice <- lines_file("Indicator,2015,2016,2017", "Visits,1,2,3", "Visits,4,5,6", "Loans,7,8,9")
  expect_identical(names(read_study(twice)$data)[1], "Indicator")
  expect_error(read_study(twice, turn = "rows"), "\"?Visits\"? twice", class = "unsere_error_input")
})

test_that("one column that names what the next holds: a variable each, a case a unit and time", {
  set.seed(4)
  rows <- expand.grid(
    measure = c("visits", "loans", "staff"), time = sprintf("%d-Q%d", rep(2020:2022, each = 4), 1:4),
    geo = c("AA", "BB"), stringsAsFactors = FALSE
  )
  rows$value <- round(rnorm(nrow(rows), 50, 5), 1)
  flag <- ifelse(seq_len(nrow(rows)) %% 7 == 0, "p", "")
  shuffled <- sample(nrow(rows))
  file <- lines_file("GEO,TIME_PERIOD,INDICATOR,OBS_VALUE,OBS_FLAG", sprintf(
    "%s,%s,%s,%s,%s", rows$geo, rows$time, rows$measure, rows$value, flag
  )[shuffled])
  study <- read_study(file)
  expect_setequal(names(study$data), c("GEO", "TIME_PERIOD", "visits", "loans", "staff"))
  expect_identical(nrow(study$data), 24L)
  at <- match(paste("BB", "2021-Q3"), paste(study$data$GEO, study$data$TIME_PERIOD))
  expect_equal(study$data$loans[at], rows$value[rows$geo == "BB" & rows$time == "2021-Q3" & rows$measure == "loans"])
  expect_match(paste(format(study$provenance$decisions), collapse = " "), "omitted when reshaping: OBS_FLAG")
  told <- sprintf("p%d,%s,%d", rep(1:9, each = 2), c("I read", "I write"), 1:18 %% 5 + 1)
  answers <- lines_file("person,question,answer", told)
  expect_identical(names(read_study(answers)$data), c("person", "I read", "I write"))
  tests <- lines_file("pupil,test,score", sprintf("%s,%s,%d", rep(LETTERS[1:5], each = 2), c("maths", "reading"), 1:10))
  expect_length(read_study(tests)$data, 3)
  expect_identical(names(read_study(tests, turn = "rows")$data), c("pupil", "maths", "reading"))
  expect_error(read_study(demo_file("learners.csv"), turn = "rows"), "cannot be reshaped", class = "unsere_error_input")
})

test_that("a brief and the command say how a table is turned, and the rows of its folder hold the turned table", {
  folder <- tempfile()
  dir.create(folder)
  file.copy(across("Region"), file.path(folder, "wide.csv"))
  study <- read_study(file.path(folder, "wide.csv"), turn = "rows")
  path <- file.path(folder, "brief.yml")
  write_brief(study, path)
  expect_match(paste(readLines(path), collapse = "\n"), "turn: rows")
  writeLines(sub("rows: moments", "rows: all", readLines(path)), path)
  run_brief(path, out = file.path(folder, "out"), quiet = TRUE)
  expect_identical(nrow(verify_results(file.path(folder, "out"))$different), 0L)
})

test_that("years are headings below title rows, and where each row ends with a delimiter more", {
  rows <- c("A,Visits,52.34,64.11,68.01,", "A,Loans,55.42,63.49,50.69,")
  study <- read_study(lines_file("\"Centre\",\"Indicator\",\"2001\",\"2002\",\"2003\"", rows))
  expect_equal(as.list(study$data)[c("year", "Loans")], list(year = 2001:2003, Loans = c(55.42, 63.49, 50.69)))
  titled <- read_study(lines_file("A made-up town,,,,", "Centre,Indicator,2001,2002,2003", sub(",$", "", rows)))
  expect_identical(nrow(titled$data), 3L)
})

told_of <- function(study) paste(format(study$provenance$decisions), collapse = " ")

test_that("cases across are told of where their numbers run on, and turned on request", {
  set.seed(4)
  values <- rbind(sample(18:40, 12), round(rnorm(12, 172, 9)), round(rnorm(12, 310, 40)))
  lines <- sprintf("%s,%s", c("Age", "Height (cm)", "Reaction time (ms)"), apply(values, 1, paste, collapse = ","))
  file <- lines_file(paste(c("Measure", paste0("P", 1:12)), collapse = ","), lines)
  expect_match(told_of(read_study(file)), "P1 to P12 may be cases: with turn: rows")
  turned <- read_study(file, turn = "rows")
  expect_identical(names(turned$data), c("case", "Age", "Height (cm)", "Reaction time (ms)"))
  expect_equal(unname(as.matrix(turned$data[-1])), t(values))
  expect_identical(codebook(turned)$unit[3:4], c("cm", "ms"))
  expect_identical(codebook(turned)$role[1], "case")
  # Items of one scale are no cases.
  items <- lines_file("name,q1,q2,q3,q4,q5", sprintf("%s,%d,%d,%d,%d,%d", c("Ann", "Ben", "Cy"), 1:3, 2:4, 5:3, 4:2, 1:3))
  expect_no_match(told_of(read_study(items)), "may be cases")
})
