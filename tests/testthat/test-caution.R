test_that("two far cases side by side are found together, and clean data are left alone", {
  set.seed(21)
  far <- data.frame(x = c(rnorm(58), 6, 6.2), y = c(rnorm(58), 6.1, 6))
  found <- relate(far, x, y)
  told <- cautions(found)
  expect_true("one_case" %in% told$code)
  expect_match(gsub("\\s+", " ", paste(format(found), collapse = " ")), "without row 59 .* and row 60")
  without <- relate(far[1:58, ], x, y)
  expect_equal(told$figures[[match("one_case", told$code)]]$r, without$r)
  clean <- replicate(100, "one_case" %in% relate(data.frame(x = rnorm(60), y = rnorm(60)), x, y)$cautions$code)
  expect_lte(mean(clean), .04)
})

test_that("of numbers so small that their squares are nothing the answer is that of larger ones", {
  set.seed(4)
  x <- rnorm(200)
  large <- data.frame(x = x, y = 0.5 * x + rnorm(200), z = rnorm(200))
  large$s <- large$x + large$y
  large$w <- round(large$z, 1)
  small <- large
  small[c("x", "y", "s", "w")] <- large[c("x", "y", "s", "w")] * 1e-298
  for (pair in list(c("x", "y"), c("x", "z"), c("z", "x"), c("s", "x"), c("z", "w"))) {
    expect_equal(relate(small, pair[1], pair[2])$r, relate(large, pair[1], pair[2])$r, tolerance = 1e-10)
  }
})

test_that("a grade made from the pair is named as that, and its groups say nothing", {
  set.seed(5)
  midterm <- rnorm(60, 70, 12)
  final <- midterm / 2 + rnorm(60, 35, 10)
  total <- midterm + final
  marked <- data.frame(midterm, final, letter = as.character(cut(total, quantile(total, 0:5 / 5), LETTERS[5:1], TRUE)))
  found <- relate(marked, midterm, final)
  expect_identical(found$cautions$code, "made_from")
  expect_match(paste(format(found), collapse = " "), "Letter appears to be derived")
  marked$letter <- sample(marked$letter)
  expect_false("made_from" %in% relate(marked, midterm, final)$cautions$code)
})
