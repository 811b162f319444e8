# What is reported of two variables of units over periods that have nothing to do with each other: how often a correlation
# is called significant, by kind of variable, units and periods. Rscript bench/panels.R [RUNS] (default 200); beside each
# the same of the textbook.
library(unsere)
runs <- as.integer(c(commandArgs(TRUE), "200")[1])
set.seed(1)
per_unit <- function(draw) function(u, t) as.vector(replicate(u, draw(t)))
of_units <- function(u, t) rep(rnorm(u), each = t)
kinds <- list(
  "noise" = function(u, t) rnorm(u * t), "units differ" = function(u, t) of_units(u, t) + rnorm(u * t),
  "AR .8 in units" = per_unit(function(t) as.numeric(arima.sim(list(ar = .8), t))),
  "random walks" = per_unit(function(t) cumsum(rnorm(t))),
  "walks, units differ" = function(u, t) 3 * of_units(u, t) + per_unit(function(t) cumsum(rnorm(t)))(u, t),
  "own trends" = function(u, t) 3 * of_units(u, t) * rep(seq_len(t), u) / t + rnorm(u * t),
  "shared shocks" = function(u, t) rep(rnorm(t), u) + of_units(u, t) + rnorm(u * t),
  "shared random walk" = function(u, t) rep(cumsum(rnorm(t)), u) + of_units(u, t) + rnorm(u * t)
)
trial <- function(make, u, t) {
  study <- suppressMessages(as_study(data.frame(
    region = rep(sprintf("R%02d", seq_len(u)), each = t), year = rep(2000L + seq_len(t), u), x = make(u, t), y = make(u, t)
  )))
  relation <- relate(study, "x", "y")
  textbook <- if (is.null(relation$textbook)) relation else relation$textbook
  c(textbook$p < .05, relation$p < .05)
}
cat(sprintf("%-20s %7s  %s\n", "", "panel", "significant at r = 0: textbook, reported"))
for (kind in names(kinds)) {
  for (size in list(c(6L, 10L), c(12L, 6L), c(20L, 15L), c(8L, 20L))) {
    told <- rowMeans(replicate(runs, trial(kinds[[kind]], size[1], size[2])))
    cat(sprintf("%-20s %3d x %2d  %.3f %.3f\n", kind, size[1], size[2], told[1], told[2]))
  }
}
