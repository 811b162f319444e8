# The smallest correlation that matters: two one-sided tests beside the usual one.

with_r <- function(r, n) {
  set.seed(n)
  x <- as.vector(scale(rnorm(n)))
  rest <- rnorm(n)
  rest <- as.vector(scale(rest - sum(rest * x) / sum(x^2) * x))
  data.frame(x, y = r * x + sqrt(1 - r^2) * rest)
}
verdict <- function(r, n, ...) relate(with_r(r, n), x, y, interval = "analytic", ...)$smallest_verdict

test_that("the verdict is that of Fisher's z by longhand, over a grid of r and n", {
  grid <- expand.grid(r = c(-.6, -.25, -.12, 0, .04, .12, .19, .3, .5), n = c(20, 100, 400, 3000))
  longhand <- function(r, n, size = .2, alpha = .05) {
    reach <- function(p) stats::qnorm(p) / sqrt(n - 3)
    z <- atanh(r)
    if (abs(z) - reach(1 - alpha / 2) > atanh(size)) return("larger")
    if (abs(z) + reach(1 - alpha) < atanh(size)) return("smaller")
    t <- r * sqrt((n - 2) / (1 - r^2))
    if (2 * stats::pt(-abs(t), n - 2) < alpha) "uncertain" else "inconclusive"
  }
  wanted <- mapply(longhand, grid$r, grid$n)
  expect_setequal(wanted, c("larger", "smaller", "uncertain", "inconclusive"))
  expect_identical(mapply(function(r, n) verdict(r, n, smallest = .2), grid$r, grid$n), wanted)
  expect_identical(
    mapply(function(r, n) verdict(r, n, smallest = .2, confidence = .9), grid$r, grid$n),
    mapply(longhand, grid$r, grid$n, alpha = .1)
  )
})

test_that("the inner interval is that of the same route, whatever the coefficient or the scheme", {
  learners <- demo_study("learners")
  asked <- list(
    list(learners, "practice_hours", "speaking_score"),
    list(learners, "confidence", "m1", interval = "bootstrap", resamples = 499, seed = 3),
    list(learners, "study_partner", "speaking_score"), list(learners, "m1", "m2", coefficient = "tau-b"),
    list(learners, "age_years", "speaking_score", given = "practice_hours"),
    list(set_design(learners, cluster = centre), "age_years", "speaking_score"),
    list(gather_moments(demo_file("learners.csv"), "age_years", "speaking_score"), "age_years", "speaking_score")
  )
  for (one in asked) {
    found <- do.call(relate, c(one, smallest = .3))
    inner <- do.call(relate, c(one, confidence = .9))
    expect_equal(c(found$smallest_low, found$smallest_high), c(inner$ci_low, inner$ci_high), label = one[[2]])
    plain <- do.call(relate, one)
    expect_identical(found[c("r", "p", "ci_low", "ci_high")], plain[c("r", "p", "ci_low", "ci_high")])
    expect_identical(plain$smallest, NULL)
  }
})

test_that("each outcome has its words, in the sentence, beside the estimate, in JSON, from the command and a brief", {
  words <- c(
    larger = "exceeded .20 in size", smaller = "was smaller in size than .20", uncertain = "remains open",
    inconclusive = "are inconclusive"
  )
  data <- list(
    larger = with_r(.5, 400), smaller = with_r(.04, 400), uncertain = with_r(.25, 100), inconclusive = with_r(.12, 20)
  )
  for (one in names(words)) {
    found <- relate(data[[one]], x, y, smallest = .2, interval = "analytic")
    expect_identical(found$smallest_verdict, one)
    expect_match(in_words(found), words[[one]], fixed = TRUE)
    expect_match(paste(format(found), collapse = " "), "smallest that matters +.20: r ")
  }
  significant <- relate(with_r(.08, 3000), x, y, smallest = .2, interval = "analytic")
  expect_match(in_words(significant), "Although significant, the correlation was smaller in size than .20", fixed = TRUE)
  told <- unsere("relate", demo_file("learners.csv"), "age_years", "speaking_score", "--smallest", "0.2", "--format", "json")
  told <- jsonlite::fromJSON(paste(told$out, collapse = "\n"))
  by_r <- relate(demo_study("learners"), age_years, speaking_score, smallest = .2)
  expect_identical(told$smallest_verdict, by_r$smallest_verdict)
  folder <- withr::local_tempdir()
  file.copy(demo_file("learners.csv"), folder)
  writeLines(c(
    "data: {file: learners.csv}", "pairs:", "  - {x: age_years, y: speaking_score, smallest: 0.2}",
    "report: {formats: [html]}"
  ), file.path(folder, "brief.yml"))
  run_brief(file.path(folder, "brief.yml"), out = file.path(folder, "out"), quiet = TRUE)
  results <- jsonlite::fromJSON(file.path(folder, "out", "results.json"), simplifyVector = FALSE)
  expect_identical(results$pairs[[1]]$relation$smallest, 0.2)
})

test_that("what has no sign or no sense is refused", {
  learners <- demo_study("learners")
  expect_error(relate(learners, centre, speaking_score, smallest = .2), "no sign", class = "unsere_error_usage")
  for (odd in list(0, 1, -.1, "a", c(.1, .2))) {
    expect_error(relate(learners, age_years, speaking_score, smallest = odd), class = "unsere_error_usage")
  }
  expect_error(relate(learners, age_years, speaking_score, smallest = .2, confidence = .4), class = "unsere_error_usage")
  line <- data.frame(x = 1:10, y = 2 * (1:10))
  expect_identical(relate(line, x, y, smallest = .2)$smallest_verdict, NA_character_)
})

test_that("a plan to show that r is smaller keeps its promise", {
  plan <- plan_size(smallest = .2, power = .8)
  expect_identical(c(plan$r, plan$smallest), c(0, .2))
  set.seed(7)
  shown <- function(n, rho, runs = 4000) {
    r <- vapply(seq_len(runs), function(k) {
      x <- stats::rnorm(n)
      y <- rho * x + sqrt(1 - rho^2) * stats::rnorm(n)
      mean((x - mean(x)) * (y - mean(y))) / sqrt(mean((x - mean(x))^2) * mean((y - mean(y))^2))
    }, 0)
    mean(abs(atanh(r)) + stats::qnorm(.95) / sqrt(n - 3) < atanh(.2))
  }
  expect_lt(abs(shown(plan$n, 0) - .8), .025)
  skewed <- plan_size(smallest = .2, r = .1, n = 700)
  expect_lt(abs(shown(700, .1, 2000) - skewed$power), .03)
  expect_lt(plan_size(smallest = .2, n = plan$n - 1)$power, .8)
  expect_identical(plan_size(smallest = .2, n = 20)$power, 0)
  classed <- plan_size(smallest = .2, power = .8, class_size = 20, icc = .2)
  expect_gt(classed$n_to_draw, plan$n)
  expect_match(in_words(plan), "212 cases show that a correlation is smaller in size than .20 (if r = .00)", fixed = TRUE)
  expect_error(plan_size(smallest = .2, r = .3, power = .8), class = "unsere_error_usage")
  expect_error(plan_size(smallest = .2, half_width = .1), class = "unsere_error_usage")
  expect_error(plan_size(smallest = .2, other = .1, power = .8), class = "unsere_error_usage")
  expect_error(plan_size(r = 0, power = .8), class = "unsere_error_usage")
})

test_that("a difference of two correlations is tested against the smallest that matters", {
  set.seed(16)
  n <- 2500
  first <- data.frame(x = rnorm(n))
  first$y <- .5 * first$x + sqrt(.75) * rnorm(n)
  second <- data.frame(x = rnorm(n))
  second$y <- .5 * second$x + sqrt(.75) * rnorm(n)
  a <- relate(first, x, y)
  b <- relate(second, x, y)
  found <- compare_relations(a, b, cases = "different", smallest = .1)
  by_hand <- compare_relations(
    relate(first, x, y, confidence = .9), relate(second, x, y, confidence = .9),
    cases = "different"
  )
  expect_equal(c(found$smallest_low, found$smallest_high), c(by_hand$ci_low, by_hand$ci_high), tolerance = 1e-10)
  expect_identical(found$smallest_verdict, "smaller")
  expect_match(in_words(found), "smaller in size than .10", fixed = TRUE)
  few <- compare_relations(relate(first[1:40, ], x, y), relate(second[1:40, ], x, y), "different", smallest = .1)
  expect_identical(few$smallest_verdict, "inconclusive")
  first$z <- first$x + rnorm(n)
  shared <- compare_relations(a, relate(first, z, y), smallest = .05)
  again <- compare_relations(relate(first, x, y, confidence = .9), relate(first, z, y, confidence = .9))
  expect_equal(shared$smallest_low, again$ci_low, tolerance = 1e-10)
  expect_identical(shared$smallest_verdict, "larger")
  expect_error(compare_relations(a, b, "different", smallest = -1), class = "unsere_error_usage")
})
