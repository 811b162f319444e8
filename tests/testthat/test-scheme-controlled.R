set.seed(12)
n <- 90
cause <- rnorm(n)
data <- data.frame(
  x = cause + rnorm(n), y = cause + rnorm(n), cause, other = rnorm(n), place = rep(c("a", "b", "c"), 30),
  step = pmin(5, pmax(1, round(3 + cause + rnorm(n, 0, .7))))
)

# r of residuals, longhand: by the normal equations, not by a routine.
left <- function(v, held) {
  design <- cbind(1, held)
  v - design %*% solve(crossprod(design), crossprod(design, v))
}
plain_r <- function(a, b) sum((a - mean(a)) * (b - mean(b))) / sqrt(sum((a - mean(a))^2) * sum((b - mean(b))^2))

test_that("with variables held constant r is that of what is left, its test and interval count the columns held", {
  found <- relate(data, x, y, given = c(cause, other), interval = "analytic")
  a <- left(data$x, cbind(data$cause, data$other))
  b <- left(data$y, cbind(data$cause, data$other))
  expect_equal(found$r, plain_r(a, b), tolerance = 1e-12)
  expect_equal(found$df, n - 4)
  expect_equal(found$value, found$r * sqrt((n - 4) / (1 - found$r^2)))
  expect_equal(atanh(c(found$ci_low, found$ci_high)), atanh(found$r) + c(-1, 1) * qnorm(.975) / sqrt(n - 5))
  expect_equal(found$unheld, relate(data, x, y)$r)
  expect_match(in_words(found), "controlling for cause and other, r\\(86\\)")
  # A group is held as groups: for it alone r is that within groups.
  grouped <- relate(data, x, y, given = place, interval = "analytic")
  means <- function(v) v - ave(v, data$place)
  expect_equal(grouped$r, plain_r(means(data$x), means(data$y)), tolerance = 1e-12)
  expect_equal(grouped$df, n - 4)
  # Ranks of all, where the pair asks for ranks.
  ranked <- relate(data, step, y, given = cause, coefficient = "spearman")
  expect_equal(ranked$r, plain_r(left(rank(data$step), rank(data$cause)), left(rank(data$y), rank(data$cause))),
    tolerance = 1e-12
  )
  # Each case left out in turn, longhand.
  each <- vapply(seq_len(n), function(k) plain_r(left(data$x[-k], data$cause[-k]), left(data$y[-k], data$cause[-k])), 0)
  jack <- relate(data, x, y, given = cause, interval = "jackknife")
  moves <- (atanh(each) - mean(atanh(each)))^2
  half <- qt(.975, min(n - 3, 2 * (n - 1) / (mean(moves^2) / mean(moves)^2 - 1))) * sqrt((n - 1) / n * sum(moves))
  expect_equal(atanh(jack$ci_high), atanh(jack$r) + half, tolerance = 1e-8)
})

test_that("what cannot be held is told in a line: the pair itself, a copy, too few cases, another test", {
  refused <- function(..., class, why) expect_error(relate(..., given = c(cause)), why, class = class)
  expect_error(relate(data, x, y, given = x), "one of the pair", class = "unsere_error_usage")
  expect_error(
    relate(transform(data, copy = 2 * x), x, y, given = copy), "determined completely",
    class = "unsere_error_undefined"
  )
  refused(data, x, y, test = "permutation", class = "unsere_error_usage", why = "no `test`")
  refused(data, x, y, interval = "bootstrap", class = "unsere_error_usage", why = "no `interval`")
  refused(data, x, y, coefficient = "tau-b", class = "unsere_error_usage", why = "Tau-b")
  refused(data[1:4, ], x, y, class = "unsere_error_undefined", why = "too few")
  # Collinear controls count once.
  twice <- transform(data, again = cause * 3 + 1)
  expect_equal(relate(twice, x, y, given = c(cause, again))$df, relate(data, x, y, given = cause)$df)
})

test_that("candidates are judged by what holding them does to r", {
  set.seed(4)
  cause <- rnorm(300)
  mask <- rnorm(300)
  told <- flag_spurious(data.frame(x = cause + rnorm(300), y = cause + rnorm(300), cause, noise = rnorm(300)), x, y,
    candidates = c(cause, noise)
  )$candidates
  expect_identical(told$verdict[1:2], c("explained by", "not explained by"))
  expect_identical(told$candidate[3], "all together")
  # A test that does not reject shows nothing: half of r left in few cases, and a full cause measured with error.
  judged <- function(n, reliability, left) {
    vapply(1:60, function(k) {
      u <- rnorm(n)
      e <- rnorm(n)
      data <- data.frame(x = u + left * e + rnorm(n), y = u + left * e + rnorm(n))
      data$seen <- u + rnorm(n, sd = sqrt(1 / reliability - 1 + 1e-9))
      flag_spurious(data, x, y, candidates = seen)$candidates$verdict
    }, "")
  }
  expect_lt(mean(judged(60, 1, .8) == "explained by"), .1)
  expect_lt(mean(judged(400, .6, 0) == "explained by"), .1)
  expect_gt(mean(judged(400, 1, 0) == "explained by"), .6)
  hidden <- rnorm(300)
  masked <- flag_spurious(data.frame(x = hidden + mask, y = hidden - mask + rnorm(300, 0, .5), mask), x, y,
    candidates = mask
  )
  expect_identical(masked$candidates$verdict, "masked by")
  expect_match(in_words(masked), "Controlling for mask, r went from")
})

test_that("all doors hold constant alike: R, the command, a brief, the figure", {
  file <- demo_file("learners.csv")
  found <- relate(demo_study("learners"), commute_min, listening_score, given = c(centre, age_years))
  out <- capture.output(run_command(c(
    "relate", file, "commute_min", "listening_score", "--given", "centre,age_years",
    "--format", "json"
  )))
  told <- jsonlite::fromJSON(paste(out, collapse = "\n"))
  expect_equal(told$r, found$r)
  expect_identical(told$given, c("centre", "age_years"))
  brief <- tempfile(fileext = ".yml")
  writeLines(c(
    sprintf("data: {file: \"%s\"}", file),
    "pairs: [{x: commute_min, y: listening_score, given: [centre, age_years]}]"
  ), brief)
  folder <- run_brief(brief, out = tempfile("given"), quiet = TRUE)
  results <- jsonlite::fromJSON(file.path(folder, "results.json"), simplifyVector = FALSE)
  expect_equal(results$pairs[[1]]$relation$r, found$r)
  plot <- draw_scatter(demo_study("learners"), commute_min, listening_score, given = centre)
  expect_match(plot$labels$y, "residuals")
  expect_equal(mean(plot$data$y), 0, tolerance = 1e-9)
})

test_that("a matrix holds variables constant in every pair, as each pair alone; every door takes it", {
  learners <- demo_study("learners")
  found <- correlation_matrix(learners, practice_hours, speaking_score, confidence, given = c(age_years, centre))
  for (k in seq_len(nrow(found$pairs))) {
    pair <- found$pairs[k, ]
    alone <- relate(learners, pair$x, pair$y, given = c(age_years, centre))
    fields <- c("r", "n", "ci_low", "ci_high", "p")
    expect_equal(unlist(pair[fields]), unlist(unclass(alone)[fields]))
  }
  expect_match(format(found), "controlling for age and centre", all = FALSE)
  expect_error(correlation_matrix(learners, practice_hours, speaking_score, given = practice_hours), "controlled for",
    class = "unsere_error_usage"
  )
  out <- capture.output(run_command(c(
    "matrix", demo_file("learners.csv"), "practice_hours", "speaking_score", "--given", "centre", "--format", "json"
  )))
  told <- jsonlite::fromJSON(paste(out, collapse = "\n"))
  expect_equal(told$pairs$r, relate(learners, practice_hours, speaking_score, given = centre)$r)
  expect_identical(told$given, "centre")
  drawn <- set_design(learners, cluster = centre)
  held <- correlation_matrix(drawn, practice_hours, speaking_score, listening_score, given = age_years)$pairs
  expect_equal(held$ci_low[1], relate(drawn, practice_hours, speaking_score, given = age_years)$ci_low)
})

test_that("a matrix by a design is that of each pair alone, with gaps and strata", {
  set.seed(8)
  data <- as.data.frame(matrix(rnorm(4 * 300), 300))
  data <- data + rep(rnorm(30), each = 10)
  data$V2[sample(300, 30)] <- data$V4[c(1:10, sample(300, 20))] <- NA
  data <- cbind(data, class = rep(1:30, each = 10), zone = rep(c("a", "b", "c"), each = 100), w = runif(300))
  study <- set_design(data, weight = w, stratum = zone, cluster = class)
  found <- correlation_matrix(study, V1:V4)$pairs
  for (k in seq_len(nrow(found))) {
    alone <- relate(study, found$x[k], found$y[k])
    fields <- c("r", "n", "ci_low", "ci_high", "p")
    expect_equal(unlist(found[k, fields]), unlist(unclass(alone)[fields]), tolerance = 1e-10)
  }
  told <- correlation_matrix(study, V1:V4)$variables
  for (k in 1:4) {
    there <- !is.na(data[[k]])
    mean <- sum(data$w[there] * data[[k]][there]) / sum(data$w[there])
    spread <- sum(data$w[there] * (data[[k]][there] - mean)^2) / sum(data$w[there]) * sum(there) / (sum(there) - 1)
    expect_equal(c(told$mean[k], told$sd[k], told$n[k]), c(mean, sqrt(spread), sum(there)))
  }
})

test_that("a candidate is judged under the design that the cases were drawn by, each unit left out longhand", {
  set.seed(8)
  class <- rep(1:25, each = 8)
  both <- rnorm(25)[class] + rnorm(200)
  data <- data.frame(class, both, x = both + rnorm(25)[class] + rnorm(200), y = both + rnorm(200), w = runif(200, .5, 2))
  study <- set_design(as_study(data), cluster = class, weight = w)
  found <- flag_spurious(study, x, y, candidates = both)
  row <- found$candidates
  figures <- function(kept) {
    w <- data$w[kept]
    centred <- scale(data[kept, c("x", "y", "both")], apply(data[kept, c("x", "y", "both")], 2, weighted.mean, w), FALSE)
    s <- crossprod(centred * w, centred)
    r <- s / sqrt(outer(diag(s), diag(s)))
    z <- atanh(c(r[1, 2], (r[1, 2] - r[1, 3] * r[2, 3]) / sqrt((1 - r[1, 3]^2) * (1 - r[2, 3]^2))))
    c(z, z[1] - z[2])
  }
  whole <- figures(rep(TRUE, 200))
  off <- vapply(1:25, function(k) figures(class != k), whole) - whole
  half <- qt(.975, 24) * sqrt(24 / 25 * rowSums(off^2))
  expect_equal(unlist(row[c("r", "partial")], use.names = FALSE), tanh(whole[1:2]), tolerance = 1e-12)
  expect_equal(c(row$ci_low, row$ci_high), tanh(whole[2] + c(-1, 1) * half[2]), tolerance = 1e-10)
  expect_equal(c(row$difference_low, row$difference_high), whole[3] + c(-1, 1) * half[3], tolerance = 1e-10)
  expect_equal(row$p, 2 * pt(-abs(whole[3] / half[3] * qt(.975, 24)), 24), tolerance = 1e-8)
  # Of 25 classes the interval is too wide to show that little is left.
  expect_identical(row$verdict, "cannot tell")
  # The relation beside it is that of the design too.
  expect_equal(found$relation$ci_low, relate(study, x, y)$ci_low)
  years <- transform(demo_study("town_years")$data, w = 1)
  series <- flag_spurious(set_design(as_study(years), weight = w), ebook_loans, hives, time = year)
  expect_match(paste(format(series), collapse = " "), "without the sampling design")
})

test_that("what is left of cases in classes or over time has their interval, in the matrix as in the pair", {
  set.seed(21)
  class <- rep(1:15, each = 12)
  of_class <- function(share) sqrt(share) * rnorm(15)[class] + sqrt(1 - share) * rnorm(180)
  classes <- data.frame(class = paste0("c", class), x = of_class(.5), y = of_class(.5), w = rnorm(180))
  steps <- function() as.vector(stats::filter(rnorm(60), .8, "recursive"))
  series <- data.frame(year = 1961:2020, x = steps(), y = steps(), w = rnorm(60))
  for (table in list(classes, series)) {
    pair <- relate(table, x, y, given = w)
    textbook <- relate(table, x, y, given = w, interval = "analytic")
    expect_gt(pair$ci_high - pair$ci_low, 1.2 * (textbook$ci_high - textbook$ci_low))
    expect_equal(pair$textbook$p, textbook$p)
    expect_equal(pair$r, textbook$r)
    cell <- correlation_matrix(table, x, y, given = w)$pairs
    expect_equal(unlist(cell[c("r", "ci_low", "ci_high", "p")]), unlist(unclass(pair)[c("r", "ci_low", "ci_high", "p")]))
  }
  expect_identical(relate(classes, x, y, given = w)$ci_method, "clusters")
  expect_match(in_words(relate(series, x, y, given = w)), "by the effective sample size of [0-9]+")
  # The jackknife over classes, longhand: each class left out in turn, of what is left.
  a <- left(classes$x, classes$w)
  b <- left(classes$y, classes$w)
  z <- atanh(plain_r(a, b))
  without <- vapply(1:15, function(k) atanh(plain_r(a[class != k], b[class != k])), 0)
  spread <- sqrt(14 / 15 * sum((without - mean(without))^2))
  found <- relate(classes, x, y, given = w)
  expect_equal(atanh(c(found$ci_low, found$ci_high)), z + c(-1, 1) * qt(.975, 14) * spread, tolerance = 1e-6)
})
