test_that("the density of r is one, and is that of Student's t where nothing is correlated", {
  for (n in c(5, 12, 60)) for (rho in c(-.8, 0, .3)) {
    area <- integrate(unsere:::density_of_r, -1 + 1e-12, 1 - 1e-12, rho = rho, n = n, rel.tol = 1e-9)$value
    expect_equal(area, 1, tolerance = 1e-6)
  }
  r <- c(-.4, .1, .5)
  by_t <- dt(r * sqrt(18 / (1 - r^2)), 18) * sqrt(18) / (1 - r^2)^1.5
  expect_equal(unsere:::density_of_r(r, 0, 20), by_t, tolerance = 1e-10)
})

test_that("planned power is what simulation finds, for each coefficient", {
  set.seed(77)
  found <- function(n, draw) {
    p <- replicate(3000, {
      pair <- draw(n)
      r <- sum((pair[[1]] - mean(pair[[1]])) * (pair[[2]] - mean(pair[[2]]))) /
        sqrt(sum((pair[[1]] - mean(pair[[1]]))^2) * sum((pair[[2]] - mean(pair[[2]]))^2))
      2 * pt(-abs(r * sqrt((n - 2) / (1 - r^2))), n - 2)
    })
    mean(p < .05)
  }
  normal <- function(rho) {
    function(n) {
      x <- rnorm(n)
      list(x, rho * x + sqrt(1 - rho^2) * rnorm(n))
    }
  }
  for (n in c(12, 40)) expect_lt(abs(plan_size(r = .4, n = n)$power - found(n, normal(.4))), .03)
  ranked <- function(n) lapply(normal(2 * sin(pi * .4 / 6))(n), rank)
  expect_lt(abs(plan_size("spearman", r = .4, n = 40)$power - found(40, ranked)), .03)
  groups <- function(n) {
    g <- rep(0:1, length.out = n)
    list(g, rnorm(n) + g * 2 * .4 / sqrt(1 - .16))
  }
  expect_lt(abs(plan_size("point-biserial", r = .4, n = 40)$power - found(40, groups)), .03)
})

test_that("the power of ranks is that of the test as made: of its first clear value, and of the spread there", {
  set.seed(78)
  for (n in c(6, 9)) for (level in c(.05, .01)) {
    # S of orders further and further from the first.
    orders <- Reduce(function(order, step) replace(order, step + 0:1, order[step + 1:0]), rep(seq_len(n - 1), n / 2),
      seq_len(n),
      accumulate = TRUE
    )
    found <- lapply(unique(orders), function(y) relate(data.frame(x = 1:n, y = y), x, y, coefficient = "tau-b"))
    limit <- unsere:::kendall_limit(n, level / 2)
    for (one in found) expect_identical(one$p < level, abs(one$r) > limit)
    ranked <- lapply(unique(orders), function(y) relate(data.frame(x = 1:n, y = y), x, y, coefficient = "spearman"))
    limit <- unsere:::spearman_limit(n, level / 2)
    for (one in ranked) expect_identical(one$p < level, abs(one$r) > limit)
  }
  n <- 12
  drawn <- function(rho, size) {
    replicate(4000, {
      x <- rnorm(n)
      size(x, rho * x + sqrt(1 - rho^2) * rnorm(n))
    })
  }
  by_rank <- drawn(2 * sin(pi * .5 / 6), function(x, y) 1 - 6 * sum((rank(x) - rank(y))^2) / (n * (n^2 - 1)))
  by_order <- drawn(sin(pi * .5 / 2), function(x, y) {
    sum(sign(outer(x, x, `-`)) * sign(outer(y, y, `-`))) / (n * (n - 1))
  })
  clear <- function(r, limit) mean(abs(r) > limit(n, .025))
  expect_lt(abs(plan_size("spearman", r = .5, n = n)$power - clear(by_rank, unsere:::spearman_limit)), .025)
  expect_lt(abs(plan_size("tau-b", r = .5, n = n)$power - clear(by_order, unsere:::kendall_limit)), .025)
  # Of few cases the tails are their own: shares of 150,000 simulated samples.
  strict <- vapply(c(.5, .7, .85), function(r) plan_size("spearman", r = r, n = 10, alpha = .01)$power, 0)
  expect_lt(max(abs(strict - c(.0946, .2863, .6322))), .01)
})

test_that("the number found is the least that does it, in both directions and by width", {
  for (asked in list(
    list(r = .3, power = .8), list(r = -.5, power = .9, expect = "negative"),
    list(coefficient = "tau-b", r = .25, power = .8)
  )) {
    plan <- do.call(plan_size, asked)
    again <- function(n) do.call(plan_size, c(asked[setdiff(names(asked), "power")], list(n = n)))$power
    expect_gte(again(plan$n), asked$power)
    expect_lt(again(plan$n - 1), asked$power)
  }
  wide <- plan_size(r = .3, half_width = .1)
  expect_lte(wide$half_width, .1)
  expect_gt(plan_size(r = .3, n = wide$n - 1)$half_width, .1)
  smallest <- plan_size(n = 60, power = .8)
  expect_equal(plan_size(r = smallest$r, n = 60)$power, .8, tolerance = 1e-5)
})

test_that("classes, missing values, several tests, ranges and comparisons are allowed for", {
  plain <- plan_size(r = .3, power = .8)
  given <- plan_size(r = .3, power = .8, design_effect = 2, missing = .1)
  expect_equal(given$n_to_draw, ceiling(plain$n * 2 / .9))
  expect_equal(plan_size(r = .3, power = .8, tests = 10)$alpha, .005)
  range <- plan_size(r = c(.2, .4), power = .8)
  expect_equal(vapply(range$range, `[[`, 0, "n"), c(plan_size(r = .2, power = .8)$n, plan_size(r = .4, power = .8)$n))
  expect_match(in_words(plan_size(r = .5, other = .2, power = .8)), "in each of the two groups")
  expect_match(paste(format(plan_size(r = .3, n = 60)), collapse = " "), "for planning")
  expect_s3_class(draw_plan(range), "ggplot")
})

test_that("with classes the number of classes counts: degrees of freedom, unequal sizes, strata", {
  plan <- plan_size(r = .3, power = .8, class_size = 20, icc = c(.3, .2), class_cv = .5, missing = .1, strata = 2)
  expect_equal(plan$design_effect, 1 + (18 * 1.25 - 1) * .06)
  expect_equal(plan$df, plan$classes - 2)
  expect_equal(plan$n_to_draw, plan$classes * 20)
  again <- function(classes) {
    plan_size(
      r = .3, classes = classes, class_size = 20, icc = c(.3, .2), class_cv = .5, missing = .1, strata = 2
    )$power
  }
  expect_equal(again(plan$classes), plan$power)
  expect_gte(plan$power, .8)
  expect_lt(again(plan$classes - 1), .8)
  # As many cases in fewer classes tell less, and less than a design effect alone would.
  few <- plan_size(r = .3, n = 240, classes = 4, icc = .1)
  expect_lt(few$power, plan_size(r = .3, n = 240, classes = 12, icc = .1)$power)
  expect_lt(few$power, plan_size(r = .3, n = 240, design_effect = few$design_effect)$power - .1)
  expect_match(in_words(plan), "in [0-9]+ classes of 20 on average.*degrees of freedom")
  # Through relate() itself, on data with that likeness.
  set.seed(79)
  clear <- mean(replicate(250, {
    class <- rep(1:8, each = 15)
    of_class <- rnorm(8)
    of_case <- rnorm(120)
    with <- function(v) .35 * v + sqrt(1 - .35^2) * rnorm(length(v))
    data <- data.frame(
      x = sqrt(.2) * of_class[class] + sqrt(.8) * of_case, y = sqrt(.2) * with(of_class)[class] + sqrt(.8) * with(of_case),
      class
    )
    relate(set_design(data, cluster = class), x, y)$p < .05
  }))
  expect_lt(abs(clear - plan_size(r = .35, n = 120, classes = 8, icc = .2)$power), .09)
})

test_that("a plan that says too much, too little or the impossible gets one line", {
  refused <- function(..., class = "unsere_error_usage") expect_error(plan_size(...), class = class)
  refused()
  refused(r = .3)
  refused(r = 0, power = .8)
  refused(r = .3, power = .8, half_width = .1)
  refused(r = .3, power = .8, n = 50)
  refused(r = .3, power = 1)
  refused(r = .3, power = .8, icc = .2)
  refused(r = .3, power = .8, strata = 3)
  refused(r = .3, power = .8, classes = 5, icc = .2)
  refused(r = .3, n = 40, classes = 2, icc = .2)
  refused(coefficient = "phi", r = .3, power = .8)
})
