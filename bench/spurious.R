# What the verdict of the trend check is worth: how often it says `holds` of pairs that are independent, and of pairs that
# are tied, over many simulated pairs. RUNS, SIZES and ONLY (a pattern) set how many, how long, and which.
library(unsere)
runs <- as.integer(Sys.getenv("RUNS", "2000"))
sizes <- as.integer(strsplit(Sys.getenv("SIZES", "20,40,80"), ",")[[1]])
only <- Sys.getenv("ONLY", ".")
set.seed(as.integer(Sys.getenv("SEED", "1")))

walk <- function(n, drift = 0) cumsum(rnorm(n) + drift)
ar <- function(n, a) as.numeric(stats::filter(rnorm(n + 60), a, method = "recursive"))[61:(60 + n)]
slope <- function() sample(c(-1, 1), 1) * runif(1, .5, 1.5)
about <- function(trend, sd = 1) trend + rnorm(length(trend), sd = sd)
span <- function(n) seq(0, 6, length.out = n)
apart <- function(make) function(n) list(x = make(n), y = make(n))
season <- rep(c(2, 0, -2, 0), length.out = 400)

independent <- list(
  "random walks" = apart(walk),
  "random walks with drift" = apart(function(n) walk(n, slope() * .4)),
  "random walks, common break" = function(n) {
    jump <- (seq_len(n) > n * runif(1, .3, .7)) * 6
    list(x = walk(n) + jump, y = walk(n) + jump)
  },
  "linear trends" = apart(function(n) about(slope() * span(n))),
  "quadratic trends" = apart(function(n) about(slope() * span(n)^2 / 4)),
  "logistic trends" = apart(function(n) about(6 / (1 + exp(-(span(n) - runif(1, 2, 4)) * runif(1, 1, 3))))),
  "exponential trends" = apart(function(n) about(exp(span(n) / 6 * runif(1, 2, 3)))),
  "AR(1), .5" = apart(function(n) ar(n, .5)),
  "AR(1), .9" = apart(function(n) ar(n, .9)),
  "AR(2), cycles" = apart(function(n) ar(n, c(1.4, -.8))),
  "seasonal" = apart(function(n) about(season[seq_len(n)])),
  "plain noise" = apart(rnorm)
)
noise <- function(n, rho) {
  common <- rnorm(n)
  list(a = common, b = rho * common + sqrt(1 - rho^2) * rnorm(n))
}
tied <- list(
  "noise tied at .75 around trends" = function(n) {
    e <- noise(n, .75)
    list(x = slope() * span(n) + e$a, y = slope() * span(n) + e$b)
  },
  "plain noise tied at .6" = function(n) {
    e <- noise(n, .6)
    list(x = e$a, y = e$b)
  },
  "walks with steps tied at .75" = function(n) {
    e <- noise(n, .75)
    list(x = cumsum(e$a), y = cumsum(e$b))
  },
  "one drives the other" = function(n) {
    x <- walk(n, .2)
    list(x = x, y = .8 * x + rnorm(n, sd = .6))
  },
  "bound to a common walk" = function(n) {
    common <- walk(n) * 1.5
    list(x = common + rnorm(n, sd = .7), y = common + rnorm(n, sd = .7))
  }
)

verdict_of <- function(pair, season) {
  n <- length(pair$x)
  found <- unsere:::check_trend(pair$x, pair$y, seq_len(n), season)
  c(holds = found$verdict == "holds", levels = found$levels$p < .05)
}
one_row <- function(name, make, truth) {
  if (!grepl(only, name)) return(NULL)
  season <- if (name == "seasonal") 4L else 1L
  shares <- vapply(sizes, function(n) rowMeans(replicate(runs, verdict_of(make(n), season))), c(0, 0))
  data.frame(truth,
    pairs = name, t(stats::setNames(shares[1, ], paste("holds n =", sizes))),
    t(stats::setNames(shares[2, ], paste("levels p < .05, n =", sizes))), check.names = FALSE
  )
}
table <- rbind(
  do.call(rbind, Map(one_row, names(independent), independent, "independent")),
  do.call(rbind, Map(one_row, names(tied), tied, "tied"))
)
table[-(1:2)] <- lapply(table[-(1:2)], function(v) sub("^0", "", sprintf("%.3f", v)))
cat(sprintf(
  "%d pairs in each cell; 5 %% of them with a true share of 5 %% would lie beyond %.3f to %.3f\n\n", runs,
  .05 - 1.96 * sqrt(.05 * .95 / runs), .05 + 1.96 * sqrt(.05 * .95 / runs)
))
print(table, row.names = FALSE, right = FALSE)
