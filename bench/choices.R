# The joint test of vary_choices(): how often it is below .05 where x and y are related through the control variables
# alone, and where they are related beyond them; on normal data and five others, with clusters in one.
#   RUNS=300 Rscript bench/choices.R
library(unsere)
runs <- as.integer(Sys.getenv("RUNS", "200"))
set.seed(41)
shapes <- list(
  normal = stats::rnorm, "t, 4 df" = function(n) stats::rt(n, 4) / sqrt(2),
  lognormal = function(n) exp(stats::rnorm(n)) - 1.65,
  "many zeros" = function(n) ifelse(stats::runif(n) < 0.6, 0, stats::rexp(n)),
  "5-point" = function(n) sample(-2:2, n, TRUE)
)
one <- function(name, n, beyond) {
  draw <- if (name == "classes") stats::rnorm else shapes[[name]]
  age <- stats::rnorm(n)
  class <- rep(seq_len(ceiling(n / 10)), each = 10)[seq_len(n)]
  shared <- function() if (name == "classes") stats::rnorm(max(class))[class] else 0
  x <- 0.5 * age + draw(n) + shared()
  data <- data.frame(x, y = 0.5 * age + beyond * x + draw(n) + shared(), age, other = stats::rnorm(n), class)
  data$other[stats::runif(n) < 0.1] <- NA
  study <- as_study(data)
  for (column in c("x", "y")) study <- set_variable(study, column, level = "numeric")
  if (name == "classes") study <- set_variable(study, "class", role = "cluster")
  vary_choices(study, x, y, given = c(age, other), permutations = 199)$p < 0.05
}
cat("Share of joint p below .05\n")
cat(sprintf("%-12s %5s %18s %18s\n", "data", "n", "controls alone", "beyond (b = .3)"))
for (name in c(names(shapes), "classes")) for (n in c(40, 150)) {
  shares <- vapply(c(0, 0.3), function(beyond) mean(replicate(runs, one(name, n, beyond))), 0)
  cat(sprintf("%-12s %5d %18.3f %18.3f\n", name, n, shares[1], shares[2]))
}
