# How often each verdict on the smallest correlation that matters is given: at the border itself "smaller" and "larger" are
# errors, at zero and well beyond they are power. Normal data and four other processes, through relate() as users call it.
library(unsere)
set.seed(29)
runs <- as.integer(Sys.getenv("RUNS", "1000"))
size <- 0.2
pair <- function(n, rho, x, y = x) {
  a <- x(n)
  list(x = a, y = rho * a + sqrt(1 - rho^2) * y(n))
}
unit <- function(draw) function(n) as.vector(scale(draw(n)))
processes <- list(
  normal = function(n, rho) pair(n, rho, stats::rnorm),
  "t with 5 df" = function(n, rho) pair(n, rho, function(n) stats::rt(n, 5) / sqrt(5 / 3)),
  exponential = function(n, rho) pair(n, rho, function(n) stats::rexp(n) - 1),
  "5-point scales" = function(n, rho) {
    # Cut at fifths: r of the steps is less than that of what was cut, so it is wanted of the steps.
    both <- pair(n, rho / (.89 + .035 * rho), stats::rnorm)
    lapply(both, function(v) findInterval(v, stats::qnorm(1:4 / 5)) + 1)
  },
  "zero-inflated outcome" = function(n, rho) {
    x <- stats::rnorm(n)
    shown <- stats::rbinom(n, 1, .5)
    list(x = x, y = shown * (1 + sqrt(3) * rho * x + sqrt(1 - 3 * rho^2) * stats::rnorm(n)))
  }
)
verdicts <- c("smaller", "larger", "uncertain", "inconclusive")
for (rho in c(0, size, 0.5)) {
  cat(sprintf("\nrho = %.1f, smallest = %.1f, share of %d runs\n", rho, size, runs))
  for (name in names(processes)) for (n in c(50, 200, 800)) {
    told <- replicate(runs, {
      data <- as.data.frame(processes[[name]](n, rho))
      relate(data, x, y, coefficient = "pearson", smallest = size)$smallest_verdict
    })
    shares <- vapply(verdicts, function(one) mean(told == one), 0)
    cat(sprintf("%-22s n = %3d  %s\n", name, n, paste(sprintf("%s %.3f", verdicts, shares), collapse = "  ")))
  }
}
