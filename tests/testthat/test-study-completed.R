set.seed(4)
whole <- data.frame(id = sprintf("p%03d", 1:160), class = rep(sprintf("c%02d", 1:16), each = 10))
shared <- rnorm(16)[rep(1:16, each = 10)]
whole$x <- shared + rnorm(160)
whole$z <- rnorm(160)
whole$y <- .5 * whole$x + .3 * shared + rnorm(160)
whole$x2 <- .6 * whole$x + rnorm(160)
for (k in 1:4) whole[[paste0("i", k)]] <- round(3 + whole$x + rnorm(160))
sets <- lapply(1:5, function(k) {
  set.seed(100 + k)
  whole$y[1:50] <- .5 * whole$x[1:50] + rnorm(50)
  whole$i3[1:50] <- round(3 + whole$x[1:50] + rnorm(50))
  whole$y2 <- .6 * whole$y + rnorm(160)
  whole
})
study <- set_variable(set_imputed(sets), "id", role = "case")

# Rubin's rules longhand, for estimates on a scale on which they are normal, with their standard errors.
rubin <- function(z, se) {
  m <- length(z)
  c(mean(z), sqrt(mean(se^2) + (1 + 1 / m) * sum((z - mean(z))^2) / (m - 1)))
}
of_interval <- function(low, high, df) (atanh(high) - atanh(low)) / 2 / qt(.975, df)

test_that("levels, choices, waves and items of imputed data are those of each set, pooled", {
  told <- relate_levels(study, x, y, group = class)
  each <- lapply(sets, function(one) relate_levels(one, x, y, group = class)$levels)
  for (row in 1:3) {
    se <- vapply(each, function(one) of_interval(one$ci_low[row], one$ci_high[row], one$df[row]), 0)
    expected <- rubin(atanh(vapply(each, function(one) one$r[row], 0)), se)
    expect_equal(atanh(told$levels$r[row]), expected[1])
    expect_equal(of_interval(told$levels$ci_low[row], told$levels$ci_high[row], told$levels$df[row]), expected[2])
    expect_lt(told$levels$df[row], each[[1]]$df[row])
  }
  # What was not imputed is as before.
  expect_equal(told$likeness$icc[1], relate_levels(sets[[1]], x, y, group = class)$likeness$icc[1])
  expect_match(in_words(told), "5 completed data sets by Rubin's rules")

  items <- check_items(study, i1, i2, i3, i4)
  alphas <- vapply(sets, function(one) check_items(one, i1, i2, i3, i4)$alpha, 0)
  expect_equal(log(1 - items$alpha), mean(log(1 - alphas)))
  expect_true(all(items$alpha_low < alphas & alphas < items$alpha_high))

  choices <- vary_choices(study, x, y, given = z, permutations = 99, seed = 1)
  pearson <- choices$choices[choices$choices$coefficient == "pearson" & choices$choices$controls == "none", ]
  expect_equal(pearson$r, relate(study, x, y)$r)
  expect_lte(choices$p, .02)

  waves <- relate_waves(study, c(x, x2), c(y, y2))
  of_set <- lapply(sets, function(one) relate_waves(one, c(x, x2), c(y, y2)))
  mean_z <- rowMeans(vapply(of_set, function(one) atanh(one$relations$r), numeric(nrow(waves$relations))))
  expect_equal(atanh(waves$relations$r), mean_z)
  expect_equal(waves$differences$difference, mean(vapply(of_set, function(one) one$differences$difference, 0)))
  fields <- lapply(list(told, items, choices, waves), function(one) jsonlite::fromJSON(in_json(one))[c("sets", "imputed")])
  expect_identical(unique(fields), list(list(sets = 5L, imputed = TRUE)))
})

test_that("plausible values are pooled in the same questions, and data without either say nothing of sets", {
  values <- data.frame(class = whole$class, x = whole$x, a = sets[[1]]$y, b = sets[[2]]$y, c = sets[[3]]$y)
  scored <- set_plausible(values, "score", c(a, b, c))
  told <- relate_levels(scored, x, score, group = class)
  each <- lapply(c("a", "b", "c"), function(name) relate_levels(values, "x", name, group = "class")$levels$r[3])
  expect_equal(atanh(told$levels$r[3]), mean(atanh(unlist(each))))
  expect_match(in_words(told), "3 plausible values")
  expect_null(relate_levels(whole, x, y, group = class)$sets)
  expect_no_match(in_words(check_items(whole, i1, i2, i3)), "pooled")
})
