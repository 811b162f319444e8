# How often 95 % intervals hold the truth when cases are drawn by a design, through the functions that users call: classes of
# equal and unequal size, strata with weights tied to y, replicate weights, plausible values, slopes, partial r and
# differences.
# Beside them the interval that takes the cases as drawn one by one. Then how often each verdict on a candidate is given.
library(unsere)
set.seed(19)
runs <- as.integer(Sys.getenv("RUNS", "500"))

# x and y of classes, alike by an intraclass correlation, r as wanted at both levels; z is a third variable tied to both.
classes <- function(count, size, icc = .3, r = .4, unequal = FALSE, noise = stats::rnorm) {
  sizes <- if (unequal) pmax(2L, stats::rpois(count, size * stats::runif(count, .3, 1.7))) else rep(size, count)
  class <- rep(seq_len(count), sizes)
  pair <- function(n, draw) {
    common <- draw(n)
    cbind(common, r * common + sqrt(1 - r^2) * draw(n))
  }
  shared <- pair(count, stats::rnorm)[class, ]
  own <- pair(length(class), noise)
  both <- sqrt(icc) * shared + sqrt(1 - icc) * own
  data.frame(x = both[, 1], y = both[, 2], class = class)
}
t5 <- function(n) stats::rt(n, 5) / sqrt(5 / 3)

held <- function(found, truth) found$ci_low <= truth && truth <= found$ci_high
naive <- function(data, truth) held(relate(data[c("x", "y")], x, y), truth)

of_classes <- function(...) {
  function() {
    data <- classes(...)
    c(held(relate(set_design(data, cluster = class), x, y), .4), naive(data, .4))
  }
}

# A population of classes in strata; those with a higher y are drawn more thinly.
population <- local({
  all <- do.call(rbind, lapply(1:4, function(h) {
    part <- classes(200, 15)
    part$y <- part$y + .5 * h
    part$x <- part$x + .2 * h
    part$class <- part$class + 1000 * h
    part$zone <- h
    part
  }))
  all
})
true_r <- relate(population, x, y)$r
true_slope <- fit_line(population, x, y)$terms$estimate[2]
thinly <- function() {
  taken <- unlist(lapply(1:4, function(h) {
    sample(unique(population$class[population$zone == h]), c(20, 14, 10, 8)[h])
  }))
  data <- population[population$class %in% taken, ]
  data$w <- 200 / c(20, 14, 10, 8)[data$zone]
  data
}
strata <- function() {
  data <- thinly()
  c(held(relate(set_design(data, weight = w, stratum = zone, cluster = class), x, y), true_r), naive(data, true_r))
}
replicates <- function() {
  data <- thinly()
  kinds <- unique(data$class)
  zone <- data$zone[match(kinds, data$class)]
  m <- tabulate(zone, 4)[zone]
  copies <- vapply(seq_along(kinds), function(k) {
    data$w * ifelse(data$class == kinds[k], 0, ifelse(data$zone == zone[k], m[k] / (m[k] - 1), 1))
  }, numeric(nrow(data)))
  colnames(copies) <- paste0("rw", seq_along(kinds))
  study <- set_design(cbind(data, copies),
    weight = w, replicates = "rw*", method = "jackknife-n", factor = (m - 1) / m
  )
  c(held(relate(study, x, y), true_r), naive(data, true_r))
}
slope <- function() {
  data <- thinly()
  term <- function(study) as.list(fit_line(study, x, y)$terms[2, ])
  study <- set_design(data, weight = w, stratum = zone, cluster = class)
  c(held(term(study), true_slope), held(term(data[c("x", "y")]), true_slope))
}
partial <- function() {
  data <- classes(30, 15)
  data$z <- data$x + data$y + stats::rnorm(nrow(data))
  # r of x and y with z held: from the correlations that the construction has.
  all <- stats::setNames(c(.4, 1.4 / sqrt(3.8), 1.4 / sqrt(3.8)), c("xy", "xz", "yz"))
  truth <- (all[["xy"]] - all[["xz"]] * all[["yz"]]) / ((1 - all[["xz"]]^2))
  c(
    held(relate(set_design(data, cluster = class), x, y, given = z), truth),
    held(relate(data[c("x", "y", "z")], x, y, given = z), truth)
  )
}
difference <- function() {
  data <- classes(30, 15)
  data$z <- classes(30, 15)$y
  data$z <- .4 * data$y + sqrt(1 - .16) * data$z
  compare <- function(study) compare_relations(relate(study, x, y), relate(study, z, y))
  c(held(compare(set_design(data, cluster = class)), 0), held(compare(data[c("x", "y", "z")]), 0))
}
plausible <- function() {
  data <- classes(30, 15)
  # The score is known but for an error that each plausible value draws anew from what the data leave open.
  seen <- data$y + stats::rnorm(nrow(data), 0, .6)
  share <- 1 / (1 + .36)
  rest <- sqrt(1 - share)
  slopes <- qr.coef(qr(cbind(1, seen, data$x)), data$y)
  fitted <- as.vector(cbind(1, seen, data$x) %*% slopes)
  spread <- stats::sd(data$y - fitted)
  for (k in 1:5) data[[paste0("pv", k)]] <- fitted + stats::rnorm(nrow(data), 0, spread)
  study <- set_plausible(set_design(data, cluster = class), "score", c(pv1, pv2, pv3, pv4, pv5))
  c(held(relate(study, x, score), .4), held(relate(data[c("x", "pv1")], x, pv1), .4))
}

kinds <- list(
  "8 classes of 20" = of_classes(8, 20), "15 classes of 20" = of_classes(15, 20), "30 classes of 20" = of_classes(30, 20),
  "80 classes of 20" = of_classes(80, 20), "30 classes, unequal" = of_classes(30, 20, unequal = TRUE),
  "30 classes, t with 5 df" = of_classes(30, 20, noise = t5), "30 classes, alike by .1" = of_classes(30, 20, icc = .1),
  "strata, weights tied to y" = strata, "the same by replicates" = replicates, "the same, slope" = slope,
  "partial r, 30 classes" = partial, "difference of two r" = difference, "plausible values" = plausible
)
rates <- t(vapply(kinds, function(one) rowMeans(replicate(runs, one())), c(0, 0)))
cat(sprintf("Share of %d runs in which the 95 %% interval held the truth\n\n", runs))
print(data.frame(drawn = names(kinds), by_design = round(rates[, 1], 3), one_by_one = round(rates[, 2], 3)),
  row.names = FALSE
)

# A candidate c beside x and y, 200 cases.
candidates <- list(
  "common cause of both" = function(c) list(x = .7 * c + .7 * rnorm(200), y = .7 * c + .7 * rnorm(200)),
  "of part of the relation" = function(c) {
    own <- rnorm(200)
    list(x = .5 * c + own, y = .5 * c + .6 * own + rnorm(200))
  },
  "between the two (x to c to y)" = NULL,
  "masks the relation" = function(c) {
    own <- rnorm(200)
    list(x = own + .8 * c, y = .7 * own - .8 * c + .5 * rnorm(200))
  },
  "tied to x alone" = function(c) {
    x <- .6 * c + .8 * rnorm(200)
    list(x = x, y = .5 * x + rnorm(200))
  },
  "tied to y alone" = function(c) {
    x <- rnorm(200)
    list(x = x, y = .5 * x + .7 * c + .6 * rnorm(200))
  },
  "unrelated" = function(c) {
    x <- rnorm(200)
    list(x = x, y = .5 * x + rnorm(200))
  }
)
verdict <- function(kind) {
  c <- rnorm(200)
  data <- if (is.null(candidates[[kind]])) {
    x <- rnorm(200)
    c <- .7 * x + .7 * rnorm(200)
    list(x = x, y = .7 * c + .7 * rnorm(200))
  } else {
    candidates[[kind]](c)
  }
  found <- flag_spurious(data.frame(data, c), x, y, candidates = c)
  found$candidates$verdict[1]
}
levels <- c("explained by", "partly explained by", "masked by", "not explained by")
table <- t(vapply(names(candidates), function(kind) {
  told <- replicate(runs, verdict(kind))
  vapply(levels, function(one) mean(told == one), 0)
}, numeric(4)))
cat(sprintf("\nVerdicts on a candidate, 200 cases, share of %d runs\n\n", runs))
print(data.frame(candidate = names(candidates), round(table, 3), check.names = FALSE), row.names = FALSE)
