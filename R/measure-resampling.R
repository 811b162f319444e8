# Tests by random permutation, and bootstrap intervals.

#' Permutation test by random permutation: p = (b + 1) / (m + 1)
#' @param tally How many shuffles were as far `above`, `below`, `outside`.
#' @references Dwass (1957); Davison & Hinkley (1997), section 4.2.
#' @noRd
shuffled_test <- function(tally, statistic, r, n, expect, resamples) {
  p <- (tally[[tail_name(expect)]] + 1) / (resamples + 1)
  list(statistic = statistic, value = r, df = n - 2, p = p, log10_p = log10(p), p_method = "permutation")
}

test_shuffled <- function(x, y, r, statistic, expect, draws) {
  tally <- core_shuffle_test(x, y, draws$resamples, draws$seed, draws$threads)
  shuffled_test(tally, statistic, r, length(x), expect, draws$resamples)
}

#' Bias-corrected and accelerated bootstrap interval
#'
#' @param values r of each resample; `replicates` r without each case in turn.
#' @references Efron (1987), Journal of the American Statistical Association 82, 171-185.
#' @noRd
interval_bca <- function(values, replicates, r, confidence) {
  if (anyNA(values)) return(no_interval())
  values <- sort(values)
  acceleration <- acceleration_of(replicates)
  bias <- stats::qnorm(share_below(values, r))
  z <- bias + stats::qnorm(c(1 - confidence, 1 + confidence) / 2)
  at <- stats::pnorm(bias + z / (1 - acceleration * z))
  list(ci_low = quantile_of(values, at[1]), ci_high = quantile_of(values, at[2]), ci_method = "bca bootstrap")
}

acceleration_of <- function(replicates) {
  replicates <- replicates[!is.na(replicates)]
  pull <- mean(replicates) - replicates
  if (any(pull != 0)) sum(pull^3) / (6 * sum(pull^2)^1.5) else 0
}

# The share of resamples below a value, never none and never all.
share_below <- function(values, at) {
  share <- mean(values < at) + mean(values == at) / 2
  min(max(share, 0.5 / length(values)), 1 - 0.5 / length(values))
}

#' The test that goes with that interval: at which confidence it would end at zero
#' @noRd
test_bca <- function(values, replicates, e, expect) {
  if (anyNA(values) || e$unexplained == 0) return(new_test("r", e$r, e$n - 2, NA_real_, "bca bootstrap"))
  bias <- stats::qnorm(share_below(values, e$r))
  far <- stats::qnorm(share_below(values, 0)) - bias
  below <- stats::pnorm(far / (1 + acceleration_of(replicates) * far) - bias)
  p <- switch(expect,
    either = 2 * min(below, 1 - below),
    positive = below,
    negative = 1 - below
  )
  new_test("r", e$r, e$n - 2, log(min(1, p)), "bca bootstrap")
}

test_bootstrap <- function(e, expect, draws, ranked) {
  values <- if (e$unexplained == 0) NA else core_bootstrap(e$x, e$y, ranked, draws$resamples, draws$seed, draws$threads)
  test_bca(values, leave_one_out(e$x, e$y, ranked, draws$threads), e, expect)
}

#' @param ranked Whether each resample is ranked anew.
#' @param draws A list: `resamples`, `seed`, `threads`, from [resampling_plan()].
#' @noRd
interval_bootstrap <- function(x, y, ranked, r, unexplained, confidence, draws) {
  if (length(x) < 4 || unexplained == 0) return(no_interval())
  values <- core_bootstrap(x, y, ranked, draws$resamples, draws$seed, draws$threads)
  interval_bca(values, leave_one_out(x, y, ranked, draws$threads), r, confidence)
}

#' r without each case in turn. For ranks of more than 3,000 cases the ranks stay those of all cases.
#' @noRd
leave_one_out <- function(x, y, ranked, threads) {
  x <- x / fitting_unit(x)
  y <- y / fitting_unit(y)
  if (!ranked || length(x) <= 3000) return(core_leave_one_out(x, y, ranked, threads))
  core_leave_one_out(mid_ranks(x), mid_ranks(y), FALSE, threads)
}

# The quantile of sorted values at place (B + 1) share, between neighbours in proportion.
quantile_of <- function(sorted, share) {
  place <- min(max((length(sorted) + 1) * share, 1), length(sorted))
  low <- floor(place)
  high <- min(low + 1, length(sorted))
  sorted[low] + (place - low) * (sorted[high] - sorted[low])
}

resampling_plan <- function(resamples, seed, threads) {
  list(resamples = as.double(resamples), seed = sound_seed(seed), threads = sound_threads(threads))
}

# Drawn from the user's own random numbers where none is given, so that set.seed() fixes it.
sound_seed <- function(seed) as.double(if (is.null(seed)) sample.int(.Machine$integer.max, 1L) else seed)

#' What R's own random numbers give from a seed; the user's stay where they were
#' @noRd
with_seed <- function(seed, work) {
  before <- get0(".Random.seed", globalenv(), inherits = FALSE)
  on.exit(if (is.null(before)) rm(".Random.seed", envir = globalenv()) else assign(".Random.seed", before, globalenv()))
  set.seed(seed %% 2147483647, "Mersenne-Twister", "Inversion", "Rejection")
  work
}

sound_threads <- function(threads) {
  if (is.null(threads)) threads <- getOption("unsere.threads", 2L)
  if (!is_whole(threads) || threads < 1 || threads > 256) {
    abort_usage("`threads` must be one whole number from 1 to 256.", "The number of threads never changes a digit.")
  }
  as.integer(threads)
}
