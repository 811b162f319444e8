learners <- demo_study("learners")

layers_of <- function(plot) vapply(plot$layers, function(layer) class(layer$geom)[1], "")

test_that("one dot a complete pair, axes from labels and units, n said", {
  plot <- draw_scatter(learners, practice_hours, speaking_score)
  expect_equal(nrow(plot$data), relate(learners, practice_hours, speaking_score)$n)
  expect_equal(plot$labels$x, "Weekly practice (h)")
  expect_equal(plot$labels$y, "Speaking score (points)")
  expect_match(plot$labels$subtitle, "n = 222 complete pairs, 18 excluded")
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

test_that("whatever is drawn together, the label lies on no dot, count or number and inside the panel", {
  words <- data.frame(
    asked = factor(rep(c("never", "rarely", "often", "always"), c(9, 14, 11, 6)), c("never", "rarely", "often", "always"),
      ordered = TRUE
    ),
    level = rep(1:5, 8), time = round(30 + 20 * sin(1:40), 1)
  )
  pairs <- list(
    c("learners", "confidence", "speaking_score"), c("learners", "practice_hours", "speaking_score"),
    c("words", "asked", "level"), c("words", "level", "time")
  )
  studies <- list(learners = learners, words = as_study(words))
  options <- expand.grid(pair = 1:4, means = c(TRUE, FALSE), flat = c(TRUE, FALSE), limits = 1:3)
  for (k in seq_len(nrow(options))) {
    asked <- options[k, ]
    pair <- pairs[[asked$pair]]
    study <- studies[[pair[1]]]
    if (asked$means && length(unique(study$data[[pair[2]]])) > 15) next
    y <- range(as.numeric(study$data[[pair[3]]]), na.rm = TRUE)
    plot <- draw_scatter(study, pair[2], pair[3],
      means = asked$means, flat_line = asked$flat, y_limits = list(NULL, y + c(-1, 1) * diff(y), y)[[asked$limits]]
    )
    label <- Filter(function(layer) inherits(layer$geom, "GeomLabel"), plot$layers)
    if (!length(label)) {
      expect_match(plot$labels$caption, "^r[^.]* = ")
      next
    }
    at <- c(label[[1]]$data$x, label[[1]]$data$y)
    ends <- plot$coordinates$limits
    lines <- strsplit(label[[1]]$aes_params$label, "\n")[[1]]
    right <- at[1] + max(nchar(lines)) * 0.012 * diff(ends$x)
    low <- at[2] - length(lines) * 0.055 * diff(ends$y)
    expect_true(at[1] >= ends$x[1] && right <= ends$x[2] && at[2] <= ends$y[2] && low >= ends$y[1])
    dots <- plot$data
    expect_false(any(dots$x > at[1] & dots$x < right & dots$y > low & dots$y < at[2]))
  }
})

test_that("an axis of a scale has its whole scale and nothing beyond", {
  breaks <- function(plot, side) ggplot2::layer_scales(plot)[[side]]$breaks
  plot <- draw_scatter(learners, confidence, speaking_score, y_limits = c(0, 100))
  expect_equal(breaks(plot, "x"), 1:5)
  expect_true(all(plot$coordinates$limits$x > 0 & plot$coordinates$limits$x < 6))
})

test_that("what many cases make clear and yet is next to nothing is not called rising together", {
  set.seed(62)
  many <- data.frame(x = rnorm(2e5))
  many$y <- 0.03 * many$x + rnorm(40000)
  expect_match(draw_scatter(many, x, y)$labels$title, "Negligible correlation")
  expect_match(draw_scatter(many, x, y)$labels$subtitle, "200,000")
  expect_match(format(relate(many, x, y)), "r = [.]0[0-9]{2} \\[[.]0[0-9]{2}, [.]0[0-9]{2}\\]", all = FALSE)
})

test_that("names of many rows have one line each, a long heading at the left is broken", {
  asked <- sprintf("Question %d that asks for rather more than would fit beside a row", 1:12)
  data <- as.data.frame(matrix(rnorm(360), 30))
  study <- as_study(data, data.frame(variable = names(data), label = asked))
  labels <- ggplot2::ggplot_build(draw_matrix(correlation_matrix(study)))$layout$panel_params[[1]]$y$get_labels()
  labels <- labels[!is.na(labels)]
  expect_length(labels, 12)
  expect_false(any(grepl("\n", labels)))
  path <- withr::local_tempfile(fileext = ".svg")
  save_figure(draw_scatter(study, V1, V2, title = "None"), path, 4, 2.6)
  expect_gte(length(grep("^Question 2 that", text_boxes(path)$text)), 1L)
  expect_identical(text_faults(path), character())
})

test_that("a point far out of sight is refused, one beyond the data is drawn", {
  dial <- demo_study("dial")
  for (at in c(1e308, -1e9, 1e5)) {
    expect_error(draw_scatter(dial, dial, level_db, at = at), "too far from the data", class = "unsere_error_usage")
  }
  expect_error(draw_scatter(dial, dial, level_db, solve = 1e100), "too far from the data", class = "unsere_error_usage")
  expect_error(draw_scatter(dial, dial, level_db, solve = 1e300), "has no limits", class = "unsere_error_undefined")
  expect_s3_class(draw_scatter(dial, dial, level_db, at = 40), "ggplot")
})

test_that("what turns a result round stands on its figure, which travels without the sentence", {
  years <- demo_study("town_years")
  expect_match(
    draw_scatter(years, ebook_loans, cycle_path_km)$labels$subtitle,
    "The correlation may be no more than a shared trend.$"
  )
  expect_no_match(draw_scatter(years, warm_days, pool_visits)$labels$subtitle, "trend")
  expect_null(draw_scatter(years, ebook_loans, cycle_path_km, plain = TRUE)$labels$subtitle)
})
