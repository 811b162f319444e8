# What the verdict is worth over several units (schools over years): which one is given of pairs that share a trend alone, of
# pairs whose units differ, of pairs tied within units, and of pairs with nothing in common; and how often `relate()`, told
# neither time nor units, warns of a shared trend. RUNS sets how many pairs of each kind.
library(unsere)
runs <- as.integer(Sys.getenv("RUNS", "120"))
RNGkind("L'Ecuyer-CMRG")
set.seed(as.integer(Sys.getenv("SEED", "1")))
kinds <- list(
  "a trend each" = function(d) list(x = d$a + .5 * d$t + d$e, y = d$b + .4 * d$t + d$f),
  "a trend each, units that differ much" = function(d) list(x = 3 * d$a + .5 * d$t + d$e, y = 3 * d$b + .4 * d$t + d$f),
  "exceptional years in common" = function(d) list(x = d$a + 2 * d$shock + d$e, y = d$b + 2 * d$shock + d$f),
  "units that differ in both" = function(d) list(x = d$a + .6 * d$e, y = .7 * d$a + .7 * d$b + .6 * d$f),
  "units that differ, and a trend each" = function(d) {
    list(x = d$a + .5 * d$t + .6 * d$e, y = .7 * d$a + .7 * d$b + .4 * d$t + .6 * d$f)
  },
  "walks of each unit" = function(d) list(x = ave(d$e, d$unit, FUN = cumsum), y = ave(d$f, d$unit, FUN = cumsum)),
  "nothing in common" = function(d) list(x = d$a + d$e, y = d$b + d$f),
  "tied within units at .6, a trend each" = function(d) {
    list(x = d$a + .3 * d$t + d$e, y = d$b + .3 * d$t + .6 * d$e + .8 * d$f)
  }
)
draw <- function(units, times) {
  d <- expand.grid(t = seq_len(times), unit = seq_len(units))
  n <- nrow(d)
  cbind(d, a = rnorm(units)[d$unit], b = rnorm(units)[d$unit], shock = rnorm(times)[d$t], e = rnorm(n), f = rnorm(n))
}
answers <- c("trend only", "between units", "cannot tell", "weakened", "holds", "no relation")
# Of fewer than five units the mean is looked at, as one series.
for (size in list(c(3, 20), c(5, 16), c(12, 8), c(40, 5), c(100, 3))) {
  told <- t(vapply(kinds, function(kind) {
    found <- replicate(runs, {
      d <- draw(size[1], size[2])
      data <- data.frame(school = sprintf("S%03d", d$unit), year = 2000 + d$t, kind(d))
      verdict <- flag_spurious(data, x, y, time = year, group = school)$verdict
      warned <- any(with(relate(data, x, y)$cautions, code == "shared_trend"))
      c(answers == verdict, warned)
    })
    rowMeans(found)
  }, numeric(length(answers) + 1L)))
  cat(sprintf("%d units over %d times, %d pairs a kind; the last column: relate() warns\n", size[1], size[2], runs))
  colnames(told) <- c(answers, "warned")
  table <- formatC(told, format = "f", digits = 2)
  cat(sprintf("%37s %s\n", "", paste(formatC(colnames(told), width = 13), collapse = " ")))
  cat(sprintf("%37s %s\n", rownames(told), apply(table, 1, function(row) paste(formatC(row, width = 13), collapse = " "))),
    "\n",
    sep = ""
  )
}
