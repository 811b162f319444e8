# What pool_relations() tells, on groups whose true z are drawn around a known mean: how often the mean's interval
# holds it,
# how often the prediction interval holds the r of a new group, how often tau's interval holds tau, how often a mean
# of zero is
# called significant; on data of several kinds, groups of several numbers and sizes, and waves of the same persons.
#   RUNS=300 Rscript bench/pooled.R
library(unsere)
runs <- as.integer(Sys.getenv("RUNS", "300"))
set.seed(48)

kinds <- list(
  normal = function(n, r) {
    x <- rnorm(n)
    cbind(x, r * x + sqrt(1 - r^2) * rnorm(n))
  },
  "t, 5 df" = function(n, r) kinds$normal(n, r) / sqrt(rchisq(n, 5) / 5),
  "x lognormal" = function(n, r) {
    x <- scale(exp(rnorm(n, sd = 0.8)))[, 1]
    cbind(x, r * x + sqrt(1 - r^2) * rnorm(n))
  },
  "many zeros" = function(n, r) {
    x <- ifelse(runif(n) < 0.5, 0, rexp(n))
    cbind(x, r * (x - 0.5) / sqrt(0.75) + sqrt(1 - r^2) * rnorm(n))
  },
  "5-point scales" = function(n, r) {
    pair <- kinds$normal(n, r)
    apply(pair, 2, function(v) findInterval(v, c(-1.4, -0.5, 0.5, 1.4)))
  },
  "spread grows" = function(n, r) {
    x <- rnorm(n)
    cbind(x, r * x + sqrt(1 - r^2) * rnorm(n) * sqrt((0.4 + x^2) / 1.4))
  }
)

one_run <- function(kind, groups, size, mean, tau) {
  sizes <- pmax(8L, round(size * exp(rnorm(groups, sd = 0.4))))
  truth <- tanh(rnorm(groups, atanh(mean), tau))
  rows <- do.call(rbind, Map(
    function(n, r, name) data.frame(kinds[[kind]](n, r), group = name), sizes, truth,
    sprintf("g%02d", seq_len(groups))
  ))
  names(rows)[1:2] <- c("x", "y")
  study <- set_variable(set_variable(as_study(rows), "x", level = "numeric"), "y", level = "numeric")
  found <- pool_relations(study, x, y, by = group)
  new <- tanh(rnorm(1, atanh(mean), tau))
  c(
    found$ci_low <= target(kind, mean) && target(kind, mean) <= found$ci_high,
    found$prediction_low <= target(kind, new) && target(kind, new) <= found$prediction_high,
    found$tau_low <= tau + 1e-9 && tau <= found$tau_high + 1e-9, found$p < 0.05, found$q_p < 0.05
  )
}

# The r that a kind of data has where it is made with r: the coarse scale has another.
cor_of <- function(x, y) {
  x <- x - mean(x)
  y <- y - mean(y)
  sum(x * y) / sqrt(sum(x^2) * sum(y^2))
}
coarse <- local({
  grid <- seq(-0.9, 0.9, 0.1)
  at <- vapply(grid, function(r) {
    pair <- kinds[["5-point scales"]](200000, r)
    cor_of(pair[, 1], pair[, 2])
  }, 0)
  stats::splinefun(grid, at)
})
target <- function(kind, r) if (kind == "5-point scales") coarse(r) else r

cells <- rbind(
  expand.grid(kind = names(kinds), groups = c(4, 12), size = 40, mean = c(0, 0.4), tau = 0.15, stringsAsFactors = FALSE),
  data.frame(
    kind = "normal", groups = c(3, 8, 25, 8, 25), size = c(40, 15, 15, 40, 40), mean = 0.4,
    tau = c(0.15, 0.15, 0.15, 0, 0)
  )
)
told <- c("mean held", "new held", "tau held", "mean p < .05", "Q p < .05")
cat(sprintf(
  "%-15s %6s %5s %5s %5s  %s\n", "data", "groups", "size", "mean", "tau",
  paste(sprintf("%14s", told), collapse = "")
))
for (k in seq_len(nrow(cells))) {
  cell <- cells[k, ]
  found <- replicate(runs, do.call(one_run, as.list(cell)))
  cat(sprintf(
    "%-15s %6d %5d %5.2f %5.2f  %s\n", cell$kind, cell$groups, cell$size, cell$mean, cell$tau,
    paste(sprintf("%14.3f", rowMeans(found, na.rm = TRUE)), collapse = "")
  ))
}

# The same persons in several waves: their errors depend on one another, and the mean's interval has to know it.
waves <- function(persons, waves, r, stability) {
  steady <- kinds$normal(persons, r)
  rows <- do.call(rbind, lapply(seq_len(waves), function(wave) {
    data.frame(sqrt(stability) * steady + sqrt(1 - stability) * kinds$normal(persons, r),
      person = seq_len(persons), wave = paste("wave", wave)
    )
  }))
  names(rows)[1:2] <- c("x", "y")
  study <- set_variable(as_study(rows), "person", role = "case")
  found <- pool_relations(study, x, y, by = wave)
  c(found$ci_low <= r && r <= found$ci_high, found$q_p < 0.05)
}
cat("\nThe same persons in 4 waves (n = 80), r = .3 each time, no spread\n")
for (stability in c(0, 0.5, 0.9)) {
  found <- rowMeans(replicate(runs, waves(80, 4, 0.3, stability)))
  cat(sprintf("stability %.1f: mean held %.3f, Q significant %.3f\n", stability, found[1], found[2]))
}
