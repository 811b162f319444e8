# How many digits agree with exact arithmetic: the log relative error of r, t, p, slope and intercept.
library(unsere)
oracles <- new.env()
sys.source("tests/testthat/helper-oracles.R", oracles)

set.seed(2024)
noise <- rnorm(100)
pairs <- list(
  "scores, n = 100" = list(round(50 + 10 * noise), round(50 + 6 * noise + 8 * rnorm(100))),
  "decimals, n = 100" = list(noise, 0.3 * noise + rnorm(100)),
  "r near 0, n = 100" = list(noise, rnorm(100)),
  "1e8 plus noise, n = 100" = list(1e8 + noise, 1e8 + 0.3 * noise + rnorm(100)),
  "1e12 plus noise, n = 50" = list(1e12 + noise[1:50], 1e12 + noise[50:1] + noise[1:50]),
  "1e150 by 1e-150, n = 60" = list(1e150 * noise[1:60], 1e-150 * (noise[1:60] + noise[41:100])),
  "years 1994-2023" = list(1994:2023 + 0, 3 * (1994:2023) + cumsum(rnorm(30))),
  "1e6 plus 1 to 20" = list(1e6 + 1:20, rnorm(20)),
  "nearly a line (1e-7)" = list(1:40 + 0, 3 * (1:40) + 1e-7 * sin(1:40)),
  "nearly a line (1e-12)" = list(1:40 + 0, 3 * (1:40) + 1e-12 * sin(1:40))
)

rows <- lapply(names(pairs), function(name) {
  x <- pairs[[name]][[1]]
  y <- pairs[[name]][[2]]
  truth <- oracles$longhand(x, y)
  data <- data.frame(x = x, y = y)
  found <- relate(data, x, y)
  fit <- fit_line(data, x, y)
  digits <- function(value, exact) sprintf("%.1f", min(oracles$digits_of(value, exact), 17))
  truth_p <- oracles$student_two_sided(truth$t, truth$n - 2)
  data.frame(
    pair = name, r = digits(found$r, truth$r), t = digits(found$value, truth$t),
    log10_p = digits(found$log10_p, log10(truth_p)), p = if (found$p > 0) digits(found$p, truth_p) else "",
    slope = digits(fit$terms$estimate[2], truth$slope), intercept = digits(fit$terms$estimate[1], truth$intercept)
  )
})
cat("Digits that agree with exact arithmetic (17: all)\n\n")
print(do.call(rbind, rows), row.names = FALSE)
