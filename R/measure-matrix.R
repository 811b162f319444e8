#' Every pair of some columns
#'
#' @param columns A named list of double vectors of one length, missing values as `NA`.
#' @param kinds A character matrix, columns by columns: the coefficient of each pair, `NA` where there is none.
#' @return A data frame, a row a pair in the order of the columns: `i`, `j` (their places), `coefficient`, `r`,
#'   `unexplained`, `n`, `ci_low`, `ci_high`, `p`, `log10_p`.
#' @noRd
measure_matrix <- function(columns, kinds, expect, confidence, threads) {
  places <- which(upper.tri(kinds) & !is.na(kinds), arr.ind = TRUE)
  places <- places[order(places[, 1], places[, 2]), , drop = FALSE]
  pairs <- data.frame(i = places[, 1], j = places[, 2], coefficient = kinds[places])
  ranked <- pairs$coefficient == "spearman"
  at <- pairs$i + (pairs$j - 1) * length(columns)
  for (side in c(FALSE, TRUE)) {
    if (!any(ranked == side)) next
    found <- .Call(unsere_matrix, unname(columns), side, threads, 0L)
    for (field in names(found)) pairs[[field]][ranked == side] <- found[[field]][at[ranked == side]]
  }
  pairs <- settle_undefined(pairs)
  cbind(pairs, matrix_intervals(pairs, columns, confidence), matrix_tests(pairs, columns, expect))
}

# A variable that does not vary among a pair's cases, or fewer than three of them, leave the pair without r.
settle_undefined <- function(pairs) {
  none <- is.nan(pairs$r) | pairs$n < 3
  pairs$r[none] <- NA
  pairs$unexplained[none] <- NA
  pairs
}

matrix_intervals <- function(pairs, columns, confidence) {
  q <- stats::qnorm((1 + confidence) / 2)
  half <- q / sqrt(pmax(pairs$n - 3, 0)) * ifelse(pairs$coefficient == "spearman", sqrt(1 + pairs$r^2 / 2), 1)
  z <- fisher_z(pairs$r, pairs$unexplained)
  defined <- !is.na(pairs$r) & pairs$n >= 4 & pairs$unexplained > 0
  out <- data.frame(ci_low = ifelse(defined, tanh(z - half), NA), ci_high = ifelse(defined, tanh(z + half), NA))
  for (k in which(defined & pairs$coefficient %in% c("point-biserial", "phi"))) {
    pair <- common_values(columns, pairs$i[k], pairs$j[k])
    found <- list(r = pairs$r[k], unexplained = pairs$unexplained[k], x = pair$x, y = pair$y)
    around <- interval_coefficient(found, pairs$coefficient[k], "analytic", confidence, NULL)
    out[k, ] <- c(around$ci_low, around$ci_high)
  }
  out
}

matrix_tests <- function(pairs, columns, expect) {
  log_two <- log_two_sided(pairs$r, pairs$unexplained, pairs$n - 2)
  log_two[pairs$unexplained %in% 0] <- NA
  log_p <- direct_log_p(log_two, sign(pairs$r), expect)
  for (k in which(pairs$coefficient == "phi" & !is.na(pairs$r))) {
    log_p[k] <- test_phi(pairs$r[k], pairs$n[k], expect)$log10_p * log(10)
  }
  for (k in which(pairs$coefficient == "spearman" & !is.na(pairs$r))) {
    pair <- common_values(columns, pairs$i[k], pairs$j[k])
    ranks <- list(x = mid_ranks(pair$x), y = mid_ranks(pair$y), r = pairs$r[k])
    log_p[k] <- test_spearman(ranks, pairs$n[k], expect)$log10_p * log(10)
  }
  data.frame(p = exp(log_p), log10_p = log_p / log(10))
}

common_values <- function(columns, i, j) {
  kept <- !is.na(columns[[i]]) & !is.na(columns[[j]])
  list(x = columns[[i]][kept], y = columns[[j]][kept])
}

#' p over many tests: Holm's steps down, or Benjamini and Hochberg's up
#' @references Holm (1979), Scandinavian Journal of Statistics 6, 65-70. Benjamini & Hochberg (1995), Journal of the Royal
#'   Statistical Society B 57, 289-300.
#' @noRd
adjust_p <- function(p, multiplicity) {
  tested <- which(!is.na(p))
  m <- length(tested)
  if (multiplicity == "none" || m == 0) return(p)
  order <- tested[order(p[tested])]
  if (multiplicity == "holm") {
    p[order] <- pmin(1, cummax(p[order] * (m - seq_len(m) + 1)))
  } else {
    p[order] <- pmin(1, rev(cummin(rev(p[order] * m / seq_len(m)))))
  }
  p
}
