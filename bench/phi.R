# How often the 95 % interval of phi holds the truth, for shares of .05 to .5, phi from negative to near the most that the
# margins allow, and n = 20, 50 and 200; samples without a case on some side have no phi and are left out.
#   Rscript bench/phi.R [runs] [seed]
library(unsere)
given <- as.numeric(commandArgs(TRUE))
runs <- c(given, 2000)[1]
set.seed(if (length(given) > 1) given[2] else 16)

one_interval <- function(counts) {
  cells <- rep(1:4, counts)
  x <- as.double(cells <= 2)
  y <- as.double(cells %in% c(1, 3))
  if (min(x) == max(x) || min(y) == max(y)) return(NULL)
  sample <- list(x = x, y = y, names = c("x", "y"))
  estimate <- unsere:::estimate_sample(sample, "phi")
  found <- unsere:::interval_estimate(estimate, "analytic", 0.95, NULL)
  if (is.na(found$ci_low)) NULL else c(found$ci_low, found$ci_high)
}

cat(sprintf("%d samples each\n\n%4s %6s %6s  %s\n", runs, "n", "share", "share", "phi: held"))
for (n in c(20, 50, 200)) {
  for (shares in list(c(.05, .05), c(.05, .5), c(.1, .1), c(.1, .3), c(.2, .5), c(.3, .3), c(.5, .5))) {
    p <- shares
    root <- sqrt(prod(p, 1 - p))
    ends <- c(-min(prod(p), prod(1 - p)), min(p[1] * (1 - p[2]), p[2] * (1 - p[1]))) / root
    told <- vapply(c(.8 * ends[1], 0, .3 * ends[2], .7 * ends[2]), function(phi) {
      both <- prod(p) + phi * root
      samples <- stats::rmultinom(runs, n, pmax(c(both, p[1] - both, p[2] - both, 1 - sum(p) + both), 0))
      limits <- do.call(rbind, apply(samples, 2, one_interval, simplify = FALSE))
      sprintf("%5.2f: %.3f", phi, mean(limits[, 1] <= phi + 1e-9 & phi - 1e-9 <= limits[, 2]))
    }, "")
    cat(sprintf("%4d %6.2f %6.2f  %s\n", n, p[1], p[2], paste(told, collapse = "  ")))
  }
}
