learners <- demo_study("learners")

layers_of <- function(plot) vapply(plot$layers, function(layer) class(layer$geom)[1], "")

test_that("one dot a complete pair, axes from labels and units, n said", {
  plot <- draw_scatter(learners, practice_hours, speaking_score)
  expect_equal(nrow(plot$data), relate(learners, practice_hours, speaking_score)$n)
  expect_equal(plot$labels$x, "Weekly practice (h)")
  expect_equal(plot$labels$y, "Speaking score (points)")
  expect_match(plot$labels$subtitle, "n = 222 complete pairs, 18 left out")
  expect_null(draw_scatter(learners, practice_hours, speaking_score, plain = TRUE)$labels$title)
})

test_that("the label finds the free corner wherever it is", {
  corner <- function(keep) {
    grid <- expand.grid(x = seq(0, 1, .05), y = seq(0, 1, .05))
    grid <- grid[keep(grid), ]
    unsere:::find_free_place(grid$x, grid$y, c(0, 1), c(0, 1), .3, .15)
  }
  upper_left <- corner(function(g) !(g$x < .4 & g$y > .7))
  lower_right <- corner(function(g) !(g$x > .5 & g$y < .3))
  expect_equal(c(upper_left$hidden, lower_right$hidden), c(0, 0))
  expect_true(upper_left$x < .1 && upper_left$y > .85)
  expect_true(lower_right$x > .5 && lower_right$y < .3)
})

test_that("where no place is free the panel grows instead of hiding dots, unless the limits are the user's", {
  set.seed(5)
  full <- data.frame(x = runif(900), y = runif(900))
  top <- function(...) draw_scatter(full, x, y, ...)$coordinates$limits$y[2]
  expect_gt(top(), 1.1)
  expect_equal(top(y_limits = c(0, 2)), 2)
})

test_that("group, names, flat line and limits are as asked", {
  plot <- draw_scatter(learners, commute_min, listening_score,
    by = centre, flat_line = TRUE,
    name_cases = c("L001", "L002"), x_limits = c(0, 90)
  )
  expect_equal(nlevels(plot$data$group), 5)
  expect_true(all(c("GeomHline", "GeomTextRepel") %in% layers_of(plot)))
  expect_equal(plot$coordinates$limits$x, c(0, 90))
  expect_false("GeomLine" %in% layers_of(draw_scatter(learners, commute_min, listening_score, line = FALSE)))
})

test_that("wrong wishes are refused", {
  refused <- function(...) {
    expect_error(draw_scatter(learners, commute_min, listening_score, ...), class = "unsere_error_usage")
  }
  refused(x_limits = 3)
  refused(name_cases = "Nobody")
  refused(by = "learner")
  expect_error(theme_unsere(-1), class = "unsere_error_usage")
})

test_that("the figures look as they did", {
  expect_figure("scatter with line", draw_scatter(learners, practice_hours, speaking_score))
  expect_figure(
    "scatter by group",
    draw_scatter(learners, commute_min, listening_score, by = centre, flat_line = TRUE)
  )
  expect_figure("dial from its line", ggplot2::autoplot(fit_line(demo_study("dial"), dial, level_db)))
})

test_that("a crowd of cases is counted in cells, none left out, and the line lies on top", {
  set.seed(71)
  x <- rnorm(30000)
  figure <- draw_scatter(data.frame(x, y = x + rnorm(30000)), x, y)
  expect_identical(sum(figure$data$count), 30000L)
  expect_lt(nrow(figure$data), 2561)
  expect_match(figure$labels$caption, "counted in cells")
  kinds <- vapply(figure$layers, function(layer) class(layer$geom)[1], "")
  expect_gt(match("GeomLine", kinds), max(which(kinds == "GeomPoint")))
})
