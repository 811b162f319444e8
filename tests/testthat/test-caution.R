
test_that("two far cases side by side are found together, and clean data are left alone", {
  set.seed(21)
  far <- data.frame(x = c(rnorm(58), 6, 6.2), y = c(rnorm(58), 6.1, 6))
  found <- relate(far, x, y)
  told <- cautions(found)
  expect_true("one_case" %in% told$code)
  expect_match(gsub("\\s+", " ", paste(format(found), collapse = " ")), "Without row 59 .* and row 60")
  without <- relate(far[1:58, ], x, y)
  expect_equal(told$figures[[match("one_case", told$code)]]$r, without$r)
  clean <- replicate(100, "one_case" %in% relate(data.frame(x = rnorm(60), y = rnorm(60)), x, y)$cautions$code)
  expect_lte(mean(clean), .04)
})
