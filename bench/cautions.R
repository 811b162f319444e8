# How often each caution fires: on clean data, where it should not, and on data with a planted trouble, where it should.
library(unsere)
runs <- as.integer(Sys.getenv("RUNS", "2000"))
set.seed(as.integer(Sys.getenv("SEED", "1")))

normal <- function(n, rho) {
  x <- rnorm(n)
  data.frame(x, y = rho * x + sqrt(1 - rho^2) * rnorm(n))
}
scale_of <- function(v) cut(v, c(-Inf, -1.2, -.4, .4, 1.2, Inf), labels = FALSE)
clean <- list(
  "normal, n = 30" = function() normal(30, sample(c(0, .3, .6), 1)),
  "normal, n = 100" = function() normal(100, sample(c(0, .3, .6), 1)),
  "normal, n = 300" = function() normal(300, sample(c(0, .3, .6), 1)),
  "5-point scales, n = 100" = function() as.data.frame(lapply(normal(100, sample(c(0, .3, .6), 1)), scale_of)),
  "binary split, n = 100" = function() {
    data <- normal(100, .3)
    data.frame(x = ifelse(data$x > 0, "yes", "no"), y = data$y)
  },
  "normal in 5 groups, n = 100" = function() data.frame(normal(100, .3), g = rep(letters[1:5], 20)),
  "3 columns of words, n = 200" = function() {
    words <- lapply(c(2, 4, 10), function(k) sample(letters[seq_len(k)], 200, TRUE))
    data.frame(normal(200, sample(c(0, .3, .6), 1)), a = words[[1]], b = words[[2]], c = words[[3]])
  },
  "normal, n = 1000" = function() normal(1000, sample(c(0, .3, .6), 1)),
  "5-point scales, n = 40" = function() as.data.frame(lapply(normal(40, sample(c(0, .3, .6), 1)), scale_of)),
  "8 agreement items, n = 150" = function() {
    common <- rnorm(150)
    items <- as.data.frame(lapply(1:8, function(k) scale_of(.6 * common + .8 * rnorm(150))))
    stats::setNames(items, c("x", "y", paste0("q", 3:8)))
  },
  "12 tight items, n = 150" = function() {
    common <- rnorm(150)
    items <- as.data.frame(lapply(1:12, function(k) scale_of(.9 * common + .45 * rnorm(150))))
    stats::setNames(items, c("x", "y", paste0("q", 3:12)))
  },
  "whole numbers and counts, n = 100" = function() {
    data.frame(x = round(rnorm(100, 50, 10)), y = round(rnorm(100, 20, 5), 2), size = sample(10:40, 100, TRUE))
  },
  "positive measures and sizes, n = 100" = function() {
    data.frame(
      x = round(rgamma(100, 12), 1), y = round(rgamma(100, 12, .1), 1), people = round(exp(rnorm(100, 9, .8))),
      a = rpois(100, 30) + 1, b = round(runif(100, 1, 9), 2)
    )
  },
  "sorted by what both go with, n = 100" = function() {
    z <- sort(rnorm(100))
    data.frame(x = z + rnorm(100), y = z + rnorm(100), z)
  },
  "in order of the cases' numbers, n = 100" = function() data.frame(no = cumsum(sample(3, 100, TRUE)), normal(100, .6)),
  "percentages of 7, n = 100" = function() {
    data.frame(x = round(100 * rbinom(100, 7, .6) / 7, 1), y = rnorm(100))
  },
  "scores made from sums, n = 150" = function() {
    sum <- rbinom(150, 12, rbeta(150, 2, 2))
    data.frame(x = round(qlogis((sum + .7) / 13.4), 2), y = sum / 4 + rnorm(150))
  },
  "a measure of 10 classes in which none is alike, n = 100" = function() {
    data.frame(x = sample(rep(round(rnorm(10, 24, 5), 1), 10)), y = rnorm(100))
  },
  "with 6 other measures, n = 100" = function() data.frame(normal(100, .3), matrix(rnorm(600), 100))
)
trouble <- list(
  "clustered_cases, by a measure of 10 classes" = function() {
    class <- sample(rep(1:10, 10))
    data.frame(x = round(rnorm(10, 24, 5), 1)[class], y = .63 * rnorm(10)[class] + .77 * rnorm(100))
  },
  one_case = function() {
    data <- normal(100, 0)
    data[1, ] <- c(7, 7)
    data
  },
  curved = function() {
    x <- runif(100, 0, 10)
    data.frame(x, y = log(x + .3) + rnorm(100, sd = .4))
  },
  uneven_spread = function() {
    x <- runif(100, 1, 10)
    data.frame(x, y = x + .5 * x * rnorm(100))
  },
  mixed_groups = function() {
    g <- rep(1:4, 25)
    data.frame(x = g * 2 + rnorm(100), y = g * 2 + rnorm(100), g = letters[g])
  },
  "mixed_groups, undeclared" = function() {
    class <- rep(1:4, 25)
    own <- rnorm(100)
    data.frame(x = class * 2 + own, y = class * 2 - .8 * own + .6 * rnorm(100), form = letters[class])
  },
  "mixed_groups, one turns round" = function() {
    part <- rep(1:4, 50)
    x <- rnorm(200)
    data.frame(x, y = ifelse(part == 1, -.7, .7) * x + rnorm(200), g = letters[part])
  },
  "uneven_spread, from the middle" = function() {
    x <- rnorm(100)
    data.frame(x, y = x + (.3 + abs(x)) * rnorm(100))
  },
  "curved, a wave" = function() {
    x <- runif(100, 0, 10)
    data.frame(x, y = sin(x * 1.2) + rnorm(100, sd = .5))
  },
  repeated_rows = function() {
    data <- data.frame(id = sprintf("P%03d", 1:100), round(normal(100, .3), 3), matrix(sample(5, 1000, TRUE), 100))
    data[100, -1] <- data[7, -1]
    data
  },
  "floor_or_ceiling, 60 % on 5 points" = function() {
    data <- normal(100, .5)
    data.frame(x = data$x, y = as.integer(cut(data$y, c(-Inf, stats::qnorm(c(.05, .1, .2, .4)), Inf))))
  },
  "alike_neighbours, walks of 60" = function() data.frame(x = cumsum(rnorm(60)), y = cumsum(rnorm(60))),
  "alike_neighbours, trends of 60" = function() data.frame(x = 1:60 / 20 + rnorm(60), y = 1:60 / 20 + rnorm(60)),
  "alike_neighbours, r of the next .7" = function() {
    series <- function() as.numeric(stats::filter(rnorm(60), .7, "recursive"))
    data.frame(x = series(), y = series())
  },
  "shared_trend, year not declared" = function() {
    data.frame(year = 1961:2000, x = 1:40 / 5 + rnorm(40), y = 1:40 / 5 + rnorm(40))
  },
  floor_or_ceiling = function() {
    data <- normal(100, .6)
    data$y <- pmin(round(data$y, 1), .6)
    data
  },
  part_whole = function() {
    parts <- data.frame(x = round(rnorm(100), 2), a = round(rnorm(100), 2), b = round(rnorm(100), 2))
    data.frame(parts, y = rowSums(parts))
  },
  "part_whole, right/wrong of 40 items" = function() {
    items <- as.data.frame(matrix(stats::rbinom(8000, 1, .6), 200))
    data.frame(x = items[[1]], items[-1], y = rowSums(items))
  },
  "part_whole, rounded mean of 8 items" = function() {
    items <- as.data.frame(matrix(sample(5, 1600, TRUE), 200))
    data.frame(x = items[[1]], items[-1], y = round(rowMeans(items), 2))
  },
  "part_whole, gain beside its start" = function() {
    before <- round(rnorm(100, 50, 10))
    after <- round(25 + before / 2 + rnorm(100, sd = 8))
    data.frame(x = before, y = after - before, after)
  },
  "part_whole, ratio with its base" = function() {
    pupils <- sample(80:900, 60, TRUE)
    books <- round(pupils * runif(60, 5, 15))
    data.frame(x = round(books / pupils, 1), y = pupils, books)
  },
  "part_whole, shares of 4 in per cent" = function() {
    parts <- matrix(rexp(400), 100)
    parts <- as.data.frame(round(100 * parts / rowSums(parts)))
    stats::setNames(parts, c("x", "y", "a", "b"))
  },
  "shared_denominator, counts not in the file" = function() {
    people <- round(exp(rnorm(100, 9, .8)))
    rate <- function(mean) round(1000 * rpois(100, mean) / people, 2)
    data.frame(people, x = rate(150), y = rate(40))
  },
  "empty_corner, the upper half by a sum, n = 400" = function() {
    data <- normal(2000, .3)
    utils::head(data[data$x + data$y > 0, ], 400)
  },
  "empty_corner, a tenth by unequal weights, n = 400" = function() {
    data <- normal(9000, .5)
    utils::head(data[.5 * data$x + data$y > 1.7, ], 400)
  },
  "group_averages, by decimals" = function() {
    size <- sample(12:30, 60, TRUE)
    data.frame(x = round(rnorm(60, 20, 3), 1), y = round(vapply(size, function(k) mean(sample(0:20, k, TRUE)), 0), 2), size)
  },
  group_averages = function() data.frame(g = sprintf("town %d", 1:100), normal(100, .5)),
  codes_not_numbers = function() {
    data <- abs(normal(100, .3))
    data$x[1:3] <- -9
    data
  },
  same_measure = function() transform(data.frame(x = rnorm(100)), y = 2 * x + 1),
  shared_trend = function() data.frame(t = 1901:2000, x = 1:100 / 10 + rnorm(100), y = 1:100 / 10 + rnorm(100))
)
fired <- function(data) {
  study <- as_study(data)
  if ("g" %in% names(data)) study <- set_variable(study, "g", role = "group", level = "nominal")
  if ("t" %in% names(data)) study <- set_variable(study, "t", role = "time")
  relate(study, "x", "y")$cautions
}
cat(sprintf("Clean data: share of %d runs with each caution, and with any warning or serious one\n\n", runs))
for (name in names(clean)) {
  found <- lapply(seq_len(runs), function(i) fired(clean[[name]]()))
  any_grave <- mean(vapply(found, function(rows) any(rows$severity != "note"), NA))
  each <- table(unlist(lapply(found, function(rows) unique(rows$code)))) / runs
  shares <- paste(sprintf("%s %.3f", names(each), each), collapse = ", ")
  cat(sprintf("%-39s any warning or serious %.3f   %s\n", name, any_grave, shares))
}
cat(sprintf(
  "\nPlanted trouble, n = 100 where no other is given: share of %d runs in which it is named\n\n",
  max(200, runs / 10)
))
for (code in names(trouble)) {
  wanted <- sub(",.*$", "", code)
  named <- mean(replicate(max(200, runs / 10), wanted %in% fired(trouble[[code]]())$code))
  cat(sprintf("%-36s %.3f\n", code, named))
}
data <- data.frame(normal(1000, .3), matrix(rnorm(6000), 1000), g = rep(letters[1:5], 200), t = 1:1000)
study <- set_variable(set_variable(as_study(data), "g", role = "group"), "t", role = "time")
relation <- relate(study, "x", "y")
found <- list(estimate = relation$estimate, p = relation$p, alpha = 0.05, scale = relation$scale)
took <- system.time(for (i in 1:20) unsere:::find_cautions(relation$sample, found))[["elapsed"]] / 20
cat(sprintf("\nAll cautions on one pair of 1,000 cases, with groups, time and 6 other measures: %.1f ms\n", 1000 * took))
