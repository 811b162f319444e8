# What the verdict of the trend check is worth: how often it says `holds`, and `weakened`, of pairs that are
# independent, and of
# pairs that are tied, over many simulated pairs. RUNS, SIZES and ONLY (a pattern) set how many, how long, and which.
library(unsere)
runs <- as.integer(Sys.getenv("RUNS", "1000"))
sizes <- as.integer(strsplit(Sys.getenv("SIZES", "15,25,40,60,100"), ",")[[1]])
only <- Sys.getenv("ONLY", ".")
RNGkind("L'Ecuyer-CMRG")
set.seed(as.integer(Sys.getenv("SEED", "1")))

walk <- function(n, drift = 0) cumsum(rnorm(n) + drift)
ar <- function(n, a) as.numeric(stats::filter(rnorm(n + 60), a, method = "recursive"))[61:(60 + n)]
slope <- function() sample(c(-1, 1), 1) * runif(1, .5, 1.5)
about <- function(trend, sd = 1) trend + rnorm(length(trend), sd = sd)
span <- function(n) seq(0, 6, length.out = n)
apart <- function(make) function(n) list(x = make(n), y = make(n))

# What both series share on top of what is their own: an event, a season, a step.
bases <- list(noise = rnorm, trend = function(n) about(slope() * span(n)), walk = walk)
shared <- function(base, what, sign = c(-1, 1)) {
  function(n) {
    common <- what(n)
    own <- bases[[base]]
    list(x = own(n) + common, y = own(n) + common * sample(sign, 1))
  }
}
event <- function(sizes) {
  function(n) replace(numeric(n), sample(3:(n - 2 - length(sizes)), 1) + seq_along(sizes) - 1, sizes)
}
season <- function(length, size) function(n) rep(rnorm(length) * size, length.out = n)
step <- function(size) function(n) (seq_len(n) > n * runif(1, .3, .7)) * size
kink <- function(n) pmax(0, seq_len(n) - n * runif(1, .3, .7)) / n * 15
twice <- function(what) function(n) what(n) + what(n)
growth <- function(shape, sd) {
  apart(function(n) about(10 * shape(seq(-3, 3, length.out = n) * runif(1, .8, 1.6) + runif(1, -1, 1)), sd))
}
cycle <- function(length, sd = 1) {
  apart(function(n) about(2 * sin(seq_len(n) * 2 * pi / length + runif(1, 0, 2 * pi)), sd))
}
drop <- function(k, size = 4) function(n) event(rep(size, min(k, n %/% 3)))(n)
filled <- function(k, make) apart(function(n) rep(make(ceiling(n / k)), each = k)[seq_len(n)])
between <- function(k, make) {
  apart(function(n) {
    ends <- ceiling(n / k) + 1
    stats::approx(seq(1, by = k, length.out = ends), make(ends), seq_len(n))$y
  })
}
stormy <- function(turn) {
  function(n) {
    wide <- exp(as.numeric(stats::filter(rnorm(n + 50, sd = .35), .9, method = "recursive"))[51:(n + 50)])
    list(x = turn(rnorm(n) * wide), y = turn(rnorm(n) * wide))
  }
}

independent <- list(
  "random walks" = apart(walk),
  "random walks with drift" = apart(function(n) walk(n, slope() * .4)),
  "random walks, common step" = shared("walk", step(6), 1),
  "noise, common step" = shared("noise", step(4), 1),
  "noise, common bend" = shared("noise", kink, 1),
  "linear trends" = apart(function(n) about(slope() * span(n))),
  "quadratic trends" = apart(function(n) about(slope() * span(n)^2 / 4)),
  "exponential trends" = apart(function(n) about(exp(span(n) / 6 * runif(1, 2, 3)))),
  "logistic growth" = apart(function(n) about(6 / (1 + exp(-(span(n) - runif(1, 2, 4)) * runif(1, 1, 3))))),
  "logistic growth, little noise" = growth(stats::plogis, .1),
  "logistic growth, hardly any noise" = growth(stats::plogis, .05),
  "one-sided growth, little noise" = growth(function(z) exp(-exp(-z)), .1),
  "rise and fall, little noise" = growth(stats::dnorm, .2),
  "AR(1), .5" = apart(function(n) ar(n, .5)),
  "AR(1), .9" = apart(function(n) ar(n, .9)),
  "AR(2), cycles" = apart(function(n) ar(n, c(1.4, -.8))),
  "AR(2), sharp cycles" = apart(function(n) ar(n, c(1.2, -.9))),
  "plain noise" = apart(rnorm),
  "heavy tails" = apart(function(n) rt(n, 3)),
  "walks with heavy tails" = apart(function(n) cumsum(rt(n, 3))),
  "counts" = apart(function(n) rpois(n, 3)),
  "exceptional year, noise" = shared("noise", event(5)),
  "exceptional year, trends" = shared("trend", event(5)),
  "exceptional year, walks" = shared("walk", event(6)),
  "huge exceptional year" = shared("noise", event(12)),
  "lesser exceptional year" = shared("trend", event(3)),
  "two exceptional years" = shared("noise", twice(event(5)), 1),
  "dip of two years, noise" = shared("noise", event(c(4, 4))),
  "dip of two years, trends" = shared("trend", event(c(4, 4))),
  "dip of two years, walks" = shared("walk", event(c(6, 6))),
  "dip of three years" = shared("noise", event(c(4, 4, 4))),
  "shock that fades" = shared("trend", event(c(6, 4, 2)), 1),
  "season of 2" = shared("noise", season(2, 1)),
  "season of 4, noise" = shared("noise", season(4, 2)),
  "season of 4, trends" = shared("trend", season(4, 2)),
  "season of 4, walks" = shared("walk", season(4, 2)),
  "season of 5, weak" = shared("trend", season(5, 1)),
  "season of 6, weak" = shared("noise", season(6, 1)),
  "weekdays" = shared("noise", season(7, 2)),
  "season of 12" = shared("trend", season(12, 2)),
  "cycles of 8" = cycle(8),
  "cycles of 8, little noise" = cycle(8, .5),
  "cycles of 10.7" = cycle(10.7),
  "cycles of 17, little noise" = cycle(17, .5),
  "shared storms, noise" = stormy(identity),
  "shared storms, walks" = stormy(cumsum),
  "drop of 4 years, noise" = shared("noise", drop(4)),
  "drop of 4 years, trends" = shared("trend", drop(4)),
  "drop of 4 years, walks" = shared("walk", drop(4, 6)),
  "drop of 5 years, noise" = shared("noise", drop(5)),
  "drop of 6 years, trends" = shared("trend", drop(6)),
  "drop of 8 years, noise" = shared("noise", drop(8)),
  "years in quarters, walks" = filled(4, walk),
  "years in quarters, noise" = filled(4, rnorm),
  "years in months, walks" = filled(12, walk),
  "years in half-years, noise" = filled(2, rnorm),
  "lines between years, walks" = between(4, walk),
  "lines between years, noise" = between(4, rnorm),
  "cycles of 7" = cycle(7),
  "cycles of 9" = cycle(9),
  "cycles of 11" = cycle(11),
  "walks, both wilder at the end" = function(n) {
    wide <- ifelse(seq_len(n) > n * .7, 3, 1)
    list(x = cumsum(rnorm(n) * wide), y = cumsum(rnorm(n) * wide))
  }
)
both <- function(rho, turn = identity, draw = rnorm) {
  function(n) {
    common <- draw(n)
    list(x = turn(common), y = turn(rho * common + sqrt(1 - rho^2) * draw(n)))
  }
}
around <- function(make, what) {
  function(n) {
    pair <- make(n)
    list(x = pair$x + what(n), y = pair$y + what(n))
  }
}
tied <- list(
  "noise tied at .75 around trends" = around(both(.75), function(n) slope() * span(n)),
  "plain noise tied at .6" = both(.6),
  "walks with steps tied at .75" = both(.75, cumsum),
  "walks with steps tied at .7" = both(.7, cumsum),
  "noise tied at .75, seasons of 4" = around(both(.75), season(4, 2)),
  "heavy tails tied at .75" = both(.75, draw = function(n) rt(n, 3)),
  "AR(1), .6, tied at .75" = both(.75, function(v) as.numeric(stats::filter(v, .6, "recursive"))),
  "one drives the other" = function(n) {
    x <- walk(n, .2)
    list(x = x, y = .8 * x + rnorm(n, sd = .6))
  },
  "bound to a common walk" = function(n) {
    common <- walk(n) * 1.5
    list(x = common + rnorm(n, sd = .7), y = common + rnorm(n, sd = .7))
  }
)

verdict_of <- function(pair) {
  found <- unsere:::check_trend(pair$x, pair$y, seq_along(pair$x))
  c(holds = found$verdict == "holds", weakened = found$verdict == "weakened", levels = isTRUE(found$levels$p < .05))
}
one_row <- function(name, make, truth) {
  if (!grepl(only, name)) return(NULL)
  shares <- vapply(sizes, function(n) rowMeans(replicate(runs, verdict_of(make(n)))), c(0, 0, 0))
  data.frame(truth,
    pairs = name, t(stats::setNames(shares[1, ], paste("holds n =", sizes))),
    t(stats::setNames(shares[2, ], paste("weakened n =", sizes))),
    t(stats::setNames(shares[3, ], paste("levels p < .05, n =", sizes))), check.names = FALSE
  )
}
all <- c(independent, tied)
truth <- rep(c("independent", "tied"), c(length(independent), length(tied)))
rows <- parallel::mclapply(seq_along(all), function(k) one_row(names(all)[k], all[[k]], truth[k]),
  mc.cores = 2, mc.preschedule = FALSE
)
table <- do.call(rbind, rows)
table[-(1:2)] <- lapply(table[-(1:2)], function(v) sub("^0", "", sprintf("%.3f", v)))
cat(sprintf(
  "%d pairs in each cell; 5 %% of them with a true share of 5 %% would lie beyond %.3f to %.3f\n\n", runs,
  .05 - 1.96 * sqrt(.05 * .95 / runs), .05 + 1.96 * sqrt(.05 * .95 / runs)
))
print(table, row.names = FALSE, right = FALSE)
