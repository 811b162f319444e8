# The same pair under the same scheme is the same relation, whichever question is asked.

set.seed(61)
n <- 240
pupils <- data.frame(
  class = rep(sprintf("c%02d", 1:24), each = 10),
  stratum = rep(c("north", "south"), each = 120), w = runif(n, 1, 3)
)
likeness <- rnorm(24)[rep(1:24, each = 10)]
pupils$hours <- round(rexp(n, .3) + likeness + 3, 2)
pupils$effort <- cut(rnorm(n) + pupils$hours / 4, c(-Inf, .5, 1, 1.5, 2, Inf), 1:5, ordered_result = TRUE)
pupils$girl <- sample(c("no", "yes"), n, TRUE)
true <- pupils$hours + 3 * rnorm(n) + likeness
for (k in 1:4) pupils[[paste0("pv", k)]] <- true + 2 * rnorm(n)
for (k in 1:20) pupils[[paste0("r", k)]] <- pupils$w * sample(c(.5, 1.5), n, TRUE)
pupils$hours[3:9] <- NA
pupils$pv1[20:22] <- pupils$pv2[20:22] <- pupils$pv3[20:22] <- pupils$pv4[20:22] <- NA

plain <- as_study(pupils)
with_values <- function(study) set_plausible(study, "score", starts_with("pv"))
studies <- list(
  simple = plain, clustered = set_design(plain, weight = w, stratum = stratum, cluster = class),
  replicates = set_design(plain, weight = w, replicates = starts_with("r", ignore.case = FALSE), method = "brr"),
  plausible = with_values(plain), "plausible, clustered" = with_values(set_design(plain, weight = w, cluster = class))
)
fields <- c("coefficient", "r", "n", "ci_low", "ci_high", "p")

test_that("a pair has the same r, interval, p and n from a relation and from a matrix, under every scheme and coefficient", {
  for (scheme in names(studies)) {
    study <- studies[[scheme]]
    outcome <- if (grepl("plausible", scheme)) "score" else "pv1"
    for (coefficient in c("auto", "pearson", "spearman")) for (given in list(NULL, "girl")) {
      what <- paste(scheme, coefficient, given)
      asked <- list(coefficient = coefficient)
      if (!is.null(given)) asked$given <- given
      one <- tryCatch(do.call(relate, c(list(study, "hours", outcome), asked)), unsere_error = identity)
      all <- tryCatch(
        do.call(correlation_matrix, c(list(study, "hours", "effort", outcome), asked)),
        unsere_error = identity
      )
      # What is not offered is refused by both.
      expect_identical(inherits(one, "unsere_error"), inherits(all, "unsere_error"), label = what)
      if (inherits(one, "unsere_error") || inherits(all, "unsere_error")) next
      row <- all$pairs[all$pairs$x == "hours" & all$pairs$y == outcome, ]
      expect_equal(as.list(row[fields]), unclass(one)[fields], tolerance = 1e-13, label = what)
    }
  }
})

test_that("a matrix combines plausible values and never takes their mean for the score", {
  study <- studies$plausible
  z <- vapply(paste0("pv", 1:4), function(value) atanh(relate(plain, "hours", value)$r), 0)
  row <- correlation_matrix(study, hours, girl, score)$pairs
  at <- row$x == "hours" & row$y == "score"
  expect_equal(row$r[at], tanh(mean(z)), tolerance = 1e-12)
  averaged <- relate(transform(pupils, score = rowMeans(pupils[paste0("pv", 1:4)])), hours, score)$r
  expect_gt(abs(row$r[at] - averaged), .01)
  expect_equal(row$n[row$y == "score" & row$x == "girl"], relate(study, girl, score)$n)
  table <- correlation_matrix(study, hours, score)$variables
  sds <- vapply(paste0("pv", 1:4), function(value) sd(pupils[[value]], na.rm = TRUE), 0)
  expect_equal(table$sd[table$variable == "score"], mean(sds), tolerance = 1e-12)
  whole <- correlation_matrix(study, hours, girl, score, missing = "listwise")$pairs
  expect_identical(unique(whole$n), sum(stats::complete.cases(pupils[c("hours", "girl", "pv1")])))
  # So do levels and items.
  expect_match(in_words(relate_levels(study, hours, score, class)), "4 plausible values")
  expect_identical(check_items(study, hours, girl, score)$sets, 4L)
})

test_that("a ranking gives the r, interval and n that a relation over its cases gives, under every scheme", {
  for (scheme in names(studies)) {
    study <- studies[[scheme]]
    outcome <- if (grepl("plausible", scheme)) "score" else "pv1"
    for (coefficient in c("auto", "pearson", "spearman")) {
      ranked <- rank_predictors(study, outcome, "hours", "effort", coefficient = coefficient)
      whole <- study[complete.cases(pupils[c("hours", "pv1")]), ]
      for (k in 1:2) {
        row <- ranked$predictors[k, ]
        single <- relate(whole, row$x, outcome, coefficient = coefficient)
        shared <- setdiff(fields, "p")
        expect_equal(as.list(row[shared]), unclass(single)[shared], tolerance = 1e-13, label = paste(scheme, coefficient))
      }
      expect_true(is.finite(ranked$comparisons$p))
    }
  }
})

test_that("a line of plausible values combines those of each by Rubin's rules, longhand, and predicts by them", {
  study <- studies$plausible
  line <- fit_line(study, hours, score, at = 4, interval = "analytic")
  each <- lapply(paste0("pv", 1:4), function(value) fit_line(plain, "hours", value, at = 4, interval = "analytic"))
  slopes <- vapply(each, function(of) of$terms$estimate[2], 0)
  within <- mean(vapply(each, function(of) of$terms$se[2]^2, 0))
  total <- within + 1.25 * var(slopes)
  expect_equal(line$terms$estimate[2], mean(slopes), tolerance = 1e-12)
  expect_equal(line$terms$se[2], sqrt(total), tolerance = 1e-10)
  expect_equal(line$r, relate(study, hours, score)$r, tolerance = 1e-12)
  expect_equal(line$predictions$fit, mean(vapply(each, function(of) of$predictions$fit, 0)), tolerance = 1e-12)
  # One term: F is the square of t, up to its own degrees of freedom.
  expect_equal(line$variance$f[1], line$terms$t[2]^2, tolerance = 1e-8)
  # Copies of one value add nothing.
  copies <- transform(pupils, pv2 = pv1, pv3 = pv1, pv4 = pv1)
  same <- fit_line(with_values(as_study(copies)), hours, score, shape = "quadratic")
  single <- fit_line(plain, hours, pv1, shape = "quadratic")
  expect_equal(same$terms, single$terms, tolerance = 1e-9)
  expect_equal(same$variance$p[1], single$variance$p[1], tolerance = 1e-8)
})

test_that("two groups of a design, or with controls, are compared by the spread that their scheme gives", {
  north <- studies$clustered[1:120, ]
  south <- studies$clustered[121:240, ]
  a <- relate(north, hours, pv1)
  b <- relate(south, hours, pv1)
  found <- compare_relations(a, b, cases = "different")
  expect_equal(found$value, (atanh(a$r) - atanh(b$r)) / sqrt(a$z_variance + b$z_variance), tolerance = 1e-12)
  a <- relate(plain[1:120, ], hours, pv1, given = girl, interval = "analytic")
  b <- relate(plain[121:240, ], hours, pv1, given = girl, interval = "analytic")
  found <- compare_relations(a, b, cases = "different")
  expect_equal(found$value, (atanh(a$r) - atanh(b$r)) / sqrt(1 / (a$n - 4) + 1 / (b$n - 4)), tolerance = 1e-12)
  expect_error(
    compare_relations(relate(plain, hours, pv1, given = girl), relate(plain, hours, pv2, given = girl), cases = "same"),
    "controlled variables",
    class = "unsere_error_usage"
  )
})

test_that("a list of a matrix's pairs gives the test of its scheme", {
  for (scheme in c("clustered", "plausible")) {
    outcome <- if (scheme == "plausible") "score" else "pv1"
    single <- relate(studies[[scheme]], "hours", outcome)
    row <- list_pairs(correlation_matrix(studies[[scheme]], "hours", outcome))
    expect_equal(c(row$value, row$df, row$p), c(single$value, single$df, single$p), tolerance = 1e-12, label = scheme)
  }
})
