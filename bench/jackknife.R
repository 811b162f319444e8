# How often 95 % intervals hold the truth, by the textbook and by the jackknife, on normal data and on data that are not;
# how often `interval_too_narrow` speaks; and both questions again for cases that come in classes.
#   Rscript bench/jackknife.R [runs] [seed]
library(unsere)
given <- as.numeric(commandArgs(TRUE))
runs <- c(given, 2000)[1]
set.seed(if (length(given) > 1) given[2] else 16)

pair_of <- function(u, v, rho) list(x = u, y = rho * u + sqrt(1 - rho^2) * v)
# Each gives a pair; the truth is r of one very large sample.
processes <- list(
  "normal, r = 0" = function(n) pair_of(rnorm(n), rnorm(n), 0),
  "normal, r = .6" = function(n) pair_of(rnorm(n), rnorm(n), .6),
  "uniform, r = .5" = function(n) pair_of(runif(n), runif(n), .5),
  "t with 5 df, r = .5" = function(n) pair_of(rt(n, 5), rt(n, 5), .5),
  "both tails together, t with 4 df" = function(n) {
    s <- sqrt(4 / rchisq(n, 4))
    pair_of(rnorm(n) * s, rnorm(n) * s, .3)
  },
  "lognormal, r about .5" = function(n) {
    z <- pair_of(rnorm(n), rnorm(n), .6)
    list(x = exp(.7 * z$x), y = exp(.7 * z$y))
  },
  "spread grows with |x|" = function(n) {
    x <- rnorm(n)
    list(x = x, y = .5 * x + abs(x) * rnorm(n))
  },
  "exponential x, no relation" = function(n) list(x = rexp(n), y = rexp(n)),
  "5-point scales, r = .5" = function(n) {
    z <- pair_of(rnorm(n), rnorm(n), .6)
    lapply(z, function(v) as.double(findInterval(v, c(-1.2, -.4, .4, 1.2))))
  },
  "one in twenty doubled" = function(n) {
    wide <- 1 + (runif(n) < .05) * 2
    pair_of(rnorm(n) * wide, rnorm(n) * wide, .4)
  }
)

held <- function(limits, truth) limits$ci_low <= truth && truth <= limits$ci_high
cat(sprintf("%d runs each; seed set\n\n%-36s %5s  %8s %9s %8s\n", runs, "process", "n", "textbook", "jackknife", "caution"))
for (name in names(processes)) {
  draw <- processes[[name]]
  big <- draw(1e6)
  truth <- unsere:::r_plain(big$x, big$y)
  for (n in c(20, 50, 200)) {
    found <- replicate(runs, {
      sample <- draw(n)
      r <- unsere:::measure_pearson(sample$x, sample$y)
      left <- unsere:::leave_one_out(sample$x, sample$y, FALSE, 1L)
      usual <- unsere:::interval_fisher(r$r, r$unexplained, n)
      wide <- unsere:::interval_jackknife(left, r$r, r$unexplained, .95)
      ratio <- diff(atanh(unlist(wide[1:2]))) / diff(atanh(unlist(usual[1:2])))
      c(held(usual, truth), held(wide, truth), ratio > unsere:::narrow_limit(n))
    })
    cat(sprintf("%-36s %5d  %8.3f %9.3f %8.3f\n", name, n, mean(found[1, ]), mean(found[2, ]), mean(found[3, ])))
  }
}

classes_of <- function(m, size, icc_x, icc_y, n = m * size) {
  group <- rep(seq_len(m), each = size)
  mix <- function(icc) sqrt(icc) * rnorm(m)[group] + sqrt(1 - icc) * rnorm(n)
  data.frame(class = sprintf("class %d", group), x = mix(icc_x), y = mix(icc_y))
}
cat(sprintf("\n%-36s %8s %8s %9s %8s\n", "unrelated x and y in classes", "p < .05", "textbook", "by class", "caution"))
settings <- list(
  c(20, 25, 0, 0), c(20, 25, .05, .05), c(20, 25, .2, .2), c(20, 25, .4, .4), c(20, 25, 1, .2), c(8, 20, .3, .3),
  c(80, 20, .3, .3), c(50, 4, .4, .4)
)
for (s in settings) {
  found <- replicate(max(100, runs %/% 4), {
    data <- classes_of(s[1], s[2], s[3], s[4])
    relation <- relate(data, x, y)
    group <- match(data$class, unique(data$class))
    left <- unsere:::r_without_groups(data$x, data$y, group)
    wide <- unsere:::interval_jackknife(left, relation$r, relation$estimate$unexplained, .95, s[1] - 1)
    c(relation$p < .05, held(relation, 0), held(wide, 0), "clustered_cases" %in% relation$cautions$code)
  })
  label <- sprintf("%d of %d, alike %.2f and %.2f", s[1], s[2], s[3], s[4])
  cat(sprintf(
    "%-36s %8.3f %8.3f %9.3f %8.3f\n", label, mean(found[1, ]), mean(found[2, ]), mean(found[3, ]),
    mean(found[4, ])
  ))
}

cat("\nTwo r that share a variable, equal in truth: share of p < .05, by Williams' t and by the jackknife\n")
draws <- list(normal = rnorm, "t, 3 df" = function(n) rt(n, 3) / sqrt(3), lognormal = function(n) exp(rnorm(n)) / 2.16)
for (name in names(draws)) for (n in c(20, 50, 200)) for (rho in c(.3, .7)) {
  p <- replicate(runs, {
    common <- draws[[name]](n)
    other <- function() rho * common + sqrt(1 - rho^2) * draws[[name]](n)
    data <- data.frame(x = common, y = other(), z = other())
    found <- compare_relations(relate(data, x, y, coefficient = "pearson"), relate(data, x, z, coefficient = "pearson"))
    c(found$p, found$jackknife$p)
  })
  shares <- rowMeans(p < .05)
  cat(sprintf("%-12s n = %3d  r = %.1f  %.3f  %.3f\n", name, n, rho, shares[1], shares[2]))
}
