# The same pair under the same scheme is the same relation, whichever question is asked.

set.seed(61)
n <- 240
pupils <- data.frame(class = rep(sprintf("c%02d", 1:24), each = 10), stratum = rep(c("north", "south"), each = 120), w = runif(n, 1, 3))
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
  for (call in list(
    quote(fit_line(study, hours, score)), quote(rank_predictors(study, score, hours, girl)),
    quote(relate_levels(study, hours, score, class)), quote(check_items(study, hours, girl, score))
  )) expect_error(eval(call), "plausible", class = "unsere_error_usage")
})
