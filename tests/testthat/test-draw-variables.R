learners <- demo_study("learners")

test_that("bins have round edges, hold every value once, and follow the number asked for", {
  v <- learners$data$commute_min[!is.na(learners$data$commute_min)]
  for (bins in list(NULL, 5, 40)) {
    edges <- unsere:::bin_edges(v, bins)
    expect_true(min(edges) <= min(v) && max(edges) >= max(v))
    expect_equal(edges, round(edges, 6))
    data <- draw_distribution(learners, commute_min, bins = bins)$data
    expect_equal(sum(data$count), length(v))
  }
  expect_gt(length(unsere:::bin_edges(v, 40)), 2 * length(unsere:::bin_edges(v, 5)))
  expect_length(unsere:::bin_edges(c(3, 3, 3)), 2)
})

test_that("titles, notes and axes say what is seen and can be set or left out", {
  figure <- draw_distribution(learners, practice_hours)
  expect_identical(figure$labels$title, "Distribution of weekly practice")
  expect_match(figure$labels$subtitle, "Learner survey, spring . n = 230")
  expect_identical(figure$labels$x, "Weekly practice (h)")
  expect_identical(
    draw_distribution(learners, practice_hours,
      title = "Mine",
      caption = NA
    )$labels[c("title", "caption")],
    list(title = "Mine", caption = NULL)[c("title", "caption")],
    ignore_attr = TRUE
  )
  bare <- draw_box(learners, practice_hours, plain = TRUE)
  expect_null(bare$labels$title)
  expect_null(bare$labels$subtitle)
})

test_that("a binary variable has its two values named, and no mean", {
  data <- draw_distribution(learners, study_partner)$data
  expect_identical(data$label, c("no: 137", "yes: 103"))
  expect_identical(unsere:::breaks_with_room(1)(c(-0.49, 1.49)), 0:1)
  expect_gt(length(unsere:::breaks_with_room(1)(c(0, 100))), 3)
  expect_gt(length(unsere:::breaks_with_room(1)(c(-0.05, 1.05))), 3)
  narrow <- unsere:::breaks_with_room(9)(c(-100, 3100))
  expect_identical(narrow[narrow >= 0 & narrow <= 3100], c(0, 1000, 2000, 3000))
})

test_that("the quantile band holds about 95 of 100 points of a normal sample", {
  inside <- vapply(1:60, function(seed) {
    points <- draw_quantiles(practice_pair(100, 0, seed = seed), x)$data
    mean(points$value >= points$low & points$value <= points$high)
  }, 0)
  expect_equal(mean(inside), .97, tolerance = .03)
})

test_that("names of cases far out never lie on each other, and the farthest are named first", {
  far <- data.frame(value = c(15, 15.2, 15.7, 16, 16, 90), case = letters[1:6])
  placed <- unsere:::name_far_cases(far, far$value - 10, 5, c(0, 90))
  named <- placed[nzchar(placed$label), ]
  expect_setequal(named$label, c("b: 15.2", "c: 15.7", "d, e: 16", "f: 90"))
  at <- named$value / 90
  width <- nchar(named$label) * .0115
  from <- at - at * width
  for (level in unique(named$level)) {
    same <- which(named$level == level)
    same <- same[order(from[same])]
    if (length(same) > 1) expect_true(all(diff(from[same]) >= width[same][-length(same)]))
  }
})

test_that("axis numbers have real minus signs and thousands marks", {
  expect_identical(unsere:::axis_numbers(c(-2, 0, 2, NA)), c("\u22122", "0", "2", ""))
  expect_identical(unsere:::axis_numbers(c(0, 10000)), c("0", "10,000"))
})
