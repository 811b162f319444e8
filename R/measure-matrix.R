# Every pair of some columns at once: the kernels that several coefficients share.

#' All pairs of columns by products of moments
#' @param columns A list of double vectors of one length, missing values as `NA`.
#' @return Columns by columns, as vectors: `r`, `unexplained`, `n`; and `spreads`, the columns' own `mean`, `sd` and `n`.
#' @noRd
product_kernel <- function(columns, wanted, threads, tick) core_matrix(columns, threads, 0L)

#' All pairs of columns by ranks, with what [log_p_by_moments()] needs of each column's ranks among the cases of each pair
#'
#' Ranking each pair anew takes long where values are missing: done part by part then, so that progress can be told.
#' @param wanted A logical vector, columns by columns.
#' @noRd
rank_kernel <- function(columns, wanted, threads, tick) {
  p <- length(columns)
  spreads <- core_spreads(columns, threads)
  complete <- all(spreads$n == length(columns[[1]]))
  among <- function(options) core_rank_matrix(columns, options, complete, threads, 0L)
  if (complete || sum(wanted) / 2 * length(columns[[1]]) < 2e8) return(c(among(wanted), list(spreads = spreads)))
  out <- NULL
  parts <- split(seq_len(p), cut(seq_len(p)^2, 12, labels = FALSE))
  for (k in seq_along(parts)) {
    mask <- matrix(wanted, p, p)
    mask[, -parts[[k]]] <- FALSE
    estimates <- among(as.vector(mask))
    mine <- as.vector(mask | t(mask))
    if (is.null(out)) out <- estimates
    for (field in names(estimates)) out[[field]][mine] <- estimates[[field]][mine]
    tick(k / length(parts))
  }
  c(out, list(spreads = spreads))
}

#' The places of the pairs in a table of columns by columns, in the order of the columns
#' @param kinds A character matrix: the coefficient of each pair, `NA` where there is none.
#' @noRd
pair_places <- function(kinds) {
  p <- nrow(kinds)
  if (p > 1L && !anyNA(kinds[upper.tri(kinds)])) {
    i <- rep(seq_len(p - 1L), seq(p - 1L, 1L))
    j <- sequence(seq(p - 1L, 1L), seq(2L, p))
    return(list(i = i, j = j, coefficient = kinds[i + (j - 1) * p]))
  }
  places <- which(upper.tri(kinds) & !is.na(kinds), arr.ind = TRUE)
  places <- places[order(places[, 1], places[, 2]), , drop = FALSE]
  list(i = unname(places[, 1]), j = unname(places[, 2]), coefficient = kinds[places])
}
