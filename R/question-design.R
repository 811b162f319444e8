# One pair of cases drawn by a design.

#' The design of a sample's cases, or `NULL`
#' @noRd
sample_design <- function(sample) design_of_cases(sample$more$design, sample$row)

#' A design over some cases
#' @param design From [design_vectors()]; `at` places of cases.
#' @noRd
design_of_cases <- function(design, at) {
  if (is.null(design)) return(NULL)
  named <- list(method = design$design$method, factor = unlist(design$design$factor), names = design$design)
  # All of them as they come: nothing is copied.
  if (identical(at, seq_along(design$weight))) return(c(design[c("weight", "unit", "stratum", "replicates")], named))
  c(list(
    weight = design$weight[at], unit = design$unit[at], stratum = design$stratum[at],
    replicates = if (!is.null(design$replicates)) design$replicates[at, , drop = FALSE]
  ), named)
}

#' The relation of a pair under its design
#' @noRd
relate_design <- function(sample, asked, design) {
  record <- settle_coefficient(asked$coefficient, sample)
  check_honoured(record, asked)
  if (!is.na(record$two_valued)) sample <- as_zero_one(sample, record$two_valued)
  check_pair(sample$x, sample$y, sample$names)
  held <- if (!is.null(sample$given)) held_columns(sample, record)
  part <- part_side(sample, asked$part)
  found <- measure_design(sample$x, sample$y, design, record$resistant, held, part)
  n <- sample_size(sample)
  tested <- test_by_design(found, asked$expect)
  around <- interval_by_design(found, asked$confidence)
  effect <- found$variance * (n - 3 - found$held)
  estimate <- new_estimate(record$name, sample$x, sample$y, found$r, found$unexplained)
  given <- list(
    estimate = estimate, record = record, r = found$r, p = or_default(tested$p, 0), alpha = alpha_of(asked$confidence),
    scale = asked$strength
  )
  new_relation(
    x = sample$names[1], y = sample$names[2], coefficient = record$name, r = found$r,
    r_squared = if (is.null(record$words$r_squared)) NA_real_ else found$r^2, n = n, n_dropped = sum(sample$dropped),
    confidence = asked$confidence, ci_low = around[1], ci_high = around[2],
    ci_method = if (is.null(design$replicates)) "unit jackknife" else "replicate weights", statistic = "t",
    value = tested$value, df = found$df, p = tested$p, log10_p = tested$log10_p, p_method = "design",
    expect = asked$expect, direction = direction_of(found$r), strength = strength_word(found$r, asked$strength),
    strength_scale = asked$strength$name, scale = asked$strength,
    cautions = if (isTRUE(asked$undoubted)) new_cautions() else cautions_by_design(sample, given),
    sample = sample, estimate = estimate, chosen = if (asked$coefficient == "auto") "auto" else "asked", groups = NULL,
    largest = NULL, seed = NULL, resamples = NULL, design = design$names, n_effective = n / effect, design_effect = effect,
    units = found$units, strata = found$strata, given = sample$given$names, given_labels = sample$given$labels,
    unheld = if (!is.null(held)) measure_design(sample$x, sample$y, design, record$resistant)$r,
    residual_sample = if (!is.null(held)) residuals_by_design(sample, held, design$weight, part),
    part = if (!is.null(part)) sample$names[part], z_variance = found$variance
  )
}

#' What is doubtful whatever the design
#' @noRd
cautions_by_design <- function(sample, found) {
  checks <- list(doubt_codes, doubt_far, doubt_ends, doubt_coarse, doubt_few, doubt_missing)
  new_cautions(do.call(c, lapply(checks, function(check) check(sample, found))), sample$names[1], sample$names[2])
}

#' What is left of both sides when weighted columns are taken out, for figures
#' @noRd
residuals_by_design <- function(sample, held, weight, part) {
  root <- sqrt(weight)
  basis <- qr(cbind(1, held) * root, tol = 1e-9)
  left <- lapply(list(sample$x, sample$y), function(v) {
    terms <- qr.coef(basis, v * root)
    v - as.vector(cbind(1, held) %*% ifelse(is.na(terms), 0, terms))
  })
  if (!is.null(part)) left[[3 - part]] <- list(sample$x, sample$y)[[3 - part]]
  sample_of_residuals(sample, list(x = left[[1]], y = left[[2]]))
}

check_honoured <- function(record, asked) {
  if (!record$products) {
    abort_usage(sprintf("%s cannot honour a design.", capital(record$name)), "Use pearson or spearman.")
  }
  if (asked$test != "analytic") {
    abort_usage(sprintf("A test by \"%s\" cannot honour a design.", asked$test), "Leave it out: the units tell.")
  }
  if (!asked$interval %in% c("analytic", "jackknife")) {
    abort_usage(sprintf("An interval by \"%s\" cannot honour a design.", asked$interval), "Leave it out: the units tell.")
  }
}

test_by_design <- function(found, expect) {
  value <- fisher_z(found$r, found$unexplained) / sqrt(found$variance)
  if (!is.finite(value) || found$df < 1) return(list(value = NA_real_, p = NA_real_, log10_p = NA_real_))
  log_p <- directed_log_p(value, found$df, expect)
  list(value = value, p = exp(log_p), log10_p = log_p / log(10))
}

directed_log_p <- function(value, df, expect) {
  switch(expect,
    positive = stats::pt(value, df, lower.tail = FALSE, log.p = TRUE),
    negative = stats::pt(value, df, log.p = TRUE),
    pmin(0, log(2) + stats::pt(-abs(value), df, log.p = TRUE))
  )
}

interval_by_design <- function(found, confidence) {
  if (found$df < 1 || found$unexplained <= 0) return(c(NA_real_, NA_real_))
  half <- stats::qt((1 + confidence) / 2, found$df) * sqrt(found$variance)
  tanh(fisher_z(found$r, found$unexplained) + c(-half, half))
}

#' All pairs under a design: of values at once, from the sums of units or under each replicate's weights; of ranks one by
#' one
#' @return As from [estimate_pairs()].
#' @noRd
estimate_pairs_by_design <- function(columns, kinds, asked, design, threads, pair_at) {
  pairs <- pair_places(kinds)
  by_ranks <- vapply(unique(pairs$coefficient), function(name) coefficient_record(name)$resistant, NA)
  ranked <- unname(by_ranks[pairs$coefficient])
  spreads <- NULL
  found <- list2DF(lapply(c(r = 1, variance = 1, n = 1, df = 1), function(k) rep(NA_real_, length(ranked))))
  if (!all(ranked)) {
    at <- (pairs$i + (pairs$j - 1) * length(columns))[!ranked]
    together <- if (is.null(design$replicates)) pairs_by_units else pairs_by_replicates
    joint <- together(unname(columns), design, at, threads)
    found[!ranked, ] <- joint[c("r", "variance", "n", "df")]
    spreads <- joint$spreads
  }
  for (k in which(ranked)) {
    sample <- pair_at(pairs, k)
    found[k, ] <- tryCatch(
      {
        check_pair(sample$x, sample$y, sample$names)
        one <- measure_design(sample$x, sample$y, sample_design(sample), TRUE)
        list(one$r, one$variance, sample_size(sample), one$df)
      },
      unsere_error_undefined = function(e) list(NA_real_, NA_real_, sample_size(sample), NA_real_)
    )
  }
  if (is.null(spreads)) {
    weighted <- vapply(columns, spread_by_weight, c(mean = 0, sd = 0), design$weight)
    there <- vapply(columns, function(column) sum(!is.na(column)), 0, USE.NAMES = FALSE)
    spreads <- list(mean = weighted[1, ], sd = weighted[2, ], n = there)
  }
  structure(finish_by_design(pairs, found, asked), spreads = spreads)
}

#' @param at The places of the pairs in the square of all.
#' @return A list: `r`, `variance` (of Fisher's z), `n`, `df`, one of each a pair; `spreads` of the columns where they came
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
    r = table$r[at], variance = table$variance[at], n = table$n[at], df = table$units[at] - table$strata[at],
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
  list(r = table$r[at], variance = table$variance[at], n = table$n[at], df = k - 1)
}

finish_by_design <- function(pairs, found, asked) {
  found$r[found$n < 3] <- NA
  left <- (1 - found$r) * (1 + found$r)
  known <- !is.na(found$r) & !is.na(found$df) & found$df >= 1 & left > 0 & found$variance > 0
  z <- suppressWarnings(fisher_z(found$r, left))
  log_p <- half <- rep(NA_real_, length(z))
  spread <- sqrt(found$variance[known])
  log_p[known] <- directed_log_p(z[known] / spread, found$df[known], asked$expect)
  half[known] <- stats::qt((1 + asked$confidence) / 2, found$df[known]) * spread
  data.frame(
    i = pairs$i, j = pairs$j, coefficient = pairs$coefficient, r = found$r, unexplained = left, n = found$n,
    ci_low = tanh(z - half), ci_high = tanh(z + half), p = exp(log_p), log10_p = log_p / log(10)
  )
}

#' The difference of two r of the same cases under their design
#'
#' @param columns A matrix of the variables; `a`, `b` the places of the two of each r; `signs` what each r is taken times.
#' @return A list: `r_a`, `r_b`, `ci_low`, `ci_high`, `statistic`, `value`, `df`, `p`.
#' @noRd
difference_by_design <- function(columns, a, b, design, ranked, confidence, signs = c(1, 1)) {
  perturbed <- perturbed_sums(columns, design, ranked)
  found <- perturb_figures(perturbed, ncol(columns), function(of) {
    signs * c(r_of_products(of$products, a), r_of_products(of$products, b))
  })
  difference <- found$value[1] - found$value[2]
  spread <- sqrt(max(0, found$covariance[1, 1] + found$covariance[2, 2] - 2 * found$covariance[1, 2]))
  tested <- difference_by_jackknife(difference, spread, perturbed$df, confidence)
  list(
    r_a = found$value[1], r_b = found$value[2], ci_low = tested$ci_low, ci_high = tested$ci_high, statistic = "t by units",
    value = if (spread > 0) difference / spread else NA_real_, df = perturbed$df, p = tested$p
  )
}
