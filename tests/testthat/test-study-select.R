# Variables by their names and by patterns of them.
test_that("a pattern with a star stands for all variables that it fits, through every door", {
  learners <- demo_study("learners")
  one_by_one <- check_items(learners, m1, m2, m3, m4, m5, m6, reverse = m4)
  expect_identical(check_items(learners, "m*", reverse = m4)$items, one_by_one$items)
  several <- c("m*", "confidence")
  expect_identical(correlation_matrix(learners, several)$variables$variable, c(paste0("m", 1:6), "confidence"))
  expect_error(correlation_matrix(learners, "zz*"), "no variable like \"zz\\*\"", class = "unsere_error_input")
  file <- demo_file("learners.csv")
  written <- jsonlite::fromJSON(json_of("items", file, "m*", "--reverse", "m4"))
  expect_identical(written$items$item, paste0("m", 1:6))
  expect_identical(unsere("matrix", file, "zz*")$status, 3L)
  path <- tempfile(fileext = ".yml")
  writeLines(c(
    sprintf("data: {file: %s}", file), "matrix: {variables: ['m*', confidence]}",
    "items: {variables: ['m*'], reverse: [m4]}",
    "scores: {drive: {items: ['m*'], reverse: [m4]}}"
  ), path)
  read <- unsere:::read_brief(path)
  results <- unsere:::brief_results(read, unsere:::brief_study(read))
  expect_identical(nrow(results$matrix$variables), 7L)
  expect_identical(results$items$items$item, paste0("m", 1:6))
  # Also one that fits a single variable.
  brief <- list(matrix = list(variables = list("conf*", "m1")))
  whole <- unsere:::patterns_in_brief(brief, names(as.data.frame(learners)))
  expect_identical(whole$matrix$variables, list("confidence", "m1"))
  writeLines(c(sprintf("data: {file: %s}", file), "matrix: {variables: ['mm*', confidence]}"), path)
  expect_error(run_brief(path, quiet = TRUE), "\"mm\\*\" is no variable", class = "unsere_error_input")
})
