# Planned power beside the share of clear tests in simulated studies: Pearson (20,000 runs), Spearman and point-biserial.
library(unsere)
runs <- as.integer(Sys.getenv("RUNS", "20000"))
set.seed(21)
clear <- function(x, y) {
  n <- nrow(x)
  x <- sweep(x, 2, colMeans(x))
  y <- sweep(y, 2, colMeans(y))
  r <- colSums(x * y) / sqrt(colSums(x^2) * colSums(y^2))
  mean(2 * pt(-abs(r * sqrt((n - 2) / (1 - r^2))), n - 2) < 0.05)
}
normal <- function(n, rho, count) {
  x <- matrix(rnorm(n * count), n)
  list(x, rho * x + sqrt(1 - rho^2) * matrix(rnorm(n * count), n))
}
draws <- list(
  pearson = function(n, rho, count) normal(n, rho, count),
  spearman = function(n, rho, count) lapply(normal(n, 2 * sin(pi * rho / 6), count), function(m) apply(m, 2, rank)),
  "point-biserial" = function(n, rho, count) {
    g <- rep(0:1, length.out = n)
    list(matrix(g, n, count), matrix(rnorm(n * count), n) + g * 2 * rho / sqrt(1 - rho^2))
  }
)
rows <- NULL
for (kind in names(draws)) for (n in c(10, 30, 100, 1000)) for (rho in c(0.1, 0.3, 0.6)) {
  count <- max(1000, min(runs, 2e6 / n))
  pair <- draws[[kind]](n, rho, count)
  rows <- rbind(rows, data.frame(
    coefficient = kind, n, r = rho, planned = round(plan_size(kind, r = rho, n = n)$power, 3),
    simulated = round(clear(pair[[1]], pair[[2]]), 3), runs = count
  ))
}
print(rows, row.names = FALSE)
pearson <- rows[rows$coefficient == "pearson", ]
cat(sprintf(
  "\nlargest difference for Pearson: %.3f; for all: %.3f\n", max(abs(pearson$planned - pearson$simulated)),
  max(abs(rows$planned - rows$simulated))
))
