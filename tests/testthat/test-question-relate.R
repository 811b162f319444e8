eleven <- data.frame(
  x = c(1.3, 2.7, 3.1, 4.9, 5.2, 6.6, 7.4, 8.8, 9.5, 10.1, 11.9),
  y = c(2.5, 1.9, 4.4, 3.7, 6.1, 5.8, 8.3, 7.2, 9.9, 8.6, 12.4)
)

test_that("every figure of a pair agrees with fractions written out longhand", {
  truth <- longhand(eleven$x, eleven$y)
  found <- relate(eleven, x, y)
  expect_gte(digits_of(found$r, truth$r), 15)
  expect_gte(digits_of(found$r_squared, 1 - truth$unexplained), 15)
  expect_gte(digits_of(found$value, truth$t), 14)
  expect_gte(digits_of(found$p, student_two_sided(truth$t, 9)), 13)
  z <- atanh(truth$r)
  half <- qnorm(.975) / sqrt(8)
  expect_gte(digits_of(found$ci_low, tanh(z - half)), 13)
  expect_gte(digits_of(found$ci_high, tanh(z + half)), 13)
  expect_equal(found[c("n", "df", "direction", "strength", "strength_scale")],
    list(n = 11L, df = 9, direction = "positive", strength = "large", strength_scale = "cohen"),
    ignore_attr = TRUE
  )
})

test_that("digits hold on 1e8 plus a small variation, on huge, tiny and nearly perfect pairs", {
  set.seed(41)
  noise <- rnorm(60)
  cases <- list(
    offset = list(1e8 + noise, 1e8 + 0.3 * noise + rnorm(60)),
    years = list(1994:2023 + 0, 5e6 + cumsum(rnorm(30))),
    huge = list(1e150 * noise, 1e-150 * (noise + rnorm(60))),
    near = list(1:40 + 0, 3 * (1:40) + 1e-7 * sin(1:40)),
    nothing = list(noise, noise[60:1] * 1e-3 + rnorm(60))
  )
  for (name in names(cases)) {
    truth <- longhand(cases[[name]][[1]], cases[[name]][[2]])
    found <- relate(data.frame(x = cases[[name]][[1]], y = cases[[name]][[2]]), x, y)
    expect_gte(digits_of(found$r, truth$r), 14)
    expect_gte(digits_of(found$value, truth$t), 13)
  }
})

test_that("p is right to ten digits from one half to far below what a double holds", {
  for (case in list(c(.01, 20), c(.1, 40), c(-.6, 60), c(.9, 101), c(.99, 200))) {
    test <- unsere:::test_student(case[1], 1 - case[1]^2, case[2])
    truth <- student_two_sided(
      Rmpfr::mpfr(case[1], 400) * sqrt((case[2] - 2) / (1 - Rmpfr::mpfr(case[1], 400)^2)),
      case[2] - 2
    )
    expect_gte(digits_of(test$p, truth), 10)
    expect_gte(digits_of(test$log10_p, log10(truth)), 10)
  }
  x <- 1:500 + 0
  far <- relate(data.frame(x, y = x + sin(x)), x, y)
  expect_lt(far$log10_p, -800)
  expect_identical(far$p, 0)
  expect_match(in_words(far), "p < .001", fixed = TRUE)
})

test_that("one predicted direction halves p where it was right and keeps it large where it was wrong", {
  both <- relate(eleven, x, y)$p
  expect_equal(relate(eleven, x, y, expect = "positive")$p, both / 2, tolerance = 1e-14)
  expect_equal(relate(eleven, x, y, expect = "negative")$p, 1 - both / 2, tolerance = 1e-14)
  expect_match(in_words(relate(eleven, x, y, expect = "positive")), "one-sided, positive direction specified in advance",
    fixed = TRUE
  )
})

test_that("order of pair and rows does not change a bit", {
  learners <- demo_study("learners")
  there <- relate(learners, practice_hours, speaking_score)
  back <- relate(learners, speaking_score, practice_hours)
  mixed <- learners
  mixed$data <- mixed$data[sample(nrow(mixed$data)), ]
  for (field in c("r", "value", "p", "ci_low", "ci_high")) {
    expect_identical(there[[field]], back[[field]])
    expect_identical(there[[field]], relate(mixed, practice_hours, speaking_score)[[field]])
  }
})

test_that("points on a line have r of exactly 1 or -1, no test, and words that say so", {
  line <- data.frame(x = c(.1, .2, .3), y = c(.1, .2, .3) * -.7 + .3)
  found <- relate(line, x, y)
  expect_identical(found$r, -1)
  expect_true(is.na(found$p) && is.na(found$ci_low))
  expect_match(in_words(found), "exactly on a falling line")
  expect_match(format(found), "without scatter", all = FALSE)
})

test_that("what is left out is counted by its reason", {
  gaps <- data.frame(x = c(1, NA, 3, 4, 5, NA, 7, 9), y = c(2, 2, NA, 5, 4, NA, 8, 7))
  found <- relate(gaps, x, y)
  expect_equal(found[c("n", "n_dropped")], list(n = 5L, n_dropped = 3L), ignore_attr = TRUE)
  expect_match(format(found), "x missing 1, y missing 1, both missing 1", all = FALSE)
})

test_that("variables come bare, as strings, or in a name that holds a string", {
  wanted <- relate(eleven, x, y)$r
  first <- "x"
  expect_identical(relate(eleven, "x", "y")$r, wanted)
  expect_identical(relate(eleven, first, y)$r, wanted)
  wrapper <- function(data, a, b) relate(data, {{ a }}, {{ b }})
  expect_identical(wrapper(eleven, x, y)$r, wanted)
})

test_that("words for size name their scale, published or the user's own", {
  word <- function(...) relate(eleven[c(1, 5, 2, 8, 3, 9, 4), ], x, y, ...)[c("strength", "strength_scale")]
  expect_identical(unlist(word(strength = "evans"), use.names = FALSE), c("very strong", "evans"))
  expect_identical(unlist(word(strength = c(some = .2, plenty = .9)), use.names = FALSE)[2], "own")
  expect_error(relate(eleven, x, y, strength = c(.2, .1)), class = "unsere_error_usage")
  expect_match(format(relate(eleven, x, y, strength = "gignac")), "Gignac & Szodorai", all = FALSE)
})

test_that("what cannot be related is refused with the right class and a reason", {
  bad <- data.frame(
    a = c(1, 2, 3, 4), same = 5, words = c("p", "q", "r", "s"), mixed = c("1", "2", "x3", "4"),
    holes = c(1, NA, NA, 4), none = NA_real_, inf = c(1, 2, Inf, 4)
  )
  refused <- function(y, class, text) expect_error(relate(bad, "a", y), text, class = class)
  refused("same", "unsere_error_undefined", "same is 5 in all 4")
  refused("holes", "unsere_error_undefined", "share 2 complete pairs")
  refused("none", "unsere_error_undefined", "no value at all")
  refused("words", "unsere_error_input", "names or free answers")
  refused("mixed", "unsere_error_input", "\"x3\" in row 3")
  refused("inf", "unsere_error_input", "infinite")
  refused("nosuch", "unsere_error_input", "no variable \"nosuch\"")
  expect_error(relate(bad, a, a), class = "unsere_error_usage")
  expect_error(relate(bad, a, inf, confidence = 95), "between 0 and 1", class = "unsere_error_usage")
  expect_error(relate(bad, a, inf, expect = "up"), "negative", class = "unsere_error_usage")
})
