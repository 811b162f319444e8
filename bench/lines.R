# Lines: digits that agree with exact fractions, and the time of a million cases against crossprod of as many by three.
library(unsere)
library(gmp)
runs <- as.integer(Sys.getenv("RUNS", "7"))

exact_fit <- function(x, y, powers) {
  columns <- lapply(powers, function(p) as.bigq(x)^p)
  k <- length(columns)
  a <- as.bigq(matrix(0, k, k))
  b <- as.bigq(rep(0, k))
  for (i in seq_len(k)) {
    for (j in seq_len(k)) a[i, j] <- sum(columns[[i]] * columns[[j]])
    b[i] <- sum(columns[[i]] * as.bigq(y))
  }
  list(estimates = solve(a, b), inverse = solve(a))
}
digits <- function(ours, truth) {
  error <- abs(as.numeric((as.bigq(ours) - truth) / truth))
  min(17, -log10(error))
}
set.seed(1)
cases <- list("ordinary" = runif(25, 1, 9), "years 1994 to 2023" = 1994:2023 + 0, "1e6 plus 1 to 20" = 1e6 + 1:20)
for (name in names(cases)) {
  x <- cases[[name]]
  y <- 3 + 0.25 * x + 0.01 * (x - mean(x))^2 + rnorm(length(x))
  for (shape in c("linear", "quadratic")) {
    fit <- fit_line(data.frame(x, y), x, y, shape = shape)
    truth <- exact_fit(x, y, if (shape == "linear") 0:1 else 0:2)
    powers <- lapply(seq_along(truth$estimates), function(k) truth$estimates[k] * as.bigq(x)^(k - 1))
    residual <- as.bigq(y) - Reduce(`+`, powers)
    variance <- sum(residual^2) / (length(x) - length(truth$estimates))
    se <- vapply(seq_along(truth$estimates), function(k) digits(fit$terms$se[k]^2, truth$inverse[k, k] * variance), 0)
    cat(sprintf(
      "%-20s %-10s fewest digits: estimates %.1f, squared standard errors %.1f\n", name, shape,
      min(mapply(function(k) digits(fit$terms$estimate[k], truth$estimates[k]), seq_along(truth$estimates))), min(se)
    ))
  }
}

n <- 1e6
x <- rnorm(n)
y <- x + rnorm(n)
three <- cbind(1, x, y)
least <- function(work) min(vapply(seq_len(runs), function(i) system.time(work())[["elapsed"]], 0))
base <- least(function() crossprod(three))
for (threads in 1:2) for (curved in c(FALSE, TRUE)) {
  ours <- least(function() unsere:::core_line(x, y, curved, threads))
  cat(sprintf(
    "a million cases, %s, %d threads: %.3f s, %.2f times crossprod of a million by three with R's own BLAS (%.3f s)\n",
    if (curved) "quadratic" else "linear", threads, ours, ours / base, base
  ))
}
