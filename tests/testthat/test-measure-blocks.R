# Measures of classes that were added to persons, known by their values.

test_that("values that come in blocks are known, scores and steps of persons are not", {
  set.seed(1)
  marked <- function(draw, runs = 60) mean(replicate(runs, !is.null(blocks_of_values(draw()))))
  added <- function(m, size, draw) function() sample(rep(draw(m), size))
  expect_gt(marked(added(10, 10, function(m) round(rnorm(m, 50, 10), 1))), .9)
  expect_gt(marked(added(20, 25, rnorm)), .9)
  expect_gt(marked(added(5, 20, function(m) round(rnorm(m, 50, 10), 1))), .6)
  persons <- list(
    function() round(rnorm(100, 50, 10), 1), function() rpois(100, 4), function() round(rexp(100, .2) * 2) / 2,
    function() sample(c(1, 1.3, 1.7, 2, 2.3, 2.7, 3, 3.3, 3.7, 4), 100, TRUE),
    function() round(100 * rbinom(100, 7, .6) / 7, 1),
    function() sample(c(4.99, 9.99, 14.99, 19.99, 29.99, 49.99), 150, TRUE),
    function() sample(c(.5, 1, 2, 4, 8, 16), 120, TRUE), function() round(2000 * 1.07^sample(0:12, 200, TRUE), 2),
    function() round(rowMeans(matrix(sample(1:5, 600, TRUE), 200)), 2)
  )
  expect_identical(vapply(persons, marked, 0), rep(0, length(persons)))
  values <- c(20.5, 31.2, 21.7, 20.9, 27.8)
  expect_identical(blocks_of_values(rep(c(values, NA), 20)), rep(c(1L, 5L, 3L, 2L, 4L, NA), 20))
})

test_that("a measure of classes without a column for them is told, where the other is alike in them", {
  set.seed(3)
  class <- sample(rep(1:10, 10))
  size <- c(18.2, 19.1, 20.4, 22.5, 22.8, 23.9, 26.6, 27.3, 30.7, 34.5)
  data <- data.frame(size = size[class], score = rnorm(10)[class] + rnorm(100), age = rnorm(100, 30))
  told <- function(x, y) {
    found <- cautions(relate(data, x, y))
    found$figures[[match("clustered_cases", found$code)]]
  }
  figures <- told("size", "score")
  expect_identical(figures[c("group", "classes", "by_values")], list(group = "size", classes = 10L, by_values = TRUE))
  classed <- set_variable(as_study(cbind(data, class = letters[class])), "class", role = "group")
  named <- cautions(relate(classed, "size", "score"))
  expect_equal(figures[c("low", "high")], named$figures[[match("clustered_cases", named$code)]][c("low", "high")])
  told <- gsub("\\s+", " ", paste(format(relate(data, "size", "score")), collapse = " "))
  expect_match(told, "as if it had been measured once per class or day")
  expect_false("clustered_cases" %in% cautions(relate(data, "size", "age"))$code)
})

test_that("numbered units with a measure of their own are classes by any name; steps and years are none", {
  set.seed(6)
  essay <- rep(1:25, each = 4)
  ability <- rnorm(25)
  data <- data.frame(
    essay,
    words = round(300 + 60 * ability + rnorm(25, 0, 40))[essay], score = ability[essay] + rnorm(100, 0, .6),
    minutes = rexp(100), age = sample(18:37, 100, TRUE)
  )
  data$born <- 2026 - data$age
  shuffled <- data[sample(100), ]
  for (table in list(data, shuffled)) {
    found <- relate(table, words, score)
    expect_identical(found$ci_method, "clusters")
    expect_identical(found$cautions$figures[[1]]$group, "essay")
  }
  expect_named(class_columns(as_study(data)), "essay")
  # What is suggested first is of measures.
  expect_match(paste(format(overview(as_study(data))), collapse = " "), "Then: relate\\(study, words, score\\)")
})
