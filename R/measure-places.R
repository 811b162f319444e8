# Places: how alike cases near each other are, and how many independent cases they are worth.

#' The distance of every two places
#'
#' @param across,up Coordinates; degrees of longitude and latitude where they can be such.
#' @noRd
place_distances <- function(across, up) {
  if (all(abs(up) <= 90) && all(abs(across) <= 180)) across <- across * cos(mean(up) * pi / 180)
  as.matrix(stats::dist(cbind(across, up)))
}

#' r of a variable's values with those of the nearest place
#' @noRd
nearest_ties <- function(v, distances) {
  diag(distances) <- Inf
  near <- max.col(-distances, ties.method = "first")
  v <- v - mean(v)
  mean(v * v[near]) / mean(v^2)
}

#' How many independent cases two variables over places say as much as
#'
#' The variance of r is the mean, over all pairs of cases, of the product of both variables' likeness at that distance
#' (Clifford, Richardson and Hemon 1989, Biometrics 45, 123-134; Dutilleul 1993, Biometrics 49, 305-314).
#' @param distances Of some of the cases, up to a thousand; `x`, `y` theirs; `n` how many cases there are in all.
#' @noRd
effective_places <- function(x, y, distances, n) {
  pairs <- lower.tri(distances)
  apart <- distances[pairs]
  classes <- max(4L, ceiling(1 + 1.5 * log2(length(x))))
  # Half of the classes share the nearer fifth of all pairs, where likeness is.
  ends <- unique(stats::quantile(apart, c(seq(0, .2, length.out = classes + 1L), seq(.2, 1, length.out = classes + 1L)[-1])))
  class <- findInterval(apart, ends, rightmost.closed = TRUE)
  counts <- tabulate(class)
  likeness <- function(v) {
    v <- (v - mean(v)) / sqrt(mean((v - mean(v))^2))
    products <- outer(v, v)[pairs]
    pmax(-1, pmin(1, vapply(split(products, class), mean, 0)))
  }
  shared <- sum(counts[counts > 0] * likeness(x) * likeness(y)) / length(apart)
  min(n, 1 / (1 / n + (1 - 1 / n) * max(shared, 0)))
}
