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
  expect_lt(found$textbook$p, .05)
  expect_gt(figures$p, .05)
  # One pair has one interval and p, wherever it stands.
  expect_identical(found[c("ci_low", "ci_high")], list(ci_low = figures$low, ci_high = figures$high), ignore_attr = TRUE)
  expect_equal(found$p, figures$p, tolerance = 1e-12)
  cell <- correlation_matrix(data, x, y, multiplicity = "none")$pairs
  fields <- c("ci_low", "ci_high", "p", "df", "ci_method")
  expect_equal(as.list(cell[fields]), unclass(found)[fields], tolerance = 1e-12)
  slope <- fit_line(data, x, y)$terms[2, ]
  expect_equal(c(slope$p, slope$df), c(found$p, found$df))
  asked <- relate(data, x, y, interval = "analytic")
  expect_identical(asked$ci_low, found$textbook$ci_low)
  # p and interval agree about zero at every level.
  level <- 1 - figures$p
  at_p <- relate(data, x, y, confidence = level)$cautions
  limits <- at_p$figures[[match("clustered_cases", at_p$code)]]
  expect_lt(min(abs(c(limits$low, limits$high))), 1e-8)
  sentence <- in_words(found)
  expect_match(sentence, "not significantly correlated", fixed = TRUE)
  expect_match(sentence, format_interval(figures$low, figures$high), fixed = TRUE)
  expect_match(sentence, "jackknife over the 12 classes (class)", fixed = TRUE)
  expect_no_match(sentence, format_interval(found$textbook$ci_low, found$textbook$ci_high), fixed = TRUE)
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
    c(textbook_p(relation) < .05, !grepl("not significantly", in_words(relation)))
  })
  expect_gt(mean(runs[1, ]), .2)
  expect_lte(mean(runs[2, ]), .1)
  tied <- relate(suppressMessages(as_study(series(80, .6))), "x", "y")
  reported <- jsonlite::fromJSON(in_json(tied))
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
  # One pair has one interval, p and df, wherever it stands.
  study <- suppressMessages(as_study(series(80, .6)))
  for (kind in c("pearson", "spearman")) {
    pair <- relate(study, "x", "y", coefficient = kind)
    cell <- correlation_matrix(study, "x", "y", coefficient = kind, multiplicity = "none")$pairs
    fields <- c("r", "n", "ci_low", "ci_high", "p", "df", "ci_method")
    expect_equal(cell[fields], as.data.frame(unclass(pair)[fields]), tolerance = 1e-12)
  }
  line <- fit_line(study, "x", "y")
  pair <- relate(study, "x", "y")
  expect_equal(unlist(line$terms[2, c("t", "df", "p")]), c(t = pair$value, df = pair$df, p = pair$p))
  expect_equal(line$n_effective, pair$n_effective)
  expect_identical(sign(line$terms$ci_low[2]) == sign(line$terms$ci_high[2]), pair$p < .05)
  wider <- rank_predictors(cbind(study$data, z = rnorm(80)), "y", "x", "z")
  expect_equal(wider$predictors$ci_low[wider$predictors$x == "x"], pair$ci_low)
  # Who asks for the textbook's gets it, and what holds as a caution.
  asked <- relate(study, "x", "y", interval = "analytic")
  expect_equal(asked$ci_low, pair$textbook$ci_low)
  expect_match(in_words(asked), "by their effective sample size of", fixed = TRUE)
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

test_that("whatever makes cases dependent, each pair of a matrix is the relation of that pair", {
  set.seed(23)
  chain <- function(n) as.numeric(stats::filter(rnorm(n + 50), .8, "recursive"))[-(1:50)]
  month <- seq(as.Date("2016-01-01"), by = "month", length.out = 72)
  months <- data.frame(month, a = chain(72), b = chain(72), c = rnorm(72))
  months$b[c(4, 30:33)] <- NA
  school <- rep(sprintf("S%02d", 1:16), each = 15)
  effect <- function() rnorm(16)[as.integer(factor(school))]
  pupils <- data.frame(
    school,
    reading = effect() + rnorm(240), maths = effect() + rnorm(240), girl = sample(0:1, 240, TRUE), alone = rnorm(240)
  )
  rows <- data.frame(a = cumsum(rnorm(90)), b = cumsum(rnorm(90)), c = rnorm(90))
  fields <- c("r", "n", "ci_low", "ci_high", "p", "ci_method")
  met <- character()
  for (data in list(months, pupils, rows)) {
    study <- suppressMessages(as_study(data))
    pairs <- correlation_matrix(study, multiplicity = "none")$pairs
    for (k in seq_len(nrow(pairs))) {
      relation <- relate(study, pairs$x[k], pairs$y[k])
      expect_equal(as.list(pairs[k, fields]), unclass(relation)[fields], tolerance = 1e-10)
      met <- c(met, relation$ci_method)
    }
  }
  expect_true(all(c("effective size", "clusters", "fisher z") %in% met))
  # What explains a wide interval is told where independent cases would make the pair significant.
  found <- correlation_matrix(suppressMessages(as_study(transform(months, b = a + chain(72)))))
  expect_true("shared_trend" %in% found$cautions$code || "serial_dependence" %in% found$cautions$code)
})

test_that("values that fill several periods count once", {
  set.seed(31)
  steps <- function(n, each) rep(rnorm(n), each = each)[seq_len(n)]
  runs <- replicate(40, {
    data <- data.frame(day = as.Date("2024-01-01") + 0:29, x = steps(30, 5), y = steps(30, 5))
    relation <- relate(suppressMessages(as_study(data)), "x", "y")
    c(textbook_p(relation) < .05, relation$p < .05, relation$n_effective <= 6)
  })
  expect_gt(mean(runs[1, ]), .3)
  expect_lt(mean(runs[2, ]), .13)
  expect_true(all(runs[3, ]))
})
