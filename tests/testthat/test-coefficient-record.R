# What every coefficient owes, whichever it is: each record is asked the same.

samples <- function() {
  set.seed(61)
  n <- 24
  base <- rnorm(n)
  list(
    numeric = data.frame(x = round(base, 2), y = round(base * .5 + rnorm(n), 2)),
    ordinal = data.frame(x = rep(1:4, 6), y = pmin(pmax(rep(1:4, 6) + sample(-1:1, n, TRUE), 1), 5)),
    one_binary = data.frame(x = rep(c("no", "yes"), 12), y = round(rnorm(n) + rep(0:1, 12), 2)),
    two_binary = data.frame(x = rep(c("no", "yes"), 12), y = sample(rep(c("off", "on"), c(11, 13)))),
    groups = data.frame(x = rep(c("ash", "elm", "oak"), 8), y = round(rnorm(n) + rep(0:2, 8) / 2, 2)),
    groups_twice = data.frame(x = rep(c("ash", "elm", "oak"), 8), y = sample(rep(c("chess", "choir", "dance"), 8)))
  )
}

suiting_data <- function(record) {
  kind <- if (record$categories) {
    c("groups", "groups_twice")[record$categories]
  } else if (is.na(record$two_valued)) {
    c("numeric", "ordinal")
  } else {
    c("one_binary", "two_binary")[record$two_valued]
  }
  samples()[kind]
}

test_that("every coefficient keeps its promises: bounds, symmetry, direction, order of the cases", {
  for (record in unsere:::coefficient_records()) for (data in suiting_data(record)) {
    found <- relate(data, x, y, record$name)
    expect_true(abs(found$r) <= 1 && found$ci_low <= found$r && found$r <= found$ci_high, label = record$name)
    swapped <- relate(data, y, x, record$name)
    expect_equal(swapped$r, found$r, tolerance = 1e-14, label = record$name)
    expect_equal(swapped$p, found$p, tolerance = 1e-10, label = record$name)
    mixed <- relate(data[sample(nrow(data)), ], x, y, record$name)
    expect_equal(c(mixed$r, mixed$p, mixed$ci_low), c(found$r, found$p, found$ci_low), tolerance = 1e-10)
    if (!record$signed) next
    either <- found$p
    along <- relate(data, x, y, record$name, expect = found$direction)$p
    against <- relate(data, x, y, record$name, expect = setdiff(c("positive", "negative"), found$direction))$p
    expect_lte(along, either + 1e-12)
    expect_gte(against, .5 - 1e-12)
  }
})

test_that("each test and each interval that a coefficient offers works, and agrees with the others about these data", {
  for (record in unsere:::coefficient_records()) {
    data <- suiting_data(record)[[1]]
    analytic <- relate(data, x, y, record$name)
    for (test in names(record$tests)) {
      asked <- if (test == "exact" && is.na(record$two_valued) && record$signed) data[1:9, ] else data
      usual <- relate(asked, x, y, record$name)
      found <- relate(asked, x, y, record$name, test = test, seed = 5, resamples = 4999)
      expect_true(found$p > 0 && found$p <= 1, label = paste(record$name, test))
      expect_equal(qnorm(found$p / 2), qnorm(usual$p / 2), tolerance = .35, label = paste(record$name, test))
    }
    for (interval in names(record$intervals)) {
      found <- relate(data, x, y, record$name, interval = interval, seed = 5, resamples = 1999)
      widths <- c(found$ci_high - found$ci_low, analytic$ci_high - analytic$ci_low)
      expect_lt(abs(log(widths[1] / widths[2])), log(1.5), label = paste(record$name, interval))
    }
  }
})

test_that("in a matrix every coefficient gives what it gives alone, with missing values too", {
  set.seed(62)
  for (record in unsere:::coefficient_records()) {
    data <- suiting_data(record)[[1]]
    data$z <- rev(data$y)
    data$y[c(3, 9)] <- NA
    found <- correlation_matrix(data, coefficient = record$name)$pairs
    expect_gt(nrow(found), 0)
    for (k in seq_len(nrow(found))) {
      alone <- relate(data, found$x[k], found$y[k], record$name)
      expect_equal(found$r[k], alone$r, tolerance = 1e-14, label = record$name)
      expect_identical(found$n[k], alone$n)
      expect_equal(
        c(found$p[k], found$ci_low[k], found$ci_high[k]), c(alone$p, alone$ci_low, alone$ci_high),
        tolerance = 1e-9, label = record$name
      )
    }
  }
})

test_that("r without each case in turn is r of the others, where a coefficient has it", {
  for (record in unsere:::coefficient_records()) {
    if (is.null(record$without_each)) next
    data <- suiting_data(record)[[1]]
    found <- relate(data, x, y, record$name)
    left <- record$without_each(found$estimate)
    for (k in c(1, 10, 24)) {
      rest <- found$estimate
      # Of the others, ranked anew where ranks are correlated.
      values <- cbind(record$scores(rest$x[-k]), record$scores(rest$y[-k]))
      expect_equal(left[k], cor_table(values)[1, 2], tolerance = 1e-12, label = record$name)
    }
  }
})

test_that("every coefficient is told of in help, options and schemas, and named in its own record alone", {
  root <- root_of_project()
  help <- paste(readLines(file.path(root, "man", "relate.Rd"), encoding = "UTF-8"), collapse = "\n")
  options <- paste(capture.output(run_command(c("relate", "--help"))), collapse = " ")
  brief <- paste(readLines(file.path(root, "inst", "schema", "brief.json")), collapse = "\n")
  code <- list.files(file.path(root, "R"), full.names = TRUE)
  code <- code[!grepl("coefficient-", basename(code))]
  for (record in unsere:::coefficient_records()) {
    expect_match(help, sprintf("\"%s\"", record$name), fixed = TRUE)
    expect_match(options, record$name, fixed = TRUE)
    expect_match(brief, sprintf("\"%s\"", record$name), fixed = TRUE)
    expect_gt(length(record$sources), 0)
    naming <- vapply(code, function(file) any(grepl(sprintf("\"%s\"", record$name), readLines(file), fixed = TRUE)), NA)
    expect_identical(basename(code)[naming], character(), label = record$name)
  }
})

test_that("a coefficient that does not suit, or a test that it lacks, is answered with what there is", {
  data <- samples()$numeric
  expect_error(relate(data, x, y, "phi"), "two binary variables.*pearson", class = "unsere_error_usage")
  expect_error(relate(data, x, y, "kappa"), "tau-b", class = "unsere_error_usage")
  big <- data.frame(x = rnorm(30), y = rnorm(30))
  expect_error(relate(big, x, y, test = "exact"), "permutation", class = "unsere_error_usage")
})
