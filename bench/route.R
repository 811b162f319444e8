# What is told by default: how often 95 % intervals hold the truth, how often an r of zero is called clear, and what that
# costs where the textbook is right. Interval and test by the rule of R/measure-route.R, from the very functions that
# relate() asks; each family of data at 30, 100 and 500 cases.
#   Rscript bench/route.R [runs] [seed]
library(unsere)
given <- as.numeric(commandArgs(TRUE))
runs <- c(given, 5000)[1]
set.seed(if (length(given) > 1) given[2] else 44)
route <- asNamespace("unsere")

# Each gives two matrices, a column a sample; rho is that of the normal pair behind it.
several <- function(n, m, draw = rnorm) matrix(draw(n * m), n)
normal_pair <- function(n, m, rho) {
  x <- several(n, m)
  list(x = x, y = rho * x + sqrt(1 - rho^2) * several(n, m))
}
through <- function(change) function(n, m, rho) lapply(normal_pair(n, m, rho), function(z) array(change(z), dim(z)))
chance <- function(n, m, share) several(n, m, runif) < share
scaled <- function(n, m, rho, by) lapply(normal_pair(n, m, rho), `*`, by)
exam <- function(z) round(pmin(100, pmax(0, 65 + 12 * z)))
two_groups <- function(share, spread_zero, spread_one, step, draw = rnorm) {
  function(n, m, rho) {
    x <- chance(n, m, share) + 0
    list(x = x, y = rho * step * x + ifelse(x == 1, spread_one, spread_zero) * several(n, m, draw))
  }
}
families <- list(
  "normal" = normal_pair,
  "uniform" = through(pnorm),
  "bounded (beta .6, 1.5)" = through(function(z) qbeta(pnorm(z), .6, 1.5)),
  "ceiling at .3 SD" = through(function(z) pmin(z, .3)),
  "5-point scales" = through(function(z) findInterval(z, c(-1.2, -.4, .4, 1.2)) + 0),
  "heaped to tens" = through(function(z) round((50 + 15 * z) / 10) * 10),
  "counts, mean 2" = through(function(z) qpois(pnorm(z), 2)),
  "counts, mean .5" = through(function(z) qpois(pnorm(z), .5)),
  "overdispersed counts" = through(function(z) qnbinom(pnorm(z), 1, mu = 3)),
  "gamma, shape 3" = through(function(z) qgamma(pnorm(z), 3)),
  "gamma, shape 1" = through(function(z) qgamma(pnorm(z), 1)),
  "gamma, shape .5" = through(function(z) qgamma(pnorm(z), .5)),
  "lognormal, .5" = through(function(z) exp(.5 * z)),
  "lognormal, .7" = through(function(z) exp(.7 * z)),
  "lognormal, 1" = through(exp),
  "hurdle, half zeros" = through(function(z) ifelse(z < 0, 0, qgamma(pmax(2 * pnorm(z) - 1, 1e-12), 1.5))),
  "zero-inflated counts" = function(n, m, rho) {
    lapply(through(function(z) qnbinom(pnorm(z), 2, mu = 3))(n, m, rho), function(v) v * !chance(n, m, .4))
  },
  "exams, 5 % zero in both" = function(n, m, rho) {
    there <- !chance(n, m, .05)
    lapply(through(exam)(n, m, rho), `*`, there)
  },
  "exams, 5 % zero in each" = function(n, m, rho) {
    lapply(through(exam)(n, m, rho), function(v) v * !chance(n, m, .05))
  },
  "t with 5 df, mixed" = function(n, m, rho) {
    x <- several(n, m, function(k) rt(k, 5))
    list(x = x, y = rho * x + sqrt(1 - rho^2) * several(n, m, function(k) rt(k, 5)))
  },
  "elliptical t, 5 df" = function(n, m, rho) scaled(n, m, rho, sqrt(5 / several(n, m, function(k) rchisq(k, 5)))),
  "elliptical t, 3 df *" = function(n, m, rho) scaled(n, m, rho, sqrt(3 / several(n, m, function(k) rchisq(k, 3)))),
  "one in twenty trebled" = function(n, m, rho) scaled(n, m, rho, 1 + 2 * chance(n, m, .05)),
  "a tenth of each by four" = function(n, m, rho) {
    lapply(normal_pair(n, m, rho), function(v) v * (1 + 3 * chance(n, m, .1)))
  },
  "two kinds of cases" = function(n, m, rho) {
    z <- normal_pair(n, m, rho)
    list(x = ifelse(chance(n, m, .15), 3 * several(n, m), z$x), y = z$y)
  },
  "spread grows with |x|" = function(n, m, rho) {
    x <- several(n, m)
    list(x = x, y = rho * x + abs(x) * several(n, m))
  },
  "spread grows with x" = function(n, m, rho) {
    x <- several(n, m)
    list(x = x, y = rho * x + exp(x / 2) * several(n, m))
  },
  "a bend" = function(n, m, rho) {
    x <- several(n, m)
    list(x = x, y = rho * x + (x^2 - 1) / 2 + several(n, m))
  },
  "groups 50/50" = two_groups(.5, 1, 1, 2),
  "groups 20/80" = two_groups(.2, 1, 1, 2),
  "20/80, small one wilder" = two_groups(.2, 1, 3, 2),
  "20/80, large one wilder" = two_groups(.2, 3, 1, 2),
  "groups 5/95 *" = two_groups(.05, 1, 1, 3),
  "30/70, lognormal y" = two_groups(.3, 1, 1, 1.4, function(k) exp(.8 * rnorm(k)) - exp(.32))
)

r_longhand <- function(x, y) {
  x <- sweep(x, 2, colMeans(x))
  y <- sweep(y, 2, colMeans(y))
  colSums(x * y) / sqrt(colSums(x^2) * colSums(y^2))
}

told_of <- function(draw, n, rho, m) {
  pairs <- draw(n, m, rho)
  r <- r_longhand(pairs$x, pairs$y)
  ok <- is.finite(r) & abs(r) < 1 - 1e-12
  columns <- lapply(list(pairs$x, pairs$y), function(v) asplit(v[, ok, drop = FALSE] + 0, 2))
  r <- r[ok]
  at <- seq_along(r)
  spread <- route$spread_of_pairs(lapply(unlist(columns, recursive = FALSE), as.double), at, at + length(at), r, n, 2L)
  robust <- route$speaks_against(spread, n)
  limits <- function(variance, df) route$interval_from_z(r, 1 - r^2, variance, .95, df)
  usual <- limits(1 / (n - 3), Inf)
  told <- limits(ifelse(robust, spread$variance, 1 / (n - 3)), ifelse(robust, spread$df, Inf))
  usual_p <- exp(route$log_two_sided(r, 1 - r^2, n - 2))
  robust_p <- route$test_from_z(r, 1 - r^2, spread$variance, spread$df, "either", "jackknife")$p
  list(r = r, usual = usual, told = told, usual_p = usual_p, p = ifelse(robust, robust_p, usual_p), robust = robust)
}

holds <- function(limits, truth) mean(limits$ci_low <= truth & truth <= limits$ci_high, na.rm = TRUE)
cat(sprintf("%d runs each, %d of normal data; * fewer than ten cases that tell, or no fourth moments\n", runs, 4 * runs))
cat("held: share of 95 % intervals that hold the truth, by the textbook > as told\n")
cat("clear: share with p < .05 where r is 0\n\n")
cat(sprintf("%-24s %6s %5s %16s %16s %8s\n", "family", "r", "n", "held", "clear", "by jackknife"))
for (name in names(families)) for (rho in c(0, .5)) {
  big <- families[[name]](1e6, 1, rho)
  truth <- r_longhand(big$x, big$y)
  if (abs(truth) < .004) truth <- 0
  for (n in c(30, 100, 500)) {
    found <- told_of(families[[name]], n, rho, if (name == "normal") 4 * runs else runs)
    size <- if (truth == 0) sprintf("%.3f > %.3f", mean(found$usual_p < .05), mean(found$p < .05, na.rm = TRUE)) else ""
    cat(sprintf(
      "%-24s %6.2f %5d %16s %16s %8.2f\n", name, truth, n,
      sprintf("%.3f > %.3f", holds(found$usual, truth), holds(found$told, truth)), size, mean(found$robust)
    ))
  }
}

cat("\nPower on normal data, textbook > as told\n")
for (n in c(20, 30, 50, 100, 200, 500)) for (power in c(.5, .8)) {
  rho <- tanh((qnorm(.975) + qnorm(power)) / sqrt(n - 3))
  found <- told_of(normal_pair, n, rho, 4 * runs)
  cat(sprintf("n = %3d, r = %.2f: %.3f > %.3f\n", n, rho, mean(found$usual_p < .05), mean(found$p < .05)))
}
