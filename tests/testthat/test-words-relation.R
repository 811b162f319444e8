test_that("r has no leading zero and is never rounded up to 1 or down to a signed nothing", {
  expect_identical(
    unsere:::format_r(c(.4812, -.05, .9968, .99996, 1, -.001, NA)),
    c(".48", "\u2212.05", ".997", ".99996", "1", ".00", "\u2013")
  )
})

test_that("p reads as papers print it, in full in tables, and is never 0", {
  clauses <- vapply(c(1e-200, .0009, .0123, .0499, .0999, .1234, .9999, NA), unsere:::format_p_clause, "")
  expect_identical(clauses, c(
    "p < .001", "p < .001", "p = .012", "p = .0499", "p = .10", "p = .12", "p > .999",
    "p \u2013"
  ))
  expect_identical(
    unsere:::format_p_full(c(.0234, 9.96e-8, 0), c(log10(.0234), log10(9.96e-8), -1234.5)),
    c(".023", "1.0 \u00d7 10^\u22127", "3.2 \u00d7 10^\u22121235")
  )
})

test_that("a relation reads as in a paper in each case", {
  pair <- function(n, slope) {
    set.seed(n)
    data.frame(x = 1:n, y = slope * (1:n) + rnorm(n))
  }
  expect_match(
    in_words(relate(pair(40, .2), x, y)),
    "^x and y were positively correlated, r\\(38\\) = \\.9\\d, 95% CI \\[\\.\\d\\d, \\.9\\d\\], p < \\.001\\.$"
  )
  expect_match(in_words(relate(pair(12, 0), x, y)), "^x and y were not significantly correlated, r\\(10\\) = .*, p = ")
  expect_match(in_words(relate(data.frame(x = c(1, 2, 4), y = c(2, 1, 5)), x, y)), "r\\(1\\) = \\.\\d+, p = ")
  for (n in c(12, 40)) expect_no_match(in_words(relate(pair(n, 0), x, y)), "accept|cause|effect|prove")
})

test_that("printed output keeps its shape", {
  learners <- demo_study("learners")
  expect_snapshot({
    relate(learners, practice_hours, speaking_score)
    fit_line(demo_study("dial"), dial, level_db)
    demo_study("town_years")
  })
})

test_that("nothing printed is wider than 80 columns, in UTF-8 and in plain ASCII", {
  learners <- demo_study("learners")
  for (result in list(
    relate(learners, m1, m2),
    fit_line(learners, m1, m2)
  )) expect_lte(max(nchar(format(result), "width")), 80)
  plain <- unsere("relate", demo_file("learners.csv"), "commute_min", "speaking_score", env = "LC_ALL=C")
  expect_equal(plain$status, 0)
  expect_match(plain$out, "^  -1 \\.+", all = FALSE)
  expect_false(any(grepl("[^ -~]", plain$out)))
})
