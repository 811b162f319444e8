# r corrected for a restricted range: how often the 95 % interval holds the correlation of the population that the
# cases were
# selected from, by x itself, by a third variable, and by something that goes with x; on normal data and four others.
#   RUNS=1000 Rscript bench/range.R
library(unsere)
runs <- as.integer(Sys.getenv("RUNS", "500"))
set.seed(31)
draws <- list(
  normal = stats::rnorm, "t, 5 df" = function(n) stats::rt(n, 5) / sqrt(5 / 3),
  uniform = function(n) stats::runif(n, -sqrt(3), sqrt(3)),
  "gamma, shape 3" = function(n) (stats::rgamma(n, 3) - 3) / sqrt(3),
  "spread grows" = function(n) stats::rnorm(n)
)
population <- function(kind, n, r) {
  x <- draws[[kind]](n)
  error <- stats::rnorm(n) * if (kind == "spread grows") sqrt((0.5 + x^2) / 1.5) else 1
  data.frame(x = x, y = r * x + sqrt(1 - r^2) * error)
}
one <- function(kind, n, r, way, kept) {
  pool <- population(kind, ceiling(4 * n / kept), r)
  third <- 0.6 * pool$x + 0.8 * stats::rnorm(nrow(pool))
  reliability <- 0.8
  if (way == "indirect") pool$x <- pool$x + stats::rnorm(nrow(pool)) * sqrt(1 / reliability - 1)
  by <- switch(way,
    direct = pool$x,
    third = third,
    indirect = third
  )
  pool$third <- third
  chosen <- utils::head(which(by > stats::quantile(by, 1 - kept)), n)
  here <- pool[chosen, ]
  found <- switch(way,
    direct = relate(here, x, y, correct_range = c(x = 1)),
    third = relate(here, x, y, correct_range = c(third = 1)),
    indirect = {
      sd <- sqrt(1 / reliability)
      left <- max(0.05, 1 - sd^2 / stats::var(here$x) * (1 - reliability))
      relate(here, x, y, correct_range = c(x = sd), restriction = "indirect", correct_for = c(x = left))
    }
  )$unrestricted
  truth <- if (way == "indirect") r * sqrt(reliability) else r
  c(held = found$ci_low <= truth && truth <= found$ci_high, off = found$r - truth)
}
cat(sprintf("%-15s %-9s %5s %5s %6s %6s %8s\n", "data", "selected", "n", "kept", "r", "held", "mean off"))
for (way in c("direct", "third", "indirect")) for (kind in names(draws)) for (n in c(60, 250)) {
  found <- replicate(runs, tryCatch(one(kind, n, 0.5, way, 0.4), unsere_error = function(e) c(NA, NA)))
  told <- rowMeans(found, na.rm = TRUE)
  cat(sprintf("%-15s %-9s %5d %5.1f %6.1f %6.3f %8.3f\n", kind, way, n, 0.4, 0.5, told[1], told[2]))
}
