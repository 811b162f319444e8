# All pairs of a matrix, and the difference of two r, of cases drawn by a design.

#' All pairs under a design: of values at once, from the sums of units or under each replicate's weights; of ranks one by
#' one
#' @return As from [estimate_pairs()].
#' @noRd
estimate_pairs_by_design <- function(columns, kinds, options, design, threads, pair_at) {
  pairs <- pair_places(kinds)
  by_ranks <- vapply(unique(pairs$coefficient), function(name) coefficient_record(name)$resistant, NA)
  ranked <- unname(by_ranks[pairs$coefficient])
  spreads <- NULL
  estimates <- list2DF(lapply(c(r = 1, variance = 1, n = 1, df = 1), function(k) rep(NA_real_, length(ranked))))
  if (!all(ranked)) {
    at <- (pairs$i + (pairs$j - 1) * length(columns))[!ranked]
    together <- if (is.null(design$replicates)) pairs_by_units else pairs_by_replicates
    joint <- together(unname(columns), design, at, threads)
    estimates[!ranked, ] <- joint[c("r", "variance", "n", "df")]
    spreads <- joint$spreads
  }
  for (k in which(ranked)) {
    sample <- pair_at(pairs, k)
    estimates[k, ] <- tryCatch(
      {
        check_pair(sample$x, sample$y, sample$names)
        one <- measure_design(sample$x, sample$y, sample_design(sample), TRUE)
        list(one$r, one$variance, sample_size(sample), one$df)
      },
      unsere_error_undefined = function(e) list(NA_real_, NA_real_, sample_size(sample), NA_real_)
    )
  }
  estimates$r[estimates$n < 3] <- NA
  unexplained <- (1 - estimates$r) * (1 + estimates$r)
  tested <- test_from_z(estimates$r, unexplained, estimates$variance, estimates$df, options$expect, "design")
  limits <- interval_from_z(estimates$r, unexplained, estimates$variance, options$confidence, estimates$df)
  structure(data.frame(
    pairs[c("i", "j", "coefficient")],
    r = estimates$r, unexplained = unexplained, n = estimates$n, limits,
    tested[c("p", "log10_p", "value", "df")], z_variance = estimates$variance
  ), spreads = spreads)
}

spreads_by_weight <- function(columns, weight) {
  weighted <- vapply(columns, spread_by_weight, c(mean = 0, sd = 0), weight)
  there <- vapply(columns, function(column) sum(!is.na(column)), 0, USE.NAMES = FALSE)
  list(mean = unname(weighted[1, ]), sd = unname(weighted[2, ]), n = there)
}

#' @param at The places of the pairs in the square of all.
#' @return A list: `r`, `variance` (of Fisher's z), `n`, `df`, one of each a pair; `spreads` of the columns where
#'   they came
#'   along.
#' @noRd
pairs_by_units <- function(columns, design, at, threads) {
  home <- design$stratum[match(seq_len(max(design$unit)), design$unit)]
  home[is.na(home)] <- 1L # a unit of none of these cases
  wanted <- seq_len(length(columns)^2) %in% at
  table <- core_unit_matrix(
    columns, as.double(design$weight), as.integer(design$unit), as.integer(home), wanted, threads
  )
  list(
    r = table$r[at], variance = table$variance[at], n = table$n[at],
    df = or_default(design$df, table$units[at] - table$strata[at]),
    spreads = stats::setNames(table[c("mean", "sd", "count")], c("mean", "sd", "n"))
  )
}

pairs_by_replicates <- function(columns, design, at, threads) {
  k <- ncol(design$replicates)
  storage.mode(design$replicates) <- "double"
  table <- core_replicate_matrix(
    columns, as.double(design$weight), design$replicates, rep(as.double(replicate_scale(design, k)), length.out = k),
    seq_len(length(columns)^2) %in% at, threads
  )
  list(r = table$r[at], variance = table$variance[at], n = table$n[at], df = or_default(design$df, k - 1))
}

#' The difference of two r of the same cases under their design
#'
#' @param columns A matrix of the variables; `a`, `b` the places of the two of each r; `signs` what each r is taken times.
#' @return A list: `r_a`, `r_b`, `ci_low`, `ci_high`, `statistic`, `value`, `df`, `p`.
#' @noRd
difference_by_design <- function(columns, a, b, design, ranked, confidence, signs = c(1, 1)) {
  perturbed <- perturbed_sums(columns, design, ranked)
  estimates <- perturb_figures(perturbed, ncol(columns), function(of) {
    signs * c(r_of_products(of$products, a), r_of_products(of$products, b))
  })
  difference <- estimates$value[1] - estimates$value[2]
  spread <- sqrt(max(0, estimates$covariance[1, 1] + estimates$covariance[2, 2] - 2 * estimates$covariance[1, 2]))
  tested <- difference_by_jackknife(difference, spread, perturbed$df, confidence)
  list(
    r_a = estimates$value[1], r_b = estimates$value[2],
    ci_low = tested$ci_low, ci_high = tested$ci_high, statistic = "t by units",
    value = if (spread > 0) difference / spread else NA_real_, df = perturbed$df, p = tested$p, spread = spread
  )
}
