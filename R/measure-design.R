# Cases drawn by a design: weighted moments of units, and statistics without each unit or under each replicate.

#' Sums of a unit's cases: of weights, scores, their squares and their product
#' @noRd
unit_sums <- function(x, y, weight, unit) rowsum(weight * cbind(1, x, y, x * x, y * y, x * y), unit, reorder = TRUE)

#' r from sums of weights, scores, squares and products, a row each
#' @noRd
r_of_sums <- function(sums) {
  w <- sums[, 1]
  product <- sums[, 6] - sums[, 2] * sums[, 3] / w
  squares <- (sums[, 4] - sums[, 2]^2 / w) * (sums[, 5] - sums[, 3]^2 / w)
  unname(ifelse(squares > 0, product / sqrt(pmax(squares, 0)), NA_real_))
}

#' Ranks of weighted cases: the weight below, and half of that at the same value
#' @noRd
weighted_ranks <- function(v, weight) {
  kinds <- sort(unique(v))
  place <- match(v, kinds)
  at <- as.vector(rowsum(weight, place, reorder = TRUE))
  (cumsum(at) - at / 2)[place]
}

# Re-ranking without each unit is done up to so many units times cases; beyond, the ranks of all stay.
most_reranked <- 2e7

#' r of a design, with the variance of its z
#'
#' @param design A list: `weight`, `unit`, `stratum`, `replicates`, `method`, `factor` over these cases.
#' @param ranked Whether scores are ranks.
#' @return A list: `r`, `unexplained`, `variance` (of Fisher's z), `df`, `units`, `strata`, `how`.
#' @references Wolter (2007), Introduction to Variance Estimation, chapters 3 and 4; Judkins (1990), Journal of Official
#'   Statistics 6, 223-239, for Fay's method.
#' @noRd
measure_design <- function(x, y, design, ranked) {
  kept <- design$weight > 0
  scores <- function(weight) {
    if (!ranked) return(list(x = x, y = y))
    list(x = weighted_ranks(x, weight), y = weighted_ranks(y, weight))
  }
  r_under <- function(weight) {
    s <- scores(weight)
    r_of_sums(matrix(colSums(unit_sums(s$x - mean(s$x), s$y - mean(s$y), weight, rep(1L, length(x)))), 1L))
  }
  r <- r_under(design$weight)
  if (is.na(r)) abort_undefined("With these weights a variable does not vary.", "Look at the weights.")
  z <- function(r) atanh(clip(r))
  strata <- length(unique(design$stratum))
  if (!is.null(design$replicates)) {
    each <- apply(design$replicates, 2, r_under)
    k <- length(each)
    factor <- switch(design$method,
      "jackknife-1" = (k - 1) / k,
      "jackknife-n" = design$factor,
      brr = 1 / k,
      fay = 1 / (k * (1 - or_default(design$factor, 0.5))^2),
      bootstrap = 1 / k
    )
    variance <- sum(factor * (z(each) - z(r))^2, na.rm = TRUE)
    df <- k - 1
    units <- k
  } else {
    left <- r_without_units(x, y, design, ranked, scores)
    home <- left$home
    size <- tabulate(home, strata)
    variance <- sum(((size - 1) / size)[home] * (z(left$r) - z(r))^2, na.rm = TRUE)
    units <- length(home)
    df <- units - strata
  }
  list(r = r, unexplained = (1 - r) * (1 + r), variance = variance, df = df, units = units, strata = strata, n = sum(kept))
}

#' r without each unit, the others of its stratum carrying its weight
#' @return A list: `r`, `home` (the stratum of each unit).
#' @noRd
r_without_units <- function(x, y, design, ranked, scores) {
  units <- sort(unique(design$unit))
  home <- design$stratum[match(units, design$unit)]
  home <- match(home, unique(design$stratum))
  size <- tabulate(home)
  grown <- ifelse(size > 1, size / (size - 1), 1)
  if (ranked && as.double(length(units)) * length(x) <= most_reranked) {
    r <- vapply(seq_along(units), function(k) {
      mine <- match(design$stratum, unique(design$stratum)) == home[k]
      weight <- design$weight * ifelse(design$unit == units[k], 0, ifelse(mine, grown[home[k]], 1))
      s <- scores(weight)
      at <- weight > 0
      r_of_sums(matrix(colSums(unit_sums(s$x[at], s$y[at], weight[at], rep(1L, sum(at)))), 1L))
    }, 0)
    return(list(r = r, home = home))
  }
  s <- scores(design$weight)
  sums <- unit_sums(s$x - mean(s$x), s$y - mean(s$y), design$weight, match(design$unit, units))
  total <- colSums(sums)
  stratum <- rowsum(sums, home, reorder = TRUE)
  rest <- sweep(stratum[home, , drop = FALSE] - sums, 1, grown[home], "*")
  others <- matrix(total, nrow(sums), 6, byrow = TRUE) - stratum[home, , drop = FALSE]
  list(r = r_of_sums(others + rest), home = home)
}
