# Tests by enumeration and by shuffling, and bootstrap intervals.

#' Exact permutation test
#'
#' Pearson: all n! pairings, up to n = 10. Spearman: the same by counting, up to n = 14, more with ties. Point-biserial:
#' all ways to choose the group, up to twenty million. Phi: the hypergeometric distribution, any n.
#' @references Fisher (1935), The Design of Experiments; Pitman (1937).
#' @noRd
test_exact <- function(x, y, coefficient, r, expect) {
  n <- length(x)
  tally <- switch(coefficient,
    spearman = exact_tally(n <= 60, n, "14 pairs, and more where many are tied", x, y, 1L),
    "point-biserial" = {
      binary <- all(x %in% 0:1)
      ways <- choose(n, sum(if (binary) x else y))
      exact_tally(ways <= 2e7, n, "20 million ways to choose the group", if (binary) x else y,
        if (binary) y else x, 2L)
    },
    phi = hypergeometric_tally(x, y),
    pearson = exact_tally(n <= 10, n, "10 pairs", x, y, 0L)
  )
  counted_test(tally, coefficient, r, n, expect)
}

counted_test <- function(tally, coefficient, r, n, expect) {
  p <- tally[[tail_name(expect)]]
  list(statistic = own_statistic(coefficient), value = r, df = n - 2, p = p, log10_p = log10(p), p_method = "exact")
}

# Where r itself is the statistic.
own_statistic <- function(coefficient) {
  c(pearson = "r", spearman = "rs", "point-biserial" = "rpb", phi = "phi")[[coefficient]]
}

tail_name <- function(expect) c(either = "outside", positive = "above", negative = "below")[[expect]]

exact_tally <- function(possible, n, limit, x, y, kind) {
  tally <- if (possible) .Call(unsere_exact_test, as.double(x), as.double(y), kind)
  if (is.null(tally) || is.nan(tally$outside)) {
    abort_usage(
      sprintf("An exact test of %d pairs would have to count too many pairings; it takes at most %s.", n, limit),
      "Use test = \"permutation\", which samples them, or \"analytic\"."
    )
  }
  tally
}

hypergeometric_tally <- function(x, y) {
  ones <- sum(x)
  both <- max(0, ones + sum(y) - length(x)):min(ones, sum(y))
  weight <- stats::dhyper(both, ones, length(x) - ones, sum(y))
  observed <- sum(x * y)
  off <- abs(both - ones * sum(y) / length(x))
  list(
    above = sum(weight[both >= observed]), below = sum(weight[both <= observed]),
    outside = sum(weight[off >= off[both == observed] - 1e-9])
  )
}

#' Permutation test by shuffling: p = (b + 1) / (m + 1)
#' @references Dwass (1957); Davison & Hinkley (1997), section 4.2.
#' @noRd
test_permutation <- function(x, y, coefficient, r, expect, draws) {
  tally <- .Call(unsere_shuffle_test, as.double(x), as.double(y), draws$resamples, draws$seed, draws$threads)
  p <- (tally[[tail_name(expect)]] + 1) / (draws$resamples + 1)
  list(
    statistic = own_statistic(coefficient), value = r, df = length(x) - 2, p = p, log10_p = log10(p),
    p_method = "permutation"
  )
}

#' Bias-corrected and accelerated bootstrap interval
#'
#' @param draws A list: `resamples`, `seed`, `threads`, from [resampling_plan()].
#' @references Efron (1987), Journal of the American Statistical Association 82, 171-185.
#' @noRd
interval_bootstrap <- function(x, y, coefficient, r, unexplained, confidence, draws) {
  if (length(x) < 4 || unexplained == 0) return(no_interval())
  ranked <- coefficient == "spearman"
  values <- .Call(unsere_bootstrap, as.double(x), as.double(y), ranked, draws$resamples, draws$seed, draws$threads)
  if (anyNA(values)) return(no_interval())
  values <- sort(values)
  left <- leave_one_out(x, y, ranked, draws$threads)
  pull <- mean(left) - left
  acceleration <- if (any(pull != 0)) sum(pull^3) / (6 * sum(pull^2)^1.5) else 0
  share <- (sum(values < r) + sum(values == r) / 2) / draws$resamples
  share <- min(max(share, 0.5 / draws$resamples), 1 - 0.5 / draws$resamples)
  bias <- stats::qnorm(share)
  z <- bias + stats::qnorm(c(1 - confidence, 1 + confidence) / 2)
  at <- stats::pnorm(bias + z / (1 - acceleration * z))
  list(ci_low = quantile_of(values, at[1]), ci_high = quantile_of(values, at[2]), ci_method = "bca bootstrap")
}

#' r without each case in turn. For ranks of more than 3,000 cases the ranks stay those of all cases.
#' @noRd
leave_one_out <- function(x, y, ranked, threads) {
  if (ranked && length(x) > 3000) {
    x <- mid_ranks(x)
    y <- mid_ranks(y)
    ranked <- FALSE
  }
  left <- .Call(unsere_leave_one_out, as.double(x), as.double(y), ranked, threads)
  left[!is.na(left)]
}

# The quantile of sorted values at place (B + 1) share, between neighbours in proportion.
quantile_of <- function(sorted, share) {
  place <- min(max((length(sorted) + 1) * share, 1), length(sorted))
  low <- floor(place)
  high <- min(low + 1, length(sorted))
  sorted[low] + (place - low) * (sorted[high] - sorted[low])
}

#' How to resample: checked once, the seed drawn from R's own stream only when none is given
#' @noRd
resampling_plan <- function(resamples, seed, threads) {
  if (!is_whole(resamples) || resamples < 99 || resamples > 1e7) {
    abort_usage("`resamples` must be one whole number from 99 to 10,000,000.", "10,000 is usual.")
  }
  list(resamples = as.double(resamples), seed = sound_seed(seed), threads = sound_threads(threads))
}

sound_seed <- function(seed) {
  if (is.null(seed)) return(as.double(sample.int(.Machine$integer.max, 1L)))
  if (!is_whole(seed) || abs(seed) > 2^53) {
    abort_usage(sprintf("`seed` cannot be %s.", paste(format(seed), collapse = ", ")),
      "Allowed: one whole number, such as 14.")
  }
  as.double(seed)
}

sound_threads <- function(threads) {
  if (is.null(threads)) threads <- getOption("unsere.threads", 2L)
  if (!is_whole(threads) || threads < 1 || threads > 256) {
    abort_usage("`threads` must be one whole number from 1 to 256.", "The number of threads never changes a digit.")
  }
  as.integer(threads)
}
