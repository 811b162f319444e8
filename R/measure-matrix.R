#' Every pair of some columns
#'
#' @param columns A named list of double vectors of one length, missing values as `NA`.
#' @param kinds A character matrix, columns by columns: the coefficient of each pair, `NA` where there is none.
#' @return A data frame, a row a pair in the order of the columns: `i`, `j` (their places), `coefficient`, `r`,
#'   `unexplained`, `n`, `ci_low`, `ci_high`, `p`, `log10_p`.
#' @noRd
measure_matrix <- function(columns, kinds, expect, confidence, threads, tick = function(share) NULL) {
  columns <- unname(columns)
  pairs <- pair_places(kinds)
  ranked <- pairs$coefficient == "spearman"
  at <- pairs$i + (pairs$j - 1) * length(columns)
  shapes <- NULL
  if (any(!ranked)) pairs <- fill_pairs(pairs, !ranked, at, .Call(unsere_matrix, columns, threads, 0L))
  if (any(ranked)) {
    found <- rank_table(columns, kinds %in% "spearman", threads, tick)
    pairs <- fill_pairs(pairs, ranked, at, found)
    back <- pairs$j + (pairs$i - 1) * length(columns)
    shape <- c("squares", "cubes", "fourths", "step")
    shapes <- list(x = lapply(found[shape], `[`, at), y = lapply(found[shape], `[`, back))
  }
  finish_pairs(pairs, columns, expect, confidence, shapes, tick)
}

#' The pairs that moments gathered from chunks tell of, by Pearson's r
#' @param table From `unsere_moments_table`.
#' @noRd
measure_moments <- function(table, p, expect, confidence) {
  pairs <- pair_places(matrix("pearson", p, p))
  pairs <- fill_pairs(pairs, rep(TRUE, length(pairs$i)), pairs$i + (pairs$j - 1) * p, table$pairs)
  finish_pairs(pairs, NULL, expect, confidence, NULL, function(share) NULL)
}

pair_places <- function(kinds) {
  places <- which(upper.tri(kinds) & !is.na(kinds), arr.ind = TRUE)
  places <- places[order(places[, 1], places[, 2]), , drop = FALSE]
  list(i = unname(places[, 1]), j = unname(places[, 2]), coefficient = kinds[places])
}

fill_pairs <- function(pairs, which, at, found) {
  for (field in c("r", "unexplained", "n")) {
    if (is.null(pairs[[field]])) pairs[[field]] <- rep(NA_real_, length(pairs$i))
    pairs[[field]][which] <- found[[field]][at[which]]
  }
  pairs
}

finish_pairs <- function(pairs, columns, expect, confidence, shapes, tick) {
  none <- is.na(pairs$r) | pairs$n < 3
  pairs$r[none] <- NA # a variable that does not vary among a pair's cases, or fewer than three of them
  pairs$unexplained[none] <- NA
  list2DF(c(pairs, matrix_intervals(pairs, columns, confidence, tick), matrix_tests(pairs, columns, expect, shapes,
    tick)))
}

#' Ranking each pair anew takes long where values are missing: done column by column then, so that progress can be told
#' @noRd
rank_table <- function(columns, wanted, threads, tick) {
  p <- length(columns)
  whole <- function(asked) .Call(unsere_rank_matrix, columns, asked, threads, 0L)
  if (sum(wanted) / 2 * length(columns[[1]]) < 2e8 || !anyNA(columns, recursive = TRUE)) return(whole(wanted))
  out <- NULL
  parts <- split(seq_len(p), cut(seq_len(p)^2, 12, labels = FALSE))
  for (k in seq_along(parts)) {
    mask <- matrix(wanted, p, p)
    mask[, -parts[[k]]] <- FALSE
    found <- whole(as.vector(mask))
    mine <- as.vector(mask | t(mask))
    if (is.null(out)) out <- found
    for (field in names(found)) out[[field]][mine] <- found[[field]][mine]
    tick(k / length(parts))
  }
  out
}

matrix_intervals <- function(pairs, columns, confidence, tick) {
  q <- stats::qnorm((1 + confidence) / 2)
  half <- q / sqrt(pmax(pairs$n - 3, 0))
  ranked <- pairs$coefficient == "spearman"
  half[ranked] <- half[ranked] * sqrt(1 + pairs$r[ranked]^2 / 2)
  z <- fisher_z(pairs$r, pairs$unexplained)
  defined <- !is.na(pairs$r) & pairs$n >= 4 & pairs$unexplained > 0
  z[!defined] <- NA
  out <- list(ci_low = tanh(z - half), ci_high = tanh(z + half))
  one_by_one <- which(defined & pairs$coefficient %in% c("point-biserial", "phi"))
  for (k in one_by_one) {
    tick(match(k, one_by_one) / length(one_by_one))
    pair <- common_values(columns, pairs$i[k], pairs$j[k])
    found <- list(r = pairs$r[k], unexplained = pairs$unexplained[k], x = pair$x, y = pair$y)
    around <- interval_coefficient(found, pairs$coefficient[k], "analytic", confidence, NULL)
    out$ci_low[k] <- around$ci_low
    out$ci_high[k] <- around$ci_high
  }
  out
}

#' @param shapes For the pairs by rank: what [log_p_by_moments()] needs of either variable's ranks.
#' @noRd
matrix_tests <- function(pairs, columns, expect, shapes, tick) {
  kind <- pairs$coefficient
  log_two <- log_two_sided(pairs$r, pairs$unexplained, pairs$n - 2)
  log_two[pairs$unexplained %in% 0] <- NA
  log_p <- direct_log_p(log_two, sign(pairs$r), expect)
  phi <- kind == "phi" & !is.na(pairs$r)
  if (any(phi)) log_p[phi] <- test_phi(pairs$r[phi], pairs$n[phi], expect)$log10_p * log(10)
  many <- kind == "spearman" & !is.na(pairs$r) & pairs$n > 60
  if (any(many)) {
    log_p[many] <- log_p_by_moments(lapply(shapes$x, `[`, many), lapply(shapes$y, `[`, many), pairs$n[many],
      pairs$r[many],
      expect
    )
  }
  one_by_one <- which(kind == "spearman" & !is.na(pairs$r) & !many)
  for (k in one_by_one) {
    tick(match(k, one_by_one) / length(one_by_one))
    pair <- common_values(columns, pairs$i[k], pairs$j[k])
    ranks <- list(x = mid_ranks(pair$x), y = mid_ranks(pair$y), r = pairs$r[k])
    log_p[k] <- test_spearman(ranks, pairs$n[k], expect)$log10_p * log(10)
  }
  list(p = exp(log_p), log10_p = log_p / log(10))
}

common_values <- function(columns, i, j) {
  kept <- !is.na(columns[[i]]) & !is.na(columns[[j]])
  list(x = columns[[i]][kept], y = columns[[j]][kept])
}

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
