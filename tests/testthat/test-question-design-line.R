# A line of cases drawn by a design, printed with what its errors rest on.

test_that("a line under replicate weights can be printed, with its degrees of freedom", {
  set.seed(3)
  x <- rnorm(40)
  data <- data.frame(x, y = x + rnorm(40), weight = runif(40, 1, 2))
  for (k in 1:10) data[[paste0("rep", k)]] <- data$weight * (1 + (seq_len(40) %% 10 + 1 == k) * 0.5)
  study <- set_design(as_study(data), weight = weight, replicates = starts_with("rep"), method = "jackknife-1")
  line <- fit_line(study, x, y)
  text <- paste(format(line), collapse = "\n")
  expect_match(text, "10 replicate weights")
  expect_match(text, "t\\(\\d+\\) = ")
  expect_identical(unname(line$terms$df[1]), line$design_df)
})
