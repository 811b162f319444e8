# Cases chosen by two columns together, and one column that bounds the other.

edge_of <- function(data) {
  relation <- relate(data, x, y)
  at <- match("empty_corner", relation$cautions$code)
  if (!is.na(at)) c(list(severity = relation$cautions$severity[at], seen = relation$r), relation$cautions$figures[[at]])
}

chosen <- function(n, rho, weights, height) {
  x <- rnorm(20 * n)
  y <- rho * x + sqrt(1 - rho^2) * rnorm(20 * n)
  some <- which(weights[1] * x + weights[2] * y >= height)[seq_len(n)]
  data.frame(x = x[some], y = y[some])
}

test_that("of cases chosen by a sum the edge is told, and r of all that they were chosen from", {
  set.seed(81)
  for (case in list(
    list(rho = 0, weights = c(1, 1), height = 0), list(rho = .4, weights = c(.5, 1), height = 1),
    list(rho = .3, weights = c(-1, -1), height = .5), list(rho = 0, weights = c(1, -1), height = .4)
  )) {
    told <- Filter(Negate(is.null), lapply(1:12, function(k) edge_of(chosen(400, case$rho, case$weights, case$height))))
    expect_gt(length(told), 7)
    figure <- function(name) vapply(told, function(one) one[[name]][1], 0)
    expect_lt(abs(mean(figure("r")) - case$rho), .15)
    expect_gt(abs(mean(figure("seen")) - case$rho), .25)
    slant <- vapply(told, function(one) atan2(one$weights[2], one$weights[1]), 0)
    expect_lt(max(abs(slant - atan2(case$weights[2], case$weights[1]))), .1)
    share <- stats::pnorm(case$height / sqrt(sum(case$weights^2) + 2 * case$rho * prod(case$weights)), lower.tail = FALSE)
    expect_lt(abs(mean(figure("share")) - share), .12)
  }
  expect_true(all(vapply(told, `[[`, "", "severity") %in% c("serious", "warning")))
})

test_that("where nothing clear is left among all, the sentence says so", {
  set.seed(82)
  test <- round(rnorm(900, 500, 90))
  interview <- round(rnorm(900, 30, 6))
  data <- data.frame(x = test, y = interview)[test / 10 + 2 * interview >= 118, ]
  relation <- relate(data, x, y)
  expect_lt(relation$ci_high, 0)
  expect_match(in_words(relation), "slanting edge, .* r would be about")
  text <- gsub("\\s+", " ", paste(format(relation), collapse = " "))
  expect_match(text, "no case lies where [0-9.]+ . x \\+ y is below 5[89]")
  expect_match(text, "they are [234][0-9]% of all")
})

test_that("what bounds the other is told as that", {
  set.seed(83)
  enrolled <- round(rnorm(300, 60, 15))
  present <- round(enrolled * (1 - rexp(300, 8)))
  told <- edge_of(data.frame(x = enrolled, y = present))
  expect_identical(told[c("severity", "bound")], list(severity = "warning", bound = TRUE))
  data <- data.frame(x = present, y = enrolled)
  expect_match(gsub("\\s+", " ", paste(format(relate(data, x, y)), collapse = " ")), "x is never above y, and cases crowd")
})

test_that("corners, ends, curves, scatter to one side and few values are no such edge", {
  set.seed(84)
  n <- 300
  x <- rnorm(n)
  none <- list(
    normal = function() data.frame(x = rnorm(n), y = rnorm(n)), corner = function() data.frame(x = rexp(n), y = rexp(n)),
    square = function() data.frame(x = runif(n), y = runif(n)), arc = function() data.frame(x, y = x^2 + rnorm(n) / 5),
    tail = function() data.frame(x, y = 3 + x + rexp(n)), fan = function() data.frame(x = abs(x), y = x * rnorm(n)),
    end = function() data.frame(x = x <- rexp(n), y = x + .3 * rnorm(n)), both = function() data.frame(x, y = x + runif(n)),
    capped = function() data.frame(x = pmin(x, 1), y = pmin(x / 2 + rnorm(n), 1)),
    counts = function() data.frame(x = rbinom(n, 30, .5), y = rbinom(n, 30, .5))
  )
  told <- unlist(lapply(none, function(draw) replicate(6, !is.null(edge_of(draw())))))
  expect_lt(mean(told), .05)
  few <- chosen(300, 0, c(1, 1), 0)
  expect_null(edge_of(round(2 * few)))
  expect_null(edge_of(utils::head(few, 99)))
})
