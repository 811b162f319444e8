test_that("a sentence over clustered cases tells their interval and p, and claims no more than they allow", {
  set.seed(41)
  class <- rep(sprintf("c%02d", 1:12), each = 20)
  shared <- rnorm(12)[match(class, unique(class))]
  data <- data.frame(class, x = shared + rnorm(240, 0, .6), y = .3 * shared + rnorm(12)[match(class, unique(class))])
  data$y <- data$y + rnorm(240, 0, .6)
  found <- relate(data, x, y)
  told <- found$cautions
  at <- match("clustered_cases", told$code)
  expect_identical(told$severity[at], "serious")
  figures <- told$figures[[at]]
  expect_lt(found$p, .05)
  expect_gt(figures$p, .05)
  # p and interval agree about zero at every level.
  level <- 1 - figures$p
  at_p <- relate(data, x, y, confidence = level)$cautions
  limits <- at_p$figures[[match("clustered_cases", at_p$code)]]
  expect_lt(min(abs(c(limits$low, limits$high))), 1e-8)
  sentence <- in_words(found)
  expect_match(sentence, "not significantly correlated", fixed = TRUE)
  expect_match(sentence, format_interval(figures$low, figures$high), fixed = TRUE)
  expect_match(sentence, "jackknife over the 12 classes (class)", fixed = TRUE)
  expect_no_match(sentence, format_interval(found$ci_low, found$ci_high), fixed = TRUE)
  # The page's answer and a slide's line tell the same interval.
  told <- format_interval(figures$low, figures$high)
  expect_match(unsere:::short_figures(found), told, fixed = TRUE)
  words <- vapply(c(figures$low, figures$high), unsere:::strength_word, "", found$scale, 2)
  expect_lt(figures$low, 0)
  answer <- unsere:::plain_answer(list(relation = found, line = NULL))
  expect_match(answer, sprintf("%s positive correlation cannot be ruled out", words[2]), fixed = TRUE)
  expect_identical(grepl("negative", answer, fixed = TRUE), words[1] != found$scale$below)
})
