test_that("JSON handed over in parts says what the JSON in one piece says, to the last bit", {
  set.seed(70)
  data <- as.data.frame(matrix(rnorm(15 * 205), 15))
  data[3, 7] <- NA
  data[["say \"x\""]] <- data[[1]] * 2 + 1e-9 * rnorm(15)
  result <- correlation_matrix(data)
  expect_gt(nrow(result$pairs), unsere:::many_rows)
  parts <- character()
  unsere:::stream_json(result, unsere:::door_page(), function(piece) {
    parts <<- c(parts, if (is.raw(piece)) rawToChar(piece) else piece)
  })
  expect_gt(length(parts), 3)
  whole <- jsonlite::fromJSON(unsere:::as_json(result, unsere:::door_page()))
  expect_true(identical(jsonlite::fromJSON(paste(parts, collapse = "")), whole))
})

test_that("a matrix that nobody can read is not printed, and an overview of very many variables is cut and says so", {
  set.seed(71)
  data <- as.data.frame(matrix(round(rnorm(20 * 400), 2), 20))
  lines <- format(overview(data))
  expect_match(paste(lines, collapse = " "), "and 250 more; see JSON or CSV")
  expect_lt(length(lines), 200)
  wide <- format(correlation_matrix(data[1:70]))
  expect_match(paste(wide, collapse = " "), "too large to be read here")
  expect_lt(length(wide), 60)
  expect_identical(nrow(correlation_matrix(data[1:70])$pairs), 2415L)
})
