clubs <- data.frame(
  club = c("chess", "choir", "dance", "chess", "choir", "dance", "dance", "chess", "choir", "dance", NA),
  score = c(11, 14, 17, 12, 21, 16, 15, 19, 13, 22, 10)
)

test_that("eta, its F and epsilon squared are those of the sums of squares written out", {
  found <- relate(clubs, club, score)
  known <- clubs[!is.na(clubs$club), ]
  means <- tapply(known$score, known$club, mean)
  between <- sum((means[known$club] - mean(known$score))^2)
  within <- sum((known$score - means[known$club])^2)
  expect_identical(found$coefficient, "eta")
  expect_equal(found$r, sqrt(between / (between + within)), tolerance = 1e-14)
  expect_equal(found$value, (between / 2) / (within / 7), tolerance = 1e-13)
  expect_equal(found$p, pf((between / 2) / (within / 7), 2, 7, lower.tail = FALSE), tolerance = 1e-12)
  expect_equal(found$epsilon_squared, 1 - (within / 7) / ((between + within) / 9), tolerance = 1e-13)
  expect_equal(found$group_means$mean, as.vector(means))
  expect_identical(c(found$n, found$n_dropped, found$df, found$df_residual), c(10L, 1L, 2, 7))
  expect_identical(found$direction, NA_character_)
  expect_identical(relate(clubs, score, club)$r, found$r)
})

test_that("with two groups eta is the size of the point-biserial r, and F the square of its t", {
  learners <- demo_study("learners")
  eta <- relate(learners, study_partner, speaking_score, coefficient = "eta")
  r <- relate(learners, study_partner, speaking_score)
  expect_equal(eta$r, abs(r$r), tolerance = 1e-14)
  expect_equal(eta$value, r$value^2, tolerance = 1e-12)
  expect_equal(eta$p, r$p, tolerance = 1e-12)
})

test_that("the limits are those at which the noncentral F leaves a twentieth beyond, and agree with the test", {
  found <- relate(demo_study("learners"), centre, speaking_score)
  expect_identical(c(found$confidence, found$tested_at), c(0.9, 0.95))
  lambda <- found$n * c(found$ci_low, found$ci_high)^2 / (1 - c(found$ci_low, found$ci_high)^2)
  expect_equal(pf(found$value, 4, 227, lambda[1], lower.tail = FALSE), 0.05, tolerance = 1e-8)
  expect_equal(pf(found$value, 4, 227, lambda[2]), 0.05, tolerance = 1e-8)
  weak <- relate(demo_study("learners"), centre, confidence)
  expect_identical(c(weak$ci_low, weak$p > 0.05), c(0, 1))
  # Far beyond what R's own noncentral F can do.
  set.seed(1)
  large <- data.frame(g = rep(letters[1:4], each = 25000), v = rnorm(1e5) + rep(c(0, 2, 4, 6), each = 25000))
  wide <- relate(large, g, v)
  expect_true(wide$ci_low < wide$r && wide$r < wide$ci_high && wide$ci_high - wide$ci_low < 0.005)
})

test_that("of a scale with an order eta is that of the ranks, and far values keep their digits", {
  scale <- data.frame(g = clubs$club[1:10], v = factor(c(1, 2, 3, 1, 3, 2, 2, 3, 1, 3), ordered = TRUE))
  ranks <- data.frame(g = scale$g, v = rank(as.integer(scale$v)))
  expect_equal(relate(scale, g, v)$r, relate(ranks, g, v, coefficient = "eta")$r, tolerance = 1e-14)
  shifted <- transform(clubs, score = score + 1e8)
  expect_equal(relate(shifted, club, score)$r, relate(clubs, club, score)$r, tolerance = 1e-13)
})

test_that("shuffling agrees with F on normal data, and is the same for a seed whatever the threads", {
  learners <- demo_study("learners")
  one <- relate(learners, centre, speaking_score, test = "permutation", seed = 3, threads = 1)
  two <- relate(learners, centre, speaking_score, test = "permutation", seed = 3, threads = 2)
  expect_identical(one$p, two$p)
  expect_lt(abs(log(one$p / relate(learners, centre, speaking_score)$p)), 0.7)
})

test_that("it says whether the groups differ, which is lowest and highest, and what was corrected", {
  text <- paste(format(relate(demo_study("learners"), centre, speaking_score)), collapse = " ")
  expect_match(text, "F(4, 227) = 3.90", fixed = TRUE)
  expect_match(text, "means from 53.5 (\"Mill\", n = 40) to 63.7 (\"Orchard\"", fixed = TRUE)
  expect_match(in_words(relate(demo_study("learners"), centre, speaking_score)), "differed significantly between the groups")
  expect_match(in_words(relate(demo_study("learners"), centre, confidence)), "did not differ significantly between")
})

test_that("what groups cannot answer is refused by name", {
  learners <- demo_study("learners")
  expect_error(relate(learners, centre, speaking_score, expect = "positive"), "Eta has no direction")
  expect_error(relate(learners, centre, speaking_score, given = age_years), "not available with controlled variables")
  expect_error(relate(learners, centre, speaking_score, coefficient = "spearman"), "unordered categories")
  expect_error(relate(learners, age_years, speaking_score, coefficient = "eta"), "takes one nominal or binary variable")
  expect_error(fit_line(learners, centre, speaking_score), "contains text")
  expect_error(plan_size(coefficient = "eta", r = 0.3, power = 0.8), class = "unsere_error_usage")
  names <- data.frame(who = paste("person", 1:40), v = 1:40)
  expect_error(relate(as_study(names), who, v), "names or free answers, not groups", class = "unsere_error_input")
})

test_that("groups made from the other variable, small groups and unequal spreads are told", {
  codes <- function(data, x, y) relate(data, x, y)$cautions$code
  graded <- data.frame(total = c(50:99, 60:89))
  graded$grade <- cut(graded$total, c(0, 60, 70, 80, 90, 100), c("F", "D", "C", "B", "A"))
  graded$grade <- as.character(graded$grade)
  expect_true("made_groups" %in% codes(graded, "grade", "total"))
  expect_match(in_words(relate(graded, grade, total)), "made from the other")
  set.seed(9)
  uneven <- data.frame(g = rep(c("a", "b", "c"), c(60, 30, 10)), v = rnorm(100) * rep(c(1, 2, 6), c(60, 30, 10)))
  expect_true("unequal_groups" %in% codes(uneven, "g", "v"))
  small <- data.frame(g = rep(c("a", "b", "c"), c(30, 30, 3)), v = rnorm(63))
  expect_true("small_groups" %in% codes(small, "g", "v"))
  expect_false(any(c("made_groups", "unequal_groups") %in% codes(small, "g", "v")))
})

test_that("a matrix takes groups on request alone, with the pair's own figures", {
  learners <- demo_study("learners")
  expect_identical(correlation_matrix(learners, centre, speaking_score, age_years)$left_out$nominal, "centre")
  found <- correlation_matrix(learners, centre, speaking_score, age_years, coefficient = "eta")
  expect_identical(found$pairs$x, c("centre", "centre"))
  one <- relate(learners, centre, speaking_score)
  expect_equal(unlist(found$pairs[1, c("r", "ci_low", "ci_high", "p")]), unlist(one[c("r", "ci_low", "ci_high", "p")]))
  expect_true(is.na(found$variables$mean[1]))
})
