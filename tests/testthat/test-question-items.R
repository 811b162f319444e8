set.seed(15)
n <- 150
true <- rnorm(n)
scale <- as.data.frame(lapply(stats::setNames(1:5, paste0("i", 1:5)), function(k) round(true + rnorm(n, 0, 1) + 3, 1)))

centred <- function(v) v - mean(v)
plain_r <- function(a, b) sum(centred(a) * centred(b)) / sqrt(sum(centred(a)^2) * sum(centred(b)^2))
variance <- function(v) sum(centred(v)^2) / (length(v) - 1)

test_that("every figure of an item is that of its definition, longhand", {
  found <- check_items(scale, i1, i2, i3, i4, i5)
  total <- rowSums(scale)
  for (k in 1:5) {
    expect_equal(found$items$item_rest[k], plain_r(scale[[k]], total - scale[[k]]), tolerance = 1e-13)
    rest <- scale[-k]
    expect_equal(found$items$alpha_without[k], 4 / 3 * (1 - sum(vapply(rest, variance, 0)) / variance(rowSums(rest))),
      tolerance = 1e-13
    )
  }
  alpha <- 5 / 4 * (1 - sum(vapply(scale, variance, 0)) / variance(total))
  expect_equal(found$alpha, alpha, tolerance = 1e-13)
  expect_equal(found$sem, sqrt(variance(total) * (1 - alpha)), tolerance = 1e-12)
  expect_equal(c(found$alpha_low, found$alpha_high), 1 - (1 - alpha) * qf(c(.975, .025), n - 1, (n - 1) * 4))
  without <- vapply(seq_len(n), function(p) 5 / 4 * (1 - sum(vapply(scale[-p, ], variance, 0)) / variance(total[-p])), 0)
  left <- log(1 - without)
  half <- qt(.975, n - 1) * sqrt((n - 1) / n * sum((left - mean(left))^2))
  expect_equal(found$alpha_jackknife, 1 - exp(log(1 - alpha) + c(half, -half)), tolerance = 1e-10)
  r <- outer(1:5, 1:5, Vectorize(function(a, b) plain_r(scale[[a]], scale[[b]])))
  expect_equal(c(found$mean_r, found$least_r, found$most_r), c(mean(r[upper.tri(r)]), range(r[upper.tri(r)])))
})

test_that("omega finds the loadings that made the correlations", {
  loading <- c(.9, .7, .5, .6, .8)
  r <- outer(loading, loading)
  diag(r) <- 1
  expect_equal(abs(unsere:::one_factor(r)), loading, tolerance = 1e-8)
  expect_equal(unsere:::omega_of_items(r), sum(loading)^2 / sum(r), tolerance = 1e-8)
})

test_that("alpha's intervals hold the truth as often as they say", {
  set.seed(8)
  k <- 6
  truth <- k * .3 / (1 + (k - 1) * .3)
  held <- replicate(400, {
    x <- sqrt(.3) * rnorm(60) + sqrt(.7) * matrix(rnorm(60 * k), 60)
    moments <- unsere:::item_moments(as.data.frame(x))
    alpha <- unsere:::alpha_of_items(moments$covariance)
    ends <- rbind(unsere:::interval_feldt(alpha, 60, k, .95), unsere:::interval_alpha_jackknife(alpha, x, .95))
    ends[, 1] <= truth & truth <= ends[, 2]
  })
  expect_true(all(rowMeans(held) >= .92 & rowMeans(held) <= .98))
})

test_that("a placement test: the items that do not belong and the wrong key are found", {
  test <- demo_study("test_items")
  key <- c(
    q1 = "B", q2 = "D", q3 = "A", q4 = "C", q5 = "B", q6 = "A", q7 = "A", q8 = "D", q9 = "B", q10 = "A",
    q11 = "C", q12 = "D"
  )
  found <- do.call(check_items, c(list(test), as.list(names(key)), list(key = key)))
  flags <- stats::setNames(found$items$flags, found$items$item)
  expect_identical(flags[["q5"]], "adds nothing")
  expect_identical(flags[["q9"]], "goes the other way")
  expect_match(flags[["q7"]], "a wrong option draws the stronger")
  expect_true(all(flags[c("q2", "q3", "q4", "q6", "q10")] == ""))
  drawn <- found$options[found$options$item == "q7", ]
  expect_identical(drawn$option[which.max(drawn$rest)], "C")
  mended <- do.call(check_items, c(list(test), as.list(names(key)), list(key = replace(key, "q7", "C"))))
  expect_gt(mended$alpha, found$alpha)
  share <- mean(as.data.frame(test)$q1 == "B", na.rm = TRUE)
  expect_equal(found$items$mean[1], share)
  z <- qnorm(.975)
  m <- found$items$n[1]
  expect_equal(
    found$items$mean_low[1],
    (share + z^2 / (2 * m) - z * sqrt(share * (1 - share) / m + z^2 / (4 * m^2))) / (1 + z^2 / m)
  )
})

test_that("missing answers, reversed items, groups, words with an order and constants are as one expects", {
  learners <- demo_study("learners")
  turned <- check_items(learners, m1, m2, m3, m4, m5, m6, reverse = m4, by = centre)
  expect_true(all(turned$items$flags == ""))
  expect_match(check_items(learners, m1, m2, m3, m4, m5, m6)$items$flags[4], "goes the other way")
  expect_identical(turned$groups$group, sort(unique(learners$data$centre)))
  expect_equal(turned$items$n[2], sum(!is.na(learners$data$m2)))
  feedback <- check_items(demo_study("feedback"), q1, q2, q3, q4, q5, reverse = q3)
  expect_gt(feedback$alpha, .6)
  flat <- check_items(transform(scale, same = 2), i1, i2, i3, same)
  expect_identical(flat$items$flags[4], "constant")
  expect_equal(flat$alpha, check_items(scale, i1, i2, i3)$alpha)
  twin <- check_items(transform(scale, copy = i1), i1, i2, i3, copy)
  expect_match(twin$items$flags[1], "says the same as copy")
})

test_that("wrong keys, too few items and words without an order get one line; command and brief say the same", {
  test <- demo_study("test_items")
  refused <- function(..., why, class = "unsere_error_input") expect_error(check_items(...), why, class = class)
  refused(test, q1, q2, q3, key = c(q1 = "Z"), why = "Nobody answered")
  refused(test, q1, q2, q3, why = "words without an order")
  refused(scale, i1, i2, why = "three items", class = "unsere_error_usage")
  refused(scale, i1, i2, i3, key = c(i9 = "1"), why = "none of the items", class = "unsere_error_usage")
  refused(test, q1, q2, q3, key = "q1:B", why = "ITEM=ANSWER", class = "unsere_error_usage")
  file <- demo_file("test_items.csv")
  out <- capture.output(run_command(c(
    "items", file, "q1", "q2", "q3", "q4", "--key", "q1=B,q2=D,q3=A,q4=C",
    "--format", "json"
  )))
  told <- jsonlite::fromJSON(paste(out, collapse = "\n"))
  brief <- tempfile(fileext = ".yml")
  writeLines(c(
    sprintf("data: {file: \"%s\"}", file), "items: {variables: [q1, q2, q3, q4], key: {q1: B, q2: D, q3: A, q4: C}}"
  ), brief)
  folder <- run_brief(brief, out = tempfile("items"), quiet = TRUE)
  results <- jsonlite::fromJSON(file.path(folder, "results.json"), simplifyVector = FALSE)
  expect_equal(results$items$alpha, told$alpha)
  expect_match(paste(readLines(file.path(folder, "report.html")), collapse = ""), "Is the scale sound")
})
