# How often a 95 % interval holds the true value, for normal data: n = 10, 30, 100 and rho = 0, .3, .7.
# Point-biserial: two normal groups of equal size, split as designed. Phi: both variables split at their medians.
library(unsere)
runs <- as.integer(Sys.getenv("RUNS", "10000"))
resampled <- as.integer(Sys.getenv("RESAMPLED_RUNS", "2000"))

covers <- function(interval, truth) !is.na(interval$ci_low) && interval$ci_low <= truth && truth <= interval$ci_high

draw <- function(n, rho) {
  x <- rnorm(n)
  list(x = x, y = rho * x + sqrt(1 - rho^2) * rnorm(n))
}

one_run <- list(
  pearson = function(n, rho) {
    pair <- draw(n, rho)
    found <- unsere:::measure_pearson(pair$x, pair$y)
    covers(unsere:::interval_fisher(found$r, found$unexplained, n), rho)
  },
  spearman = function(n, rho) {
    pair <- draw(n, rho)
    found <- unsere:::measure_spearman(pair$x, pair$y)
    covers(unsere:::interval_spearman(found$r, found$unexplained, n), 6 / pi * asin(rho / 2))
  },
  "point-biserial" = function(n, rho) {
    group <- rep(0:1, length.out = n) + 0
    y <- rnorm(n) + group * 2 * rho / sqrt(1 - rho^2)
    found <- unsere:::measure_pearson(group, y)
    covers(unsere:::interval_point_biserial(found$r, found$unexplained, n), rho)
  },
  phi = function(n, rho) {
    pair <- draw(n, sin(pi * rho / 2))
    x <- as.double(pair$x > 0)
    y <- as.double(pair$y > 0)
    if (min(x) == max(x) || min(y) == max(y)) return(NA)
    found <- unsere:::measure_pearson(x, y)
    covers(unsere:::interval_phi(x, y, found$r, found$unexplained), rho)
  },
  "bootstrap (pearson)" = function(n, rho) {
    pair <- draw(n, rho)
    found <- unsere:::measure_pearson(pair$x, pair$y)
    plan <- list(resamples = 2000, seed = sample.int(1e9, 1), threads = 2L)
    covers(unsere:::interval_bootstrap(pair$x, pair$y, "pearson", found$r, found$unexplained, .95, plan), rho)
  },
  "bootstrap (spearman)" = function(n, rho) {
    pair <- draw(n, rho)
    found <- unsere:::measure_spearman(pair$x, pair$y)
    plan <- list(resamples = 2000, seed = sample.int(1e9, 1), threads = 2L)
    covers(
      unsere:::interval_bootstrap(pair$x, pair$y, "spearman", found$r, found$unexplained, .95, plan),
      6 / pi * asin(rho / 2)
    )
  }
)

set.seed(95)
rows <- list()
for (kind in names(one_run)) for (n in c(10, 30, 100)) {
  count <- if (grepl("bootstrap", kind)) resampled else runs
  share <- vapply(c(0, .3, .7), function(rho) mean(replicate(count, one_run[[kind]](n, rho)), na.rm = TRUE), 0)
  rows[[length(rows) + 1]] <- data.frame(
    interval = kind, n, "rho 0" = share[1], "rho .3" = share[2],
    "rho .7" = share[3],
    runs = count, check.names = FALSE
  )
}
cat("Share of 95 % intervals that hold the true value\n\n")
print(do.call(rbind, rows), row.names = FALSE, digits = 3)
