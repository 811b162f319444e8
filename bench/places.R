# What relating says of cases that have a place (columns lat and lon): of pairs of variables with nothing in common, each of
# which is alike at places near each other, and of pairs tied at every place. How often p is below .05; how often the
# likeness is told; how often a relation is clear and nothing turns it round. RUNS sets how many pairs of each kind.
library(unsere)
runs <- as.integer(Sys.getenv("RUNS", "200"))
set.seed(as.integer(Sys.getenv("SEED", "1")))

field <- function(apart, reach) {
  n <- nrow(apart)
  if (reach == 0) rnorm(n) else as.vector(t(chol(exp(-apart / reach) + diag(1e-8, n))) %*% rnorm(n))
}
one <- function(n, reach, tie) {
  lon <- runif(n)
  lat <- runif(n)
  apart <- as.matrix(stats::dist(cbind(lon, lat)))
  x <- field(apart, reach)
  y <- tie * x + sqrt(1 - tie^2) * field(apart, reach)
  found <- relate(data.frame(lat, lon, x, y), x, y)
  at <- match("alike_neighbours", found$cautions$code)
  turned <- !is.na(at) && found$cautions$severity[at] == "serious"
  c(clear = found$p < .05, told = !is.na(at), stands = found$p < .05 && !turned)
}
cat("places in a square of side 1; likeness falls to 1/e at the reach\n\n")
cat(sprintf("%-24s %5s %5s   %7s  %6s  %22s\n", "", "n", "reach", "p < .05", "told", "clear, not turned round"))
for (tie in c(0, .6)) for (n in c(50, 150, 400)) for (reach in c(0, .05, .15, .4)) {
  found <- rowMeans(replicate(if (n > 200) runs / 2 else runs, one(n, reach, tie)))
  kind <- if (tie) "tied at every place, .6" else "nothing in common"
  cat(sprintf("%-24s %5d %5.2f   %7.2f  %6.2f  %22.2f\n", kind, n, reach, found[1], found[2], found[3]))
}
