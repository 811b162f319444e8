test_that("random expressions give what R gives for the same arithmetic", {
  set.seed(12)
  data <- data.frame(a = c(1.5, 2, 7), b = c(3, 5, 4))
  grow <- function(depth) {
    if (depth == 0) return(sample(c("a", "b", "2", "0.5", "3"), 1))
    switch(sample(5, 1),
      sprintf("(%s)", grow(depth - 1)),
      sprintf("%s %s %s", grow(depth - 1), sample(c("+", "-", "*"), 1), grow(depth - 1)),
      sprintf("-%s", grow(depth - 1)),
      sprintf("abs(%s)", grow(depth - 1)),
      sprintf("(%s)^2", grow(depth - 1))
    )
  }
  for (i in 1:150) {
    text <- grow(sample(1:4, 1))
    wanted <- rep_len(eval(parse(text = text)[[1]], data), 3)
    expect_equal(derive(data, new = text)$data$new, wanted, label = text)
  }
})

test_that("random tables come back as they were written, in every dialect", {
  set.seed(30)
  for (i in 1:25) {
    n <- sample(4:30, 1)
    data <- data.frame(
      name = sprintf(
        "%s %d", sample(c("Ada", "O'Neil", "M\u00fcller", "Cy \"the\" Cat", "x, y; z"), n, TRUE),
        seq_len(n)
      ),
      score = round(rnorm(n, 50, 20), sample(1:3, 1)), count = sample(1:900, n), free = runif(n) * 1e-3
    )
    data$score[sample(n, 1)] <- NA
    mark <- sample(c(",", ";", "\t"), 1)
    decimal <- if (mark == ",") "." else sample(c(".", ","), 1)
    path <- tempfile(fileext = ".csv")
    utils::write.table(data, path,
      sep = mark, dec = decimal, row.names = FALSE, qmethod = "double",
      fileEncoding = "UTF-8",
      na = sample(c("", "NA", "-"), 1)
    )
    if (i %% 3 == 0) writeLines(c("A title", "", readLines(path), "", "Source: nobody"), path)
    study <- read_study(path)
    expect_equal(study$data, transform(data, count = as.double(count)),
      tolerance = 1e-13,
      label = paste("table", i, mark, decimal)
    )
  }
})

test_that("bytes at random are refused or read, never a crash", {
  set.seed(8)
  for (i in 1:40) {
    path <- tempfile(fileext = sample(c(".csv", ".json", ".xlsx", ".parquet", ".ods"), 1))
    bytes <- sample(c(as.raw(c(44, 10, 34, 59, 9, 49, 50, 97)), as.raw(sample(0:255, 4))), sample(1:400, 1), TRUE)
    writeBin(bytes, path)
    outcome <- tryCatch(
      {
        read_study(path)
        "read"
      },
      unsere_error = function(e) "refused"
    )
    expect_true(outcome %in% c("read", "refused"))
    expect_identical(readBin(path, "raw", 1000), bytes)
  }
})
