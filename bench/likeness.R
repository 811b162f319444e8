# How often the interval of the intraclass correlation, as relate_levels() tells it, holds the truth: groups of equal and of
# unequal size, on normal data and on data with heavy tails or skew. RUNS sets how many samples each.
suppressMessages(library(unsere))
runs <- as.integer(Sys.getenv("RUNS", "400"))
RNGkind("L'Ecuyer-CMRG")
set.seed(2)
draws <- list(
  normal = rnorm, "t, 5 df" = function(n) rt(n, 5) / sqrt(5 / 3), exponential = function(n) rexp(n) - 1
)
holds <- function(groups, unequal, icc, draw) {
  sizes <- if (unequal) pmax(2, round(rgamma(groups, 1 / .36, 1 / (.36 * 15)))) else rep(15, groups)
  group <- rep(seq_len(groups), sizes)
  y <- sqrt(icc) * draw(groups)[group] + sqrt(1 - icc) * draw(length(group))
  found <- relate_levels(data.frame(x = rnorm(length(y)), y, group), x, y, group)$likeness[2, ]
  found$ci_low <= icc && icc <= found$ci_high
}
cells <- expand.grid(
  icc = c(.05, .3, .6), groups = c(5, 8, 15, 40), unequal = c(FALSE, TRUE), data = names(draws), stringsAsFactors = FALSE
)
cells$held <- unlist(parallel::mcmapply(function(groups, unequal, icc, data) {
  mean(replicate(runs, holds(groups, unequal, icc, draws[[data]])))
}, cells$groups, cells$unequal, cells$icc, cells$data, mc.cores = 2, mc.preschedule = FALSE))
cat(sprintf("Share of %d samples whose interval of the intraclass correlation holds the truth (.05, .3, .6)\n\n", runs))
wide <- stats::reshape(cells, direction = "wide", idvar = c("data", "unequal", "groups"), timevar = "icc")
print(wide, row.names = FALSE, digits = 3)
for (data in names(draws)) {
  cat(sprintf("%-12s %.3f to %.3f\n", data, min(cells$held[cells$data == data]), max(cells$held[cells$data == data])))
}
