told_of <- function(...) {
  decisions <- format(read_study(csv_file(...))$provenance$decisions)
  grep("sums, averages or limits", decisions, value = TRUE)
}

test_that("subtotals and figures of groups, anywhere in a table, are no cases; where it is not sure the rows are named", {
  rows <- c("a,1,4", "a,2,6", "a,5,1", "b,3,3", "b,8,2", "b,2,9")
  gone <- function(...) expect_match(told_of(...), "^rows excluded because")
  gone("g,x,y", rows[1:3], "Subtotal,8,11", rows[4:6], "Subtotal,13,14", "Total,21,25")
  gone("g,x,y", rows[1:3], "a total,8,11", rows[4:6], "Total b,13,14")
  gone("g,x,y", rows[1:3], "Average a,2.7,3.7", "Highest,5,6", rows[4:6], "Average b,4.3,4.7", "Highest,8,9")
  gone("g,x", "a,1", "a,2", "a,5", "a average,2.67", "b,1", "b,7", "b,3", "b average,3.67")
  gone("g,x,y", rows, "Mean,3.5,4.17", "SD,2.6,2.9")
  gone("g,x,y", rows, "Summe,21,25", "Mittelwert,3.5,4.17")
  # Without a word for it: every group is closed by a row that sums it up, and all of them by the last.
  gone("x,y", "1,4", "2,6", "3,3", "6,13", "3,3", "8,2", "4,4", "15,9", "21,22")
  file <- csv_file("g,x,y", rows[1:3], "Subtotal,8,11", rows[4:6], "Subtotal,13,14")
  expect_identical(as.data.frame(read_study(file))$x, c(1, 2, 5, 3, 8, 2))
  # A mean that is none, and a table that ends without a sum.
  expect_match(told_of("g,x,y", rows[1:3], "Mean,9,9", rows[4:6]), "^row 5 contains")
  expect_match(told_of("x,y", "1,4", "2,6", "3,10", "3,3", "8,2", "11,5", "4,4"), "^rows 4, 7 contain")
})

test_that("of clean tables with answers such as total and average no row goes", {
  set.seed(1)
  answers <- c("high", "average", "low", "total", "max", "some")
  gone <- vapply(1:400, function(k) {
    n <- sample(8:60, 1)
    data <- data.frame(
      id = as.double(sample(n)), answer = sample(sample(answers, sample(3:6, 1)), n, TRUE),
      a = as.double(sample(0:4, n, TRUE)),
      b = as.double(rpois(n, 1)), c = round(rnorm(n, 50, 10))
    )
    length(unsere:::sure_summaries(data[sample(ncol(data), sample(3:5, 1))]))
  }, 0L)
  expect_identical(sum(gone), 0L)
})

test_that("rows that sum up a gradebook are no cases, top or end, and come back with one word", {
  set.seed(11)
  marks <- data.frame(name = sprintf("P%02d", 1:30), a = sample(40:100, 30), b = sample(40:100, 30))
  lines <- c(
    "name,a,b", "Points possible,100,100", do.call(paste, c(marks, sep = ",")), ",,",
    sprintf("%s,%s,%s", c("Class average", "Highest", "Lowest", "SD", "Median"), 70:74, 60:64)
  )
  file <- do.call(csv_file, as.list(lines))
  study <- read_study(file)
  expect_equal(relate(study, a, b)$r, sum(scale(marks$a) * scale(marks$b)) / 29)
  expect_match(format(study$provenance$decisions), "rows 2, 34, 35, 36, 37 and 1 more", all = FALSE)
  expect_identical(nrow(as.data.frame(read_study(file, summary_rows = "keep"))), 36L)
  expect_error(read_study(file, summary_rows = "never"), class = "unsere_error_usage")
  # Of data in memory, and of clean tables, no row goes.
  expect_identical(nrow(as.data.frame(as_study(read.csv(file)))), 37L)
  gone <- vapply(1:200, function(k) {
    set.seed(k)
    data <- data.frame(name = sprintf("P%02d", 1:12), x = sample(9, 12, TRUE), y = sample(9, 12, TRUE))
    data$z <- round(rnorm(12), 1)
    length(unsere:::sure_summaries(data))
  }, 0L)
  expect_identical(sum(gone), 0L)
})

test_that("a column that is made of the pair's values is no class", {
  set.seed(8)
  x <- rnorm(80)
  y <- .6 * x + .8 * rnorm(80)
  total <- x + y
  made <- list(
    grade = cut(total, quantile(total, 0:5 / 5), LETTERS[1:5], include.lowest = TRUE),
    passed = ifelse(y > 0, "pass", "fail"),
    quarter = paste("quarter", findInterval(x, quantile(x, 1:3 / 4)))
  )
  for (name in names(made)) {
    told <- cautions(relate(data.frame(x, y, made = as.character(made[[name]])), x, y))$code
    expect_false(any(c("clustered_cases", "mixed_groups") %in% told), label = name)
  }
})

test_that("ordinary rows, and answers that happen to be such words, are left in peace", {
  expect_length(told_of("g,x,y", "a,1,4", "a,2,6", "b,5,1", "b,3,3"), 0)
  expect_length(told_of("g,x,y", "all,1,4", "some,2,6", "all,5,1", "none,3,3", "all,2,2"), 0)
  expect_length(told_of("name,x,y", "Anna Mean,1,4", "Sumi,2,6", "Totaly,5,1", "Ida,3,3"), 0)
  set.seed(72)
  numbers <- apply(round(matrix(rnorm(120, 5), 40), 1), 1, paste, collapse = ",")
  expect_length(told_of("x,y,z", numbers), 0)
})

test_that("records are counted by one set of rules: quotes, line breaks, ends of lines, empty rows", {
  scan <- function(text, mark = ",") {
    path <- withr::local_tempfile()
    writeBin(charToRaw(text), path)
    unsere:::core_scan_delimited(path, mark, 0)
  }
  seen <- scan("a,b\n\"1\n2\",3\n\n4,\"x\"\"y,z\"\n,\n")
  expect_identical(seen$line, c(1L, 2L, 4L, 5L, 6L))
  expect_identical(seen$fields, c(2L, 2L, 0L, 2L, 2L))
  expect_identical(seen$filled, c(2L, 2L, 0L, 2L, 0L))
  expect_identical(seen$ends, c(0L, 0L, 1L, 0L, 1L))
  expect_true(seen$proper)
  expect_false(scan("a,b\n1,x\"y\n")$proper)
  expect_identical(scan("a,b\n1,\"x\n2,3\n")$open, 2L)
  expect_identical(scan("a;b\r1;2\r3;4", ";")$fields, c(2L, 2L, 2L))
  expect_identical(scan("\xef\xbb\xbfa,b\r\n1,2\r\n")$fields, c(2L, 2L))
  expect_identical(length(scan("")$line), 0L)
})
