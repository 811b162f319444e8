# What relate_waves() tells of persons in two and four waves: how often the difference of cross-lagged correlations is
# called significant where nothing crosses (with lasting differences between persons, and with unequal stabilities, which no
# such test withstands), and how often the intervals within and between persons hold the r of 4,000 persons.
#   RUNS=500 Rscript bench/waves.R
library(unsere)
runs <- as.integer(Sys.getenv("RUNS", "200"))
set.seed(71)
errors <- list(
  normal = stats::rnorm, "t, 5 df" = function(n) stats::rt(n, 5) / sqrt(5 / 3),
  exponential = function(n) stats::rexp(n) - 1
)
panel <- function(n, waves, draw, lasting, stable_x, stable_y, cross = 0) {
  trait <- lasting * stats::rnorm(n)
  x <- draw(n)
  y <- 0.4 * x + sqrt(1 - 0.16) * draw(n)
  rows <- list()
  for (wave in seq_len(waves)) {
    rows[[wave]] <- data.frame(person = seq_len(n), wave, x = x + trait, y = y + trait)
    shared <- draw(n)
    new_x <- stable_x * x + sqrt(1 - stable_x^2) * (0.4 * shared + sqrt(1 - 0.16) * draw(n))
    y <- stable_y * y + cross * x + sqrt(1 - stable_y^2) * (0.4 * shared + sqrt(1 - 0.16) * draw(n))
    x <- new_x
  }
  do.call(rbind, rows)
}
told <- function(...) relate_waves(panel(...), x, y, case = person, time = wave)
cat("Share of cross-lagged differences called significant (two waves, nominal .05 where nothing crosses)\n")
cells <- list(
  "alike" = c(0, 0.6, 0.6, 0), "lasting differences" = c(1, 0.6, 0.6, 0), "unequal stability" = c(0, 0.8, 0.4, 0),
  "x acts on y" = c(0, 0.6, 0.6, 0.3)
)
for (cell in names(cells)) for (name in names(errors)) for (n in c(60, 200)) {
  of <- cells[[cell]]
  share <- mean(replicate(runs, told(n, 2, errors[[name]], of[1], of[2], of[3], of[4])$differences$p < 0.05))
  cat(sprintf("%-20s %-12s n = %3d  %.3f\n", cell, name, n, share))
}
cat("Share of 95% intervals that hold (four waves, lasting differences)\n")
for (name in names(errors)) {
  whole <- told(4000, 4, errors[[name]], 1, 0.5, 0.5)$relations
  for (n in c(60, 200)) {
    held <- replicate(runs, {
      found <- told(n, 4, errors[[name]], 1, 0.5, 0.5)$relations
      vapply(c("between", "within"), function(kind) {
        row <- found[found$kind == kind, ]
        target <- whole$r[whole$kind == kind]
        row$ci_low <= target && target <= row$ci_high
      }, NA)
    })
    cat(sprintf("%-12s n = %3d  between %.3f  within %.3f\n", name, n, mean(held[1, ]), mean(held[2, ])))
  }
}
