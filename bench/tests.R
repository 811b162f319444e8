# Size and power of the tests at alpha = .05, normal data: how often p <= .05 when rho is 0, .3 and .5.
library(unsere)
runs <- as.integer(Sys.getenv("RUNS", "1000"))
plan <- function() list(resamples = 999, seed = sample.int(1e9, 1), threads = 2L)

p_of <- list(
  "pearson, t" = function(x, y, n) {
    found <- unsere:::measure_pearson(x, y)
    unsere:::test_student(found$r, found$unexplained, n)$p
  },
  "pearson, permutation" = function(x, y, n) {
    unsere:::test_permutation(x, y, "pearson", NA, "either", plan())$p
  },
  "spearman, as used" = function(x, y, n) unsere:::test_spearman(unsere:::measure_spearman(x, y), n, "either")$p,
  "spearman, 5-point scales" = function(x, y, n) {
    steps <- c(-1.2, -0.4, 0.4, 1.2)
    unsere:::test_spearman(unsere:::measure_spearman(findInterval(x, steps), findInterval(y, steps)), n, "either")$p
  },
  "point-biserial, t" = function(x, y, n) {
    group <- as.double(rank(x) > n / 2)
    found <- unsere:::measure_pearson(group, y)
    unsere:::test_student(found$r, found$unexplained, n)$p
  },
  "phi, chi-squared" = function(x, y, n) {
    a <- as.double(rank(x) > n / 2)
    b <- as.double(rank(y) > n / 2)
    unsere:::test_phi(unsere:::measure_pearson(a, b)$r, n, "either")$p
  }
)

set.seed(5)
rows <- list()
for (kind in names(p_of)) for (n in c(12, 30, 100)) {
  share <- vapply(c(0, .3, .5), function(rho) {
    mean(replicate(runs, {
      x <- rnorm(n)
      y <- rho * x + sqrt(1 - rho^2) * rnorm(n)
      isTRUE(p_of[[kind]](x, y, n) <= .05)
    }))
  }, 0)
  rows[[length(rows) + 1]] <- data.frame(
    test = kind, n, "size (rho 0)" = share[1], "power, rho .3" = share[2],
    "power, rho .5" = share[3], check.names = FALSE
  )
}
cat(sprintf("Size and power at alpha = .05, %d runs each\n\n", runs))
print(do.call(rbind, rows), row.names = FALSE, digits = 2)
