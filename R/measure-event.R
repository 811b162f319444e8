# A run of periods as one event that both series share: whether a relation beyond the trend is more than that.

#' The smallest r, towards zero, that one shared event of three periods up to a third of all leaves
#'
#' An event lifts or lowers the levels of a run of neighbouring periods by one amount. In series from each of which a share
#' of the period before is taken off it stands at the beginning, within and after the run. Each run in turn is taken out of
#' both; of very long series runs of some lengths alone.
#' @param tied From `tied_series()` of the prewhitened series, `basis` what it was freed of.
#' @param share,wide What share of the period before was taken off at each place, and how much wider a longer step spreads.
#' @return A list: `r`, `p`; `NA` where there are too few periods.
#' @noRd
weakest_without_event <- function(tied, basis, share, wide) {
  none <- list(r = NA_real_, p = NA_real_)
  if (is.null(tied$a)) return(none)
  there <- !is.na(tied$a)
  periods <- length(there) + 1L
  df <- min(tied$n_effective, sum(there) - 1) - 2 - ncol(basis)
  longest <- periods %/% 3L
  if (df < 1 || longest < 3L) return(none)
  columns <- cbind(tied$a, tied$b, orthogonal_rows(basis, there))
  columns[!there, ] <- 0
  lengths <- 3:longest
  if (periods > 120L) lengths <- unique(round(exp(seq(log(3), log(min(longest, 60L)), length.out = 20))))
  first <- unlist(lapply(lengths, function(k) seq_len(periods - k + 1L)))
  on <- on_events(columns, first, first + rep(lengths, periods - lengths + 1L) - 1L, share, ifelse(there, 1 / wide, 0))
  if (!nrow(on)) return(none)
  squares <- colSums(columns[, 1:2]^2)
  remaining <- function(side) pmax(squares[side] - on[, side]^2, 1e-12 * squares[side])
  r <- (sum(columns[, 1] * columns[, 2]) - on[, 1] * on[, 2]) / sqrt(remaining(1) * remaining(2))
  least <- clip(r[which.min(r * sign(tied$r))])
  list(r = least, p = p_two_sided(least * sqrt(df / ((1 - least) * (1 + least))), df))
}

# A basis as orthonormal columns over the rows that are there, zero elsewhere.
orthogonal_rows <- function(basis, there) {
  parts <- qr(basis[there, , drop = FALSE])
  columns <- matrix(0, length(there), parts$rank)
  columns[there, ] <- qr.Q(parts)[, seq_len(parts$rank)]
  columns
}

#' The lengths of two series along each event, freed of the basis
#'
#' @param columns The two series, then the orthonormal basis; `first`, `last` the periods of each event; `weight` of a row.
#' @return A matrix of two columns, a row an event that is not in the basis.
#' @noRd
on_events <- function(columns, first, last, share, weight) {
  rows <- nrow(columns)
  within <- (1 - share) * weight
  total <- apply(rbind(0, columns * within), 2, cumsum)
  squares <- cumsum(c(0, within^2))
  begins <- pmax(first - 1L, 1L)
  enters <- weight[begins] * (first > 1L)
  ends <- pmin(last, rows)
  leaves <- (-share * weight)[ends] * (last <= rows)
  on <- columns[begins, ] * enters + total[last, ] - total[first, ] + columns[ends, ] * leaves
  size <- enters^2 + squares[last] - squares[first] + leaves^2 - rowSums(on[, -(1:2), drop = FALSE]^2)
  usable <- size > 1e-8
  on[usable, 1:2, drop = FALSE] / sqrt(size[usable])
}
