# Figures at the sizes at which they are drawn: no text leaves the picture, lies on another or is too small to be read.

questions <- function(n = 90) {
  set.seed(12)
  ability <- rnorm(n)
  scale <- c("Strongly disagree", "Disagree", "Neither agree nor disagree", "Agree", "Strongly agree")
  item <- function() {
    at <- cut(ability + rnorm(n), c(-Inf, -1.2, -.4, .4, 1.2, Inf), labels = FALSE)
    factor(scale[at], scale, ordered = TRUE)
  }
  stem <- "How far do you agree with each of these statements about the course? - "
  data <- data.frame(
    pmin(10, pmax(0, round(5 + 2 * ability + rnorm(n)))), round(exp(1 + ability / 3 + rnorm(n, sd = .3)), 1),
    sample(c("Harbour", "Canal", "Mill by the old town wall"), n, TRUE), item(), item()
  )
  names(data) <- c(
    "On a scale from 0 to 10, how likely is it that you would recommend the evening school to a friend?",
    "How many hours a week do you practise outside the class, counting everything from films to flash cards?",
    "Which centre do you attend?", paste0(stem, "I look forward to the evening class"),
    paste0(stem, "Mistakes help me to learn")
  )
  as_study(data)
}

faults_at <- function(figure, width, height) {
  path <- withr::local_tempfile(fileext = ".svg")
  save_figure(figure, path, width, height)
  text_faults(path)
}

test_that("figures of whole questions fit from 3.3 by 2.5 to 13 by 8 inches", {
  study <- questions()
  name <- codebook(study)$variable
  figures <- list(
    scatter = draw_scatter(study, name[1], name[2]), ordinal = draw_scatter(study, name[4], name[5]),
    groups = draw_scatter(study, name[1], name[2], by = name[3]), means = draw_scatter(study, name[3], name[2]),
    panels = draw_scatter(study, name[1], name[2], by = name[3], panels = TRUE),
    matrix = draw_matrix(correlation_matrix(study)), box = draw_box(study, name[1], name[2]),
    predictors = draw_predictors(rank_predictors(study, name[2], name[1], name[4], name[5])),
    pairs = draw_pairs(study, correlation_matrix(study), most = 4),
    distribution = draw_distribution(study, name[1], name[2], name[4])
  )
  sizes <- list(c(3.3, 2.5), c(6.5, 4), c(7, 5), c(13, 8))
  # Each at two sizes in turn: `make shelf-figures` draws all at all.
  for (at in seq_along(figures)) for (size in sizes[c(1, 3) + at %% 2]) {
    kind <- names(figures)[at]
    if (kind %in% c("pairs", "predictors") && size[1] < 6) next
    expect_identical(faults_at(figures[[kind]], size[1], size[2]), character(), label = paste(kind, toString(size)))
  }
})

test_that("a title keeps what it says at any width, with shorter labels", {
  study <- questions()
  for (width in c(3.3, 5, 9)) {
    path <- withr::local_tempfile(fileext = ".svg")
    save_figure(draw_scatter(study, codebook(study)$variable[1], codebook(study)$variable[2]), path, width, 4)
    boxes <- text_boxes(path)
    title <- boxes$text[boxes$size == max(boxes$size)]
    expect_lte(length(title), 2L)
    expect_match(paste(rev(title), collapse = " "), "= [.]\\d\\d|significant", label = width)
  }
})

test_that("a figure is fitted wherever it is printed, and stays a ggplot that can be added to", {
  study <- questions()
  name <- codebook(study)$variable
  figure <- draw_scatter(study, name[1], name[2]) + ggplot2::labs(title = "Of one's own")
  expect_s3_class(figure, "ggplot")
  path <- withr::local_tempfile(fileext = ".svg")
  ggplot2::ggsave(path, figure, width = 4, height = 3, device = svglite::svglite)
  expect_identical(text_faults(path), character())
  expect_true("Of one's own" %in% text_boxes(path)$text)
})

test_that("two ordinal variables have medians in place of a straight line, on the grid of their values", {
  study <- questions(400)
  layers <- draw_scatter(study, codebook(study)$variable[4], codebook(study)$variable[5])
  expect_match(layers$labels$caption, "median of y at each value of x", fixed = TRUE)
  expect_false(grepl("least squares", layers$labels$caption))
  many <- questions(30000)
  dots <- ggplot2::layer_data(draw_scatter(many, codebook(many)$variable[4], codebook(many)$variable[5]), 1)
  expect_setequal(dots$x, 1:5)
  mixed <- draw_scatter(many, codebook(many)$variable[1], codebook(many)$variable[2])
  expect_true(all(ggplot2::layer_data(mixed, 1)$x == round(ggplot2::layer_data(mixed, 1)$x)))
})

test_that("whole numbers have a bar each, and an axis ends where its scale does", {
  set.seed(4)
  likely <- sample(0:10, 300, TRUE)
  bars <- ggplot2::layer_data(draw_distribution(data.frame(likely, other = rnorm(300)), likely), 1)
  expect_identical(as.integer(bars$ymax), as.vector(table(factor(likely, 0:10))))
  study <- set_variable(as_study(data.frame(mark = pmin(10, likely + 3), y = rnorm(300))), mark, range = "0 to 10")
  built <- ggplot2::ggplot_build(draw_scatter(study, mark, y))
  marks <- built$layout$panel_params[[1]]$x$breaks
  expect_true(all(marks[!is.na(marks)] %in% 0:10))
})

test_that("cases far beyond the others stand at the edge of their panel with their names, unless the whole axis is wanted", {
  set.seed(5)
  data <- data.frame(id = sprintf("P%02d", 1:60), y = rnorm(60), age = c(round(runif(59, 20, 60)), 199), hours = rexp(60))
  ranking <- rank_predictors(data, y, age, hours)
  figure <- draw_predictors(ranking)
  texts <- unlist(lapply(figure$layers, function(layer) layer$data$label))
  expect_true("P60: 199" %in% texts)
  spread <- function(plot) diff(range(ggplot2::ggplot_build(plot)$data[[2]]$x))
  expect_lt(spread(figure), 60)
  expect_gt(spread(draw_predictors(ranking, whole_axes = TRUE)), 100)
})
