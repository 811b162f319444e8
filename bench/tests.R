# Size and power of the tests at alpha = .05, normal data: how often p <= .05 when rho is 0, .3 and .5.
library(unsere)
runs <- as.integer(Sys.getenv("RUNS", "1000"))

p_by <- function(x, y, coefficient, test = "analytic") {
  estimate <- unsere:::estimate_sample(list(x = x, y = y, names = c("x", "y")), coefficient)
  unsere:::test_estimate(estimate, test, "either", list(resamples = 999, seed = sample.int(1e9, 1), threads = 2L))$p
}

five_points <- function(values) as.double(findInterval(values, c(-1.2, -0.4, 0.4, 1.2)))
halves <- function(values) as.double(rank(values) > length(values) / 2)

p_of <- list(
  "pearson, t" = function(x, y) p_by(x, y, "pearson"),
  "pearson, permutation" = function(x, y) p_by(x, y, "pearson", "permutation"),
  "spearman, as used" = function(x, y) p_by(x, y, "spearman"),
  "spearman, 5-point scales" = function(x, y) p_by(five_points(x), five_points(y), "spearman"),
  "point-biserial, t" = function(x, y) p_by(halves(x), y, "point-biserial"),
  "phi, chi-squared" = function(x, y) p_by(halves(x), halves(y), "phi")
)

set.seed(5)
rows <- list()
for (kind in names(p_of)) for (n in c(12, 30, 100)) {
  share <- vapply(c(0, .3, .5), function(rho) {
    mean(replicate(runs, {
      x <- rnorm(n)
      y <- rho * x + sqrt(1 - rho^2) * rnorm(n)
      isTRUE(p_of[[kind]](x, y) <= .05)
    }))
  }, 0)
  rows[[length(rows) + 1]] <- data.frame(
    test = kind, n, "size (rho 0)" = share[1], "power, rho .3" = share[2],
    "power, rho .5" = share[3], check.names = FALSE
  )
}
cat(sprintf("Size and power at alpha = .05, %d runs each\n\n", runs))
print(do.call(rbind, rows), row.names = FALSE, digits = 2)
