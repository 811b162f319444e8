# Sums of products that a design perturbs: taken once for each unit that was drawn, so that any figure made of them is had
# without each unit, or under each replicate weight.

#' The places of the products of k columns, the first of which counts: column by column of the upper triangle
#' @noRd
product_places <- function(k) {
  places <- which(upper.tri(diag(k), diag = TRUE), arr.ind = TRUE)
  list(i = unname(places[, 1]), j = unname(places[, 2]))
}

#' Sums of weighted products of all pairs of columns, and of a column of ones before them; a row a unit
#'
#' A few columns are summed in R's longer numbers; of many the products are never held all at once.
#' @noRd
unit_sums <- function(columns, weight, unit) {
  all <- cbind(1, columns)
  at <- product_places(ncol(all))
  if (as.double(nrow(all)) * length(at$i) <= most_products) {
    return(rowsum(weight * all[, at$i, drop = FALSE] * all[, at$j, drop = FALSE], unit, reorder = TRUE))
  }
  root <- sqrt(weight)
  all <- c(list(root), lapply(seq_len(ncol(columns)), function(k) as.double(columns[, k]) * root))
  core_unit_sums(all, as.integer(unit), max(unit), 2L)
}

most_products <- 1e7

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

#' The sums of some columns as a design perturbs them
#'
#' @param columns A matrix of numbers, a row a case.
#' @param design A list: `weight`, `unit`, `stratum`, `replicates`, `method`, `factor` over these cases.
#' @param ranked Whether the columns' ranks count.
#' @return A list: `whole` (the sums of all cases), `parts` (a row without each unit, the others of its stratum
#'   carrying its
#'   weight, or a row for each replicate), `scale` (what the squared distance of each row counts), `df`, `units`,
#'   `strata`.
#' @references Wolter (2007), Introduction to Variance Estimation, chapters 3 and 4; Judkins (1990), Journal of Official
#'   Statistics 6, 223-239, for Fay's method.
#' @noRd
perturbed_sums <- function(columns, design, ranked = FALSE) {
  columns <- sweep(columns, 2, colMeans(columns))
  scores <- function(weight) if (ranked) centred_ranks(columns, weight) else columns
  under <- function(weight) colSums(unit_sums(scores(weight), weight, rep(1L, nrow(columns))))
  strata <- length(unique(design$stratum))
  if (!is.null(design$replicates)) {
    k <- ncol(design$replicates)
    parts <- if (ranked) t(apply(design$replicates, 2, under)) else sums_by_replicate(columns, design$replicates)
    scale <- rep(replicate_scale(design, k), length.out = k)
    return(list(
      whole = under(design$weight), parts = parts, scale = scale, df = or_default(design$df, k - 1), units = k,
      strata = strata
    ))
  }
  units <- sort(unique(design$unit))
  home <- match(design$stratum[match(units, design$unit)], unique(design$stratum))
  size <- tabulate(home, strata)
  grown <- ifelse(size > 1, size / (size - 1), 1)
  anew <- ranked && as.double(length(units)) * nrow(columns) <= most_reranked
  parts <- if (anew) {
    at <- match(design$stratum, unique(design$stratum))
    t(vapply(seq_along(units), function(k) {
      under(design$weight * ifelse(design$unit == units[k], 0, ifelse(at == home[k], grown[home[k]], 1)))
    }, numeric((ncol(columns) + 1) * (ncol(columns) + 2) / 2)))
  } else {
    sums_without_units(unit_sums(scores(design$weight), design$weight, match(design$unit, units)), home, grown)
  }
  list(
    whole = under(design$weight), parts = parts, scale = ((size - 1) / size)[home],
    df = or_default(design$df, length(units) - strata),
    units = length(units), strata = strata
  )
}

centred_ranks <- function(columns, weight) {
  ranks <- apply(columns, 2, weighted_ranks, weight)
  # Of cases that weigh nothing the rank counts for nothing.
  sweep(ranks, 2, colMeans(ranks))
}

sums_by_replicate <- function(columns, replicates) {
  all <- cbind(1, columns)
  at <- product_places(ncol(all))
  crossprod(replicates, all[, at$i, drop = FALSE] * all[, at$j, drop = FALSE])
}

sums_without_units <- function(sums, home, grown) {
  stratum <- rowsum(sums, home, reorder = TRUE)[home, , drop = FALSE]
  others <- matrix(colSums(sums), nrow(sums), ncol(sums), byrow = TRUE) - stratum
  others + (stratum - sums) * grown[home]
}

#' How many directions replicate weights deviate from the weights in: the units less the strata that they were made from
#'
#' @return A number between 1 and the number of replicates less one. A singular value counts if it is larger than
#'   1e-6 of the
#'   largest, and than all that rounding the weights as they are written can make; small whole weights are not rounded.
#' @noRd
rank_of_replicates <- function(replicates, weight) {
  k <- ncol(replicates)
  deviations <- unique(cbind(replicates - weight))
  singular <- sqrt(pmax(eigen(crossprod(deviations), symmetric = TRUE, only.values = TRUE)$values, 0))
  places <- places_written(replicates)
  rounded <- places > 0 || stats::median(weight) > 50
  rounding <- if (rounded) 10^-places / sqrt(12) * sqrt(nrow(deviations) * k) else 0
  as.double(min(k - 1, max(1, sum(singular > max(1e-6 * singular[1], rounding)))))
}

#' What the squared distance of each replicate's figure from the whole's counts
#' @noRd
replicate_scale <- function(design, k) {
  switch(design$method,
    "jackknife-1" = (k - 1) / k,
    "jackknife-n" = design$factor,
    brr = 1 / k,
    fay = 1 / (k * (1 - or_default(design$factor, 0.5))^2),
    bootstrap = 1 / k
  )
}

#' Sums as centred products: a matrix of the columns, their means and the sum of weights
#' @noRd
centred_products <- function(sums, k) {
  moments <- matrix(0, k + 1L, k + 1L)
  moments[upper.tri(moments, diag = TRUE)] <- sums
  moments[lower.tri(moments)] <- t(moments)[lower.tri(moments)]
  total <- moments[1, 1]
  first <- moments[-1, 1]
  list(products = moments[-1, -1, drop = FALSE] - tcrossprod(first) / total, means = first / total, weight = total)
}

#' Figures made of sums, and how far they may be off together
#'
#' @param perturbed From [perturbed_sums()] of k columns.
#' @param figure From [centred_products()] to a vector of figures.
#' @return A list: `value`, `covariance` (a matrix).
#' @noRd
perturb_figures <- function(perturbed, k, figure) {
  value <- figure(centred_products(perturbed$whole, k))
  each <- vapply(seq_len(nrow(perturbed$parts)), function(row) {
    as.double(figure(centred_products(perturbed$parts[row, ], k)))
  }, numeric(length(value)))
  off <- matrix(each, length(value)) - value
  usable <- colSums(is.na(off)) == 0
  off <- off[, usable, drop = FALSE] * rep(sqrt(perturbed$scale[usable]), each = length(value))
  list(value = value, covariance = tcrossprod(off))
}

#' r of two of some columns, what the others say taken out of both, or of the one named
#' @param of,held Places among the columns; `part` the place of the one alone that it is taken out of.
#' @noRd
r_of_products <- function(products, of, controls = integer(), part = NULL) {
  residual <- products[of, of]
  if (length(controls)) {
    weights <- solve(products[controls, controls, drop = FALSE], products[controls, of, drop = FALSE])
    taken <- crossprod(products[controls, of, drop = FALSE], weights)
    if (is.null(part)) {
      residual <- residual - taken
    } else {
      residual[part, part] <- residual[part, part] - taken[part, part]
      residual[1, 2] <- residual[2, 1] <- residual[1, 2] - taken[1, 2]
    }
  }
  if (!isTRUE(min(diag(residual)) > 0)) return(NA_real_)
  clip(residual[1, 2] / (sqrt(residual[1, 1]) * sqrt(residual[2, 2])))
}
