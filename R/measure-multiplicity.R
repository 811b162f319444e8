#' log10 p over many tests: Holm's steps down, or Benjamini and Hochberg's up
#'
#' On the log scale, where a p below what a double holds does not become 0.
#' @references Holm (1979), Scandinavian Journal of Statistics 6, 65-70. Benjamini & Hochberg (1995), Journal of the
#'   Royal Statistical Society B 57, 289-300.
#' @noRd
adjust_log10_p <- function(log10_p, multiplicity) {
  tested <- which(!is.na(log10_p))
  m <- length(tested)
  if (multiplicity == "none" || m == 0) return(log10_p)
  order <- tested[order(log10_p[tested])]
  if (multiplicity == "holm") {
    log10_p[order] <- pmin(0, cummax(log10_p[order] + log10(m - seq_len(m) + 1)))
  } else {
    log10_p[order] <- pmin(0, rev(cummin(rev(log10_p[order] + log10(m / seq_len(m))))))
  }
  log10_p
}

#' What names a pair whichever of its variables stands first
#' @noRd
pair_key <- function(x, y) paste(pmin(x, y), pmax(x, y), sep = "\r")
