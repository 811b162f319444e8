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

test_that("a sentence of a series tells the interval and p of its effective sample size, which hold", {
  series <- function(n, share = 0, rho = .8) {
    one <- function() as.numeric(stats::filter(rnorm(n + 100), rho, "recursive"))[-(1:100)]
    x <- one()
    data.frame(day = as.Date("2023-01-01") + seq_len(n), x = x, y = share * x + sqrt(1 - share^2) * one())
  }
  set.seed(12)
  runs <- replicate(60, {
    relation <- relate(suppressMessages(as_study(series(60))), "x", "y")
    c(relation$p < .05, !grepl("not significantly", in_words(relation)))
  })
  expect_gt(mean(runs[1, ]), .2)
  expect_lte(mean(runs[2, ]), .1)
  tied <- relate(suppressMessages(as_study(series(80, .6))), "x", "y")
  reported <- jsonlite::fromJSON(in_json(tied))$reported
  centred <- function(v) v - mean(v)
  a <- centred(tied$estimate$x)
  b <- centred(tied$estimate$y)
  ties <- function(v, lag) sum(v[-seq_len(lag)] * v[seq_len(80 - lag)]) / (80 - lag) / (sum(v^2) / 80)
  both <- vapply(1:16, function(lag) ties(a, lag) * ties(b, lag) * (80 - lag) / 80, 0)
  df <- 1 / (1 / 80 + 2 / 80 * sum(both)) - 2
  expect_equal(reported$df, df, tolerance = 1e-9)
  expect_equal(reported$p, 2 * stats::pt(-tied$r * sqrt(df / (1 - tied$r^2)), df), tolerance = 1e-9)
  expect_match(in_words(tied), sprintf("effective sample size of %.0f (autocorrelation)", df + 2), fixed = TRUE)
  expect_match(in_words(tied), format_interval(reported$ci_low, reported$ci_high), fixed = TRUE)
  expect_match(format(tied), "if the cases were independent", all = FALSE)
  # Ranks are met in the same way; of concordant pairs the number of cases alone is told.
  study <- suppressMessages(as_study(series(80, .6)))
  ranked <- relate(study, "x", "y", coefficient = "spearman")
  expect_match(in_words(ranked), "effective sample size of \\d+ \\(autocorrelation\\)")
  concordant <- relate(study$data[c("x", "y")], x, y, coefficient = "tau-b")
  expect_match(in_words(concordant), "their effective sample size is \\d+\\.$")
  # Rows in the order of x are no series.
  sorted <- data.frame(x = 1:40, y = .2 * (1:40) + rnorm(40))
  expect_false("alike_neighbours" %in% relate(sorted, x, y)$cautions$code)
})

test_that("ranks of the same things are told as such, with what chance gives", {
  set.seed(2)
  ranks <- as.data.frame(t(replicate(80, rank(rnorm(4) + c(.8, .3, 0, -.5)))))
  names(ranks) <- c("price", "teacher", "place", "time")
  found <- relate(ranks, price, time, coefficient = "spearman")
  figures <- found$cautions$figures[[match("part_whole", found$cautions$code)]]
  expect_true(figures$ranks)
  expect_match(in_words(found), "Both are ranks of one order", fixed = TRUE)
  expect_match(gsub("\\s+", " ", paste(format(found), collapse = " ")), "would correlate \u2212.33", fixed = TRUE)
  ranks$time <- rev(ranks$time)
  again <- relate(ranks, price, time, coefficient = "spearman")
  expect_false("part_whole" %in% again$cautions$code)
})

test_that("a correlation that lies between groups alone says so where it stands", {
  set.seed(9)
  class <- rep(c("7a", "7b", "7c"), each = 30)
  means <- c(0, 1.5, -1.5)[match(class, unique(class))]
  found <- relate(data.frame(class, x = means + rnorm(90), y = means + rnorm(90)), x, y)
  expect_match(in_words(found), "Within the 3 groups of class the correlation was not significant", fixed = TRUE)
  real <- data.frame(class, x = rnorm(90))
  real$y <- .6 * real$x + rnorm(90)
  expect_no_match(in_words(relate(real, x, y)), "Within the")
})
