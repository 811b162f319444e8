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

test_that("missing answers: pair by pair, or only who answered all; how many lack one is told either way", {
  holed <- scale
  holed$i2[1:20] <- NA
  holed$i5[11:40] <- NA
  whole <- check_items(scale[41:n, ], i1, i2, i3, i4, i5)
  listwise <- check_items(holed, i1, i2, i3, i4, i5, missing = "listwise")
  fields <- c("alpha", "alpha_low", "alpha_jackknife", "omega", "omega_high", "mean_r", "sem", "n")
  expect_equal(unclass(listwise)[fields], unclass(whole)[fields], tolerance = 1e-12)
  expect_equal(listwise$items[c("mean", "item_rest")], whole$items[c("mean", "item_rest")], tolerance = 1e-12)
  pairwise <- check_items(holed, i1, i2, i3, i4, i5)
  expect_equal(pairwise$items$n, n - pairwise$items$missing)
  expect_identical(listwise$items$missing, pairwise$items$missing)
  expect_equal(listwise$items$n, rep(n - 40, 5))
  expect_equal(pairwise$items$mean[2], mean(holed$i2, na.rm = TRUE))
  expect_error(check_items(scale, i1, i2, i3, missing = "some"), class = "unsere_error_usage")
})

test_that("where answers are far from normal the interval told is the one by leaving out persons", {
  set.seed(31)
  tails <- function() rt(300, 3)
  common <- tails()
  wild <- as.data.frame(lapply(stats::setNames(1:6, paste0("w", 1:6)), function(k) common + tails()))
  found <- check_items(wild, w1, w2, w3, w4, w5, w6)
  expect_identical(found$advised, "jackknife")
  ends <- gsub("0[.]", ".", sprintf("[%.2f, %.2f]", found$alpha_jackknife[1], found$alpha_jackknife[2]))
  expect_match(in_words(found), ends, fixed = TRUE)
  expect_identical(check_items(scale, i1, i2, i3, i4, i5)$advised, "Feldt")
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
  wide <- as.data.frame(rnorm(200) + matrix(rnorm(200 * 70), 200))
  found <- check_items(wide, tidyselect::everything())
  expect_lt(found$omega_low, found$omega)
  expect_gt(found$omega_high, found$omega)
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
  expect_identical(flags[["q5"]], "adds_nothing")
  expect_identical(flags[["q9"]], "negative")
  expect_match(flags[["q7"]], "distractor")
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
  expect_match(check_items(learners, m1, m2, m3, m4, m5, m6)$items$flags[4], "negative")
  expect_identical(turned$groups$group, sort(unique(learners$data$centre)))
  expect_equal(turned$items$n[2], sum(!is.na(learners$data$m2)))
  feedback <- check_items(demo_study("feedback"), q1, q2, q3, q4, q5, reverse = q3)
  expect_gt(feedback$alpha, .6)
  flat <- check_items(transform(scale, same = 2), i1, i2, i3, same)
  expect_identical(flat$items$flags[4], "constant")
  expect_equal(flat$alpha, check_items(scale, i1, i2, i3)$alpha)
  twin <- check_items(transform(scale, copy = i1), i1, i2, i3, copy)
  expect_match(twin$items$flags[1], "redundant")
  expect_identical(twin$items$redundant_with[1], "copy")
})

test_that("wrong keys, too few items and words without an order get one line; command and brief say the same", {
  test <- demo_study("test_items")
  refused <- function(..., why, class = "unsere_error_input") expect_error(check_items(...), why, class = class)
  refused(test, q1, q2, q3, key = c(q1 = "Z"), why = "Nobody answered")
  refused(test, q1, q2, q3, why = "words without an order")
  refused(scale, i1, i2, why = "three items", class = "unsere_error_usage")
  refused(scale, i1, i2, i3, key = c(i9 = "1"), why = "not one of the items", class = "unsere_error_usage")
  refused(test, q1, q2, q3, key = "q1:B", why = "ITEM=ANSWER", class = "unsere_error_usage")
  refused(test, q1, q2, q3, key = "BD", why = "2 answers for 3 items", class = "unsere_error_usage")
  named <- check_items(test, q1, q2, q3, key = c(q1 = "B", q2 = "D", q3 = "A"))
  for (key in c("BDA", "B,D,A", "B D A")) {
    expect_identical(check_items(test, q1, q2, q3, key = key)[c("items", "alpha")], named[c("items", "alpha")])
  }
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
  expect_match(paste(readLines(file.path(folder, "report.html")), collapse = ""), "Is the scale reliable")
})

test_that("r is corrected for unreliability beside r; the items tell, or the reliability is given", {
  learners <- score(demo_study("learners"), "motivation", c(m1, m2, m3, m4, m5, m6), reverse = m4)
  found <- relate(learners, motivation, speaking_score, correct_for = c("motivation", speaking_score = .85))
  data <- as.data.frame(learners)
  whole <- stats::complete.cases(data[c("motivation", "speaking_score")])
  items <- data[whole, paste0("m", 1:6)]
  items$m4 <- 6 - items$m4
  share <- function(x) {
    v <- crossprod(sweep(as.matrix(x), 2, colMeans(x)))
    6 / 5 * (1 - sum(diag(v)) / sum(v))
  }
  figure <- function(kept) {
    rows <- data[which(whole)[kept], c("motivation", "speaking_score")]
    apart <- sweep(as.matrix(rows), 2, colMeans(rows))
    sum(apart[, 1] * apart[, 2]) / sqrt(prod(colSums(apart^2))) / sqrt(.85 * share(items[kept, ]))
  }
  all <- seq_len(sum(whole))
  expect_equal(found$corrected, figure(all))
  spread <- (found$corrected_high - found$corrected_low) / 2 / stats::qt(.975, found$n - 2)
  each <- vapply(all, function(i) figure(all[-i]), 0)
  expect_equal(spread, sqrt((length(all) - 1) / length(all) * sum((each - mean(each))^2)), tolerance = 1e-8)
  expect_match(in_words(found), "Corrected for attenuation")
  told <- relate(learners, practice_hours, speaking_score, correct_for = c(practice_hours = .5, speaking_score = .5))
  expect_equal(c(told$corrected, told$corrected_low), c(told$r, told$ci_low) / .5)
  expect_match(gsub("\\s+", " ", paste(format(told), collapse = " ")), "beyond 1, which can happen")
  expect_error(
    relate(learners, practice_hours, speaking_score, correct_for = "practice_hours"), "reliability of .* is not known",
    class = "unsere_error_usage"
  )
  expect_error(relate(learners, practice_hours, speaking_score, correct_for = c(practice_hours = 2)), "above 0",
    class = "unsere_error_usage"
  )
})

test_that("items honour a design, each unit left out longhand; omega has an interval; curves of options add up to one", {
  set.seed(3)
  common <- rnorm(20)[rep(1:20, each = 10)] + rnorm(200)
  data <- as.data.frame(lapply(1:4, function(k) common + rnorm(200)))
  names(data) <- paste0("q", 1:4)
  data$class <- rep(1:20, each = 10)
  found <- check_items(set_design(data, cluster = class), q1, q2, q3, q4)
  alpha <- function(kept) check_items(data[kept, ], q1, q2, q3, q4)$alpha
  whole <- alpha(1:200)
  each <- vapply(1:20, function(k) alpha(data$class != k), 0)
  spread <- sqrt(19 / 20 * sum((log(1 - each) - log(1 - whole))^2))
  expect_equal(c(found$alpha, log(1 - found$alpha_low) - log(1 - whole)), c(whole, stats::qt(.975, 19) * spread),
    tolerance = 1e-6
  )
  plain <- check_items(data, q1, q2, q3, q4)
  ones <- check_items(set_design(transform(data, w = 1), weight = w), q1, q2, q3, q4)
  expect_equal(c(ones$alpha, ones$omega, ones$items$item_rest), c(plain$alpha, plain$omega, plain$items$item_rest))
  expect_true(plain$omega_low < plain$omega && plain$omega < plain$omega_high)
  heavy <- check_items(set_design(transform(data, w = rep(1:2, 100)), weight = w), q1, q2, q3, q4)
  expect_equal(heavy$items$item_rest, check_items(data[rep(1:200, rep(1:2, 100)), ], q1, q2, q3, q4)$items$item_rest)
  test <- check_items(demo_study("test_items"), q1, q5, q7, q9, key = c(q1 = "B", q5 = "B", q7 = "A", q9 = "B"))
  added <- tapply(test$curves$share, paste(test$curves$item, test$curves$fifth), sum)
  expect_equal(as.vector(added), rep(1, length(added)))
  expect_s3_class(draw_options(test, "q7"), "ggplot")
  expect_error(draw_options(plain), "no options", class = "unsere_error_usage")
})

test_that("a scale of many items has the figures of the definition, with blanks and without", {
  set.seed(23)
  ability <- rnorm(150)
  answers <- as.data.frame(lapply(1:70, function(j) pmin(5, pmax(1, round(3 + ability + rnorm(150))))))
  names(answers) <- paste0("i", 1:70)
  whole <- check_items(answers, tidyselect::everything())
  r <- vapply(1:70, function(j) {
    rest <- rowSums(answers[, -j])
    x <- answers[[j]] - mean(answers[[j]])
    y <- rest - mean(rest)
    sum(x * y) / sqrt(sum(x^2) * sum(y^2))
  }, 0)
  expect_equal(whole$items$item_rest, r, tolerance = 1e-13)
  without <- vapply(1:150, function(k) {
    kept <- answers[-k, ]
    x <- kept[[5]] - mean(kept[[5]])
    rest <- rowSums(kept[, -5])
    y <- rest - mean(rest)
    atanh(sum(x * y) / sqrt(sum(x^2) * sum(y^2)))
  }, 0)
  half <- qt(.975, 148) * sqrt(149 / 150 * sum((without - mean(without))^2))
  expect_equal(c(whole$items$ci_low[5], whole$items$ci_high[5]), tanh(atanh(r[5]) + c(-half, half)), tolerance = 1e-10)
  spread <- vapply(answers, function(v) sum((v - mean(v))^2) / 149, 0)
  sums <- rowSums(answers)
  expect_equal(whole$alpha, 70 / 69 * (1 - sum(spread) / (sum((sums - mean(sums))^2) / 149)), tolerance = 1e-13)
  expect_lt(whole$omega_low, whole$omega)
  answers$i3[1:9] <- NA
  blanks <- check_items(answers, tidyselect::everything())
  expect_identical(blanks$items$missing[3], 9L)
  expect_identical(c(blanks$n, blanks$n_complete), c(150L, 141L))
  pair <- answers[10:150, c("i3", "i4")]
  centred <- sweep(pair, 2, colMeans(pair))
  expect_equal(blanks$r["i3", "i4"], sum(centred$i3 * centred$i4) / 140 / (
    sqrt(sum(centred$i3^2) / 140) * sqrt(sum((answers$i4 - mean(answers$i4))^2) / 149)
  ), tolerance = 1e-12)
})

test_that("n and the interval of alpha belong to the persons that alpha rests on", {
  set.seed(31)
  n <- 300
  trait <- rnorm(n)
  answers <- as.data.frame(sapply(1:6, function(k) pmin(5, pmax(1, round(3 + trait + rnorm(n))))))
  names(answers) <- paste0("i", 1:6)
  whole <- check_items(answers, i1, i2, i3, i4, i5, i6)
  expect_identical(c(whole$n, whole$n_complete), c(300L, 300L))
  answers[matrix(runif(n * 6) < .4, n)] <- NA
  found <- check_items(answers, i1, i2, i3, i4, i5, i6)
  expect_identical(found$n, sum(rowSums(!is.na(answers)) > 0))
  expect_identical(found$n_complete, sum(complete.cases(answers)))
  # Longhand: the covariances of pairs, one part of the persons left out at a time.
  used <- answers[rowSums(!is.na(answers)) > 0, ]
  alpha <- function(data) {
    pairwise <- outer(1:6, 1:6, Vectorize(function(a, b) {
      both <- !is.na(data[[a]]) & !is.na(data[[b]])
      sum((data[[a]][both] - mean(data[[a]][both])) * (data[[b]][both] - mean(data[[b]][both]))) / (sum(both) - 1)
    }))
    6 / 5 * (1 - sum(diag(pairwise)) / sum(pairwise))
  }
  expect_equal(found$alpha, alpha(used), tolerance = 1e-12)
  part <- (seq_len(nrow(used)) - 1) %% 200
  left <- vapply(0:199, function(k) log(1 - alpha(used[part != k, ])), 0)
  half <- qt(.975, 199) * sqrt(199 / 200 * sum((left - mean(left))^2))
  expect_equal(found$alpha_jackknife, 1 - exp(log(1 - found$alpha) + c(half, -half)), tolerance = 1e-8)
  expect_match(format(found), sprintf("%d persons, of whom %d answered all", found$n, found$n_complete), all = FALSE)
  expect_match(in_words(found), sprintf("jackknife over persons.*n = %d", found$n))
})

test_that("answers left out count as wrong, items not reached as missing; a file gives items and keys", {
  folder <- withr::local_tempdir()
  set.seed(8)
  n <- 60
  ability <- rnorm(n)
  right <- sapply(1:5, function(k) as.integer(runif(n) < plogis(ability)))
  coded <- right
  coded[1, 2] <- 9L
  coded[2, 4:5] <- 8L
  data <- stats::setNames(as.data.frame(coded), paste0("q", 1:5))
  found <- check_items(data, "q*", omitted = 9, not_reached = 8)
  by_hand <- data
  by_hand[1, 2] <- 0L
  by_hand[2, 4:5] <- NA
  expect_equal(found$items, check_items(by_hand, "q*")$items)
  words <- as.data.frame(lapply(data, function(v) c("B", "A", rep("", 6), "-", "0")[match(v, c(0, 1, 2:7, 8, 9))]))
  file <- file.path(folder, "test.csv")
  data.table::fwrite(words, file)
  data.table::fwrite(data.frame(item = paste0("q", 1:5), key = "A"), file.path(folder, "key.csv"))
  keyed <- check_items(read_study(file), key = file.path(folder, "key.csv"), omitted = "0", not_reached = "-")
  expect_equal(keyed$items[c("n", "mean", "item_rest")], found$items[c("n", "mean", "item_rest")])
  told <- json_of("items", file, "--key", file.path(folder, "key.csv"), "--omitted", "0", "--not-reached", "-")
  expect_equal(jsonlite::fromJSON(told)$alpha, found$alpha, tolerance = 1e-9)
  expect_identical(unsere("items", file, "--key", file.path(folder, "none.csv"))$status, 3L)
})

test_that("many items are a ladder of names from the strongest to the weakest; very many show the weakest", {
  skip_if_not_installed("ggrepel")
  set.seed(6)
  answers <- function(k) {
    ability <- rnorm(200)
    rows <- as.data.frame(lapply(seq_len(k), function(j) as.integer(ability * (j / k) + rnorm(200) > 0)))
    stats::setNames(rows, sprintf("item_%03d", seq_len(k)))
  }
  found <- check_items(as_study(answers(60)), "item_*")
  drawn <- ggplot2::ggplot_build(draw_items(found))
  names <- unlist(lapply(drawn$layout$panel_params, function(panel) rev(panel$y$get_labels())))
  expect_identical(names, found$items$item[order(-found$items$item_rest)])
  many <- draw_items(check_items(as_study(answers(130)), "item_*"))
  expect_identical(nrow(many$data), 120L)
  expect_match(many$labels$caption, "120 of\\s+130 items with the weakest")
})

test_that("alpha has no lower end: one near or below -1 is told as it is, and no length is told of it", {
  data <- data.frame(a = c(1, 2, 3, 4, 5, 6), b = c(3, 1, 2, 6, 4, 5), c = c(6, 5, 4, 3, 1, 2))
  items <- check_items(data, a, b, c)
  removed <- items$items$alpha_without
  expect_lt(min(removed), -1)
  told <- format(items)
  expect_match(told, chartr("-", "\u2212", sprintf("%.2f", min(removed))), all = FALSE, fixed = TRUE)
  expect_false(any(grepl("twice as long|9999", told)))
  expect_identical(unsere:::format_alpha(-1 + 1e-15), "\u22121.00")
  json <- unsere("items", csv_file("a,b,c", "1,2,2", "2,1,3", "3,3,1", "4,2,4", "5,5,3"), "a", "b", "c", "--format", "json")
  expect_identical(anyDuplicated(names(jsonlite::fromJSON(json$out))), 0L)
})
