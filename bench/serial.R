# What is reported of two series that have nothing to do with each other, and of two that correlate .5: how often a
# correlation is called significant, and how often the reported interval holds the truth, by kind of series and number of
# periods. Rscript bench/serial.R [RUNS] (default 200); beside each the same of the textbook.
library(unsere)
runs <- as.integer(c(commandArgs(TRUE), "200")[1])
set.seed(20)
chain <- function(rho) function(n) as.numeric(arima.sim(list(ar = rho), n, n.start = 200))
kinds <- list(
  independent = rnorm, "AR .3" = chain(.3), "AR .5" = chain(.5), "AR .8" = chain(.8), "AR .95" = chain(.95),
  "AR .6, .3" = chain(c(.6, .3)), "moving average" = function(n) as.numeric(arima.sim(list(ma = rep(.7, 4)), n)),
  "random walk" = function(n) cumsum(rnorm(n)),
  "heavy tails" = function(n) as.numeric(arima.sim(list(ar = .6), n, rand.gen = rt, df = 3)),
  "uneven spread" = function(n) chain(.7)(n) * exp(chain(.8)(n) / 3),
  "steps" = function(n) rep(rnorm(n), each = 5)[seq_len(n)],
  "few values" = function(n) round(chain(.8)(n) / 2),
  "long memory" = function(n) {
    rowSums(vapply(c(.3, .9, .99), function(rho) chain(rho)(n) * sqrt(1 - rho^2), numeric(n)))
  },
  "cycle of 11" = function(n) sin(2 * pi * (seq_len(n) + 11 * runif(1)) / 11 + cumsum(rnorm(n, 0, .3))) + rnorm(n, 0, .4)
)
trial <- function(make, n, share) {
  x <- make(n)
  y <- make(n)
  if (share > 0) y <- share * x + sqrt(1 - share^2) * y
  study <- suppressMessages(as_study(data.frame(x = x, y = y, day = as.Date("2020-01-01") + seq_len(n))))
  relation <- relate(study, "x", "y")
  textbook <- if (is.null(relation$textbook)) relation else relation$textbook
  holds <- function(r) r$ci_low <= share && share <= r$ci_high
  c(textbook$p < .05, relation$p < .05, holds(textbook), holds(relation))
}
cat(sprintf("%-16s %5s  %s\n", "", "n", "significant at r = 0: textbook, reported | interval holds .5: textbook, reported"))
for (kind in names(kinds)) {
  for (n in c(30L, 100L, 300L)) {
    apart <- rowMeans(replicate(runs, trial(kinds[[kind]], n, 0)), na.rm = TRUE)
    tied <- rowMeans(replicate(runs, trial(kinds[[kind]], n, .5)), na.rm = TRUE)
    cat(sprintf("%-16s %5d  %.3f %.3f | %.3f %.3f\n", kind, n, apart[1], apart[2], tied[3], tied[4]))
  }
}
