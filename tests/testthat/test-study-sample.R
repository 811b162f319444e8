# A question makes one sample, and everything in its answer comes from it.

count_calls <- function(names, code) {
  calls <- new.env()
  house <- asNamespace("unsere")
  for (name in names) {
    assign(name, 0L, envir = calls)
    tracer <- bquote(assign(.(name), get(.(name), envir = .(calls)) + 1L, envir = .(calls)))
    suppressMessages(trace(name, tracer, print = FALSE, where = house))
  }
  on.exit(for (name in names) suppressMessages(untrace(name, where = house)))
  force(code)
  unlist(mget(names, envir = calls))
}

test_that("while the learners brief runs, each relation, each set of doubts and each column is computed once", {
  read <- unsere:::read_brief(demo_file("learners.yml"))
  counted <- count_calls(c("finish_relation", "find_cautions", "convert_column", "fit_sample"), {
    study <- unsere:::brief_study(read)
    results <- unsere:::brief_results(read, study)
    unsere:::new_report(results)
    unsere:::results_document(results)
  })
  pairs <- length(read$brief$pairs)
  ranked <- length(read$brief$rank$predictors)
  expect_identical(counted[["finish_relation"]], pairs + ranked)
  # The matrix looks at its clear pairs; the one that stands among the pairs too is not looked at again.
  expect_identical(counted[["find_cautions"]], pairs + ranked + results$matrix$checked$checked - 1L)
  expect_identical(counted[["fit_sample"]], sum(!vapply(results$pairs, function(pair) is.null(pair$line), NA)) + ranked)
  expect_lte(counted[["convert_column"]], ncol(study$data))
})

test_that("a sample tells which rows it used, what was left out and why, and names its cases", {
  data <- data.frame(id = letters[1:6], x = c(1, NA, 3, 4, NA, 6), y = c(2, 1, NA, 4, NA, 5))
  found <- relate(data, x, y)
  expect_identical(found$sample$row, c(1L, 4L, 6L))
  expect_identical(unlist(found$sample$dropped), c(x = 1L, y = 1L, both = 1L, aside = 0L))
  expect_identical(names(residuals(fit_line(data, x, y))), c("a", "d", "f"))
  expect_match(format(found), "3 used, 3 excluded: x missing 1, y missing 1, both missing 1", all = FALSE)
  expect_identical(found$n_dropped, 3L)
})

test_that("a result stays what it was when the study it came from is changed", {
  study <- as_study(data.frame(x = c(1, 2, 3, 5, 8), y = c(2, 1, 4, 3, 6)))
  found <- relate(study, x, y)
  before <- format(found)
  study <- set_variable(study, x, label = "Another")
  study$data$x <- 0
  expect_identical(format(found), before)
})
