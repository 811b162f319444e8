# How often a 95 % interval holds the true value, for normal data: n = 10, 30, 100 and rho = 0, .3, .7.
# Point-biserial: two normal groups of equal size, split as designed; and groups whose sizes are left to chance. Phi:
# both variables split at their medians.
library(unsere)
runs <- as.integer(Sys.getenv("RUNS", "10000"))
resampled <- as.integer(Sys.getenv("RESAMPLED_RUNS", "2000"))

covers <- function(interval, truth) !is.na(interval$ci_low) && interval$ci_low <= truth && truth <= interval$ci_high

draw <- function(n, rho) {
  x <- rnorm(n)
  list(x = x, y = rho * x + sqrt(1 - rho^2) * rnorm(n))
}

# Truths: of normal data with correlation rho.
spearman_of <- function(rho) 6 / pi * asin(rho / 2)

relation_covers <- function(pair, truth, coefficient, interval = "analytic") {
  estimate <- unsere:::estimate_sample(c(pair, list(names = c("x", "y"))), coefficient)
  draws <- list(resamples = 2000, seed = sample.int(1e9, 1), threads = 2L)
  covers(unsere:::interval_estimate(estimate, interval, 0.95, draws), truth)
}

# Who is in the group is drawn case by case; the means differ so that the correlation is rho.
by_chance <- function(n, rho, share) {
  group <- as.double(runif(n) < share)
  if (sum(group) < 2 || sum(group) > n - 2) return(NA)
  difference <- rho / sqrt((1 - rho^2) * share * (1 - share))
  relation_covers(list(x = group, y = rnorm(n) + group * difference), rho, "point-biserial")
}

one_run <- list(
  pearson = function(n, rho) relation_covers(draw(n, rho), rho, "pearson"),
  spearman = function(n, rho) relation_covers(draw(n, rho), spearman_of(rho), "spearman"),
  "point-biserial" = function(n, rho) {
    group <- rep(0:1, length.out = n) + 0
    pair <- list(x = group, y = rnorm(n) + group * 2 * rho / sqrt(1 - rho^2))
    relation_covers(pair, rho, "point-biserial")
  },
  "point-biserial, a tenth by chance" = function(n, rho) by_chance(n, rho, 0.1),
  "point-biserial, half by chance" = function(n, rho) by_chance(n, rho, 0.5),
  phi = function(n, rho) {
    pair <- lapply(draw(n, sin(pi * rho / 2)), function(values) as.double(values > 0))
    if (min(pair$x) == max(pair$x) || min(pair$y) == max(pair$y)) return(NA)
    relation_covers(pair, rho, "phi")
  },
  "tau-b" = function(n, rho) relation_covers(draw(n, rho), 2 / pi * asin(rho), "tau-b"),
  "bootstrap (pearson)" = function(n, rho) {
    relation_covers(draw(n, rho), rho, "pearson", interval = "bootstrap")
  },
  "bootstrap (spearman)" = function(n, rho) {
    relation_covers(draw(n, rho), spearman_of(rho), "spearman", interval = "bootstrap")
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
