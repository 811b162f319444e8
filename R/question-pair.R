# The relation of one sample: as cases drawn one by one, by a design, or with others held constant.

#' The relation that a sample shows
#' @param asked Settled arguments of the question.
#' @noRd
relate_sample <- function(sample, asked) {
  part_side(sample, asked$part)
  design <- sample_design(sample)
  if (!is.null(design)) return(relate_design(sample, asked, design))
  if (!is.null(sample$given)) return(relate_given(sample, asked))
  record <- settle_coefficient(asked$coefficient, sample)
  if (!is.na(record$two_valued)) sample <- as_zero_one(sample, record$two_valued)
  sampled <- "bootstrap" == asked$interval || "permutation" == asked$test
  draws <- if (sampled) resampling_plan(asked$resamples, asked$seed, asked$threads)
  estimate <- record$estimate(sample)
  tested <- test_estimate(estimate, asked$test, asked$expect, draws)
  around <- interval_estimate(estimate, asked$interval, asked$confidence, draws)
  found <- list(
    estimate = estimate, p = tested$p, alpha = alpha_of(asked$confidence), scale = asked$strength,
    expect = asked$expect
  )
  new_relation(
    x = sample$names[1], y = sample$names[2], coefficient = record$name, r = estimate$r,
    r_squared = if (is.null(record$words$r_squared)) NA_real_ else 1 - estimate$unexplained,
    n = estimate$n, n_dropped = sum(sample$dropped), confidence = asked$confidence,
    ci_low = around$ci_low, ci_high = around$ci_high, ci_method = around$ci_method, statistic = tested$statistic,
    value = tested$value, df = tested$df, p = tested$p, log10_p = tested$log10_p, p_method = tested$p_method,
    expect = asked$expect, direction = direction_of(estimate$r), strength = strength_word(estimate$r, asked$strength),
    strength_scale = asked$strength$name, scale = asked$strength,
    cautions = if (isTRUE(asked$undoubted)) new_cautions() else find_cautions(sample, found),
    sample = sample, estimate = estimate, chosen = if (asked$coefficient == "auto") "auto" else "asked",
    groups = groups_of(sample, record), largest = largest_of(sample, record, estimate$r), seed = draws$seed,
    resamples = draws$resamples
  )
}
