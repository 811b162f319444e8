# A relation asked of each plausible value, and combined.

#' The relation of two variables of a study: of a pair as it stands, or of each of its plausible values
#' @param sample The sample of the pair, where it was taken already.
#' @noRd
relate_study <- function(study, x, y, asked, sample = sample_given(study, x, y, asked$given)) {
  relation <- if (any(c(x, y) %in% names(study_plausible(study)))) {
    relate_plausible(study, x, y, asked)
  } else {
    relate_sample(sample, asked)
  }
  with_correction(study, relation, asked)
}

#' @param x,y Variables, one or both of which have plausible values.
#' @references Rubin (1987); Barnard & Rubin (1999), Biometrika 86, 948-955.
#' @noRd
relate_plausible <- function(study, x, y, asked) {
  check_analytic(asked)
  sides <- list(plausible_of(study, x), plausible_of(study, y))
  m <- max(lengths(sides))
  if (!all(lengths(sides) %in% c(1L, m))) {
    abort_usage(sprintf("%s and %s have different numbers of plausible values.", x, y), "Give both as many.")
  }
  # Cautions are of the mean of the values, once.
  of_each <- c(asked[names(asked) != "undoubted"], list(undoubted = TRUE))
  relations <- lapply(seq_len(m), function(k) {
    pair <- vapply(sides, function(names) names[min(k, length(names))], "")
    relate_sample(sample_given(study, pair[1], pair[2], asked$given), of_each)
  })
  combine_relations(relations, sample_pair(study, x, y), asked)
}

check_analytic <- function(asked) {
  if (asked$test != "analytic" || asked$interval != "analytic") {
    abort_usage("Plausible values are combined by the usual test and interval alone.", "Leave out test and interval.")
  }
}

#' @param sample That of the means, for figures.
#' @noRd
combine_relations <- function(relations, sample, asked) {
  first <- relations[[1]]
  m <- length(relations)
  record <- coefficient_record(first$coefficient)
  z <- vapply(relations, function(one) fisher_z(one$r, (1 - one$r) * (1 + one$r)), 0)
  within <- mean(vapply(relations, function(one) {
    if (!is.null(one$z_variance)) one$z_variance else record$z_variance(one$r, one$n)
  }, 0))
  between <- stats::var(z)
  total <- within + (1 + 1 / m) * between
  share <- (1 + 1 / m) * between / total
  whole <- if (is.na(first$df)) first$n - 2 else first$df
  seen <- (whole + 1) / (whole + 3) * whole * (1 - share)
  df <- if (share > 0) 1 / (share^2 / (m - 1) + 1 / seen) else whole
  r <- tanh(mean(z))
  value <- mean(z) / sqrt(total)
  log_p <- directed_log_p(value, df, asked$expect)
  half <- stats::qt((1 + asked$confidence) / 2, df) * sqrt(total)
  first[c("r", "ci_low", "ci_high", "value", "df", "p", "log10_p")] <- list(
    r, tanh(mean(z) - half), tanh(mean(z) + half), value, df, exp(log_p), log_p / log(10)
  )
  first[c("statistic", "p_method", "ci_method")] <- list("t", "plausible", "plausible values")
  first$r_squared <- if (is.null(record$words$r_squared)) NA_real_ else r^2
  first[c("direction", "strength")] <- list(direction_of(r), strength_word(r, asked$strength))
  first[c("x", "y")] <- as.list(sample$names)
  first$sample <- sample
  first$cautions <- new_cautions(c(doubt_few(sample, NULL), doubt_missing(sample, NULL)), sample$names[1], sample$names[2])
  first[c("groups", "largest")] <- NULL
  first$z_variance <- total
  first$plausible <- m
  first$share_between <- share
  first
}
