# One pair whose moments alone are at hand.

#' The relation of two variables whose moments alone are at hand
#' @noRd
relate_moments <- function(moments, x, y, asked) {
  stray <- setdiff(c(x, y), moments$variables)
  if (length(stray)) abort_input(
    sprintf("These moments have no variable \"%s\".", stray[1]), suggest_names(stray[1], moments$variables, "variables")
  )
  record <- straight_record()
  plain <- asked$coefficient %in% c("auto", record$name) && asked$test == "analytic" && asked$interval == "analytic" &&
    is.null(asked$given) && is.null(asked$correct_for)
  if (!plain) abort_usage("Moments serve Pearson's r with its usual test and interval alone.", "Leave the others out.")
  p <- length(moments$variables)
  table <- core_moments_table(moments$sums)
  at <- match(c(x, y), moments$variables)
  place <- at[1] + (at[2] - 1) * p
  r <- table$pairs$r[place]
  n <- table$pairs$n[place]
  left <- table$pairs$unexplained[place]
  if (is.na(r) || n < 3) abort_undefined(
    sprintf("%s or %s does not vary, or they share too few cases.", x, y),
    "Look into them."
  )
  tested <- test_student(r, left, n, asked$expect)
  around <- interval_by_z(r, left, n, record$z_variance(r, n), asked$confidence, "fisher z")
  whole <- moments_sample(moments, table)
  none <- stats::setNames(rep(list(numeric()), 2L), c(x, y))
  alone <- table$n[at]
  dropped <- c(x = alone[2] - n, y = alone[1] - n, both = moments$n - sum(alone) + n, aside = 0)
  sample <- new_sample(
    columns = none, variables = whole$variables[at, ], coding = list(x = list(), y = list()),
    origin = list(decisions = character()),
    more = new.env(parent = emptyenv()), row = integer(), x = numeric(), y = numeric(), dropped = dropped
  )
  new_relation(
    x = x, y = y, coefficient = record$name, r = r, r_squared = 1 - left, n = as.integer(n), n_dropped = moments$n - n,
    confidence = asked$confidence, ci_low = around$ci_low, ci_high = around$ci_high, ci_method = around$ci_method,
    statistic = tested$statistic, value = tested$value, df = tested$df, p = tested$p, log10_p = tested$log10_p,
    p_method = tested$p_method, expect = asked$expect, direction = direction_of(r),
    strength = strength_word(r, asked$strength), strength_scale = asked$strength$name, scale = asked$strength,
    cautions = new_cautions(), sample = sample, estimate = list(r = r, unexplained = left, n = n), chosen = "auto",
    groups = NULL, largest = NULL, seed = NULL, resamples = NULL
  )
}

#' A sample whose rows are not at hand, only their moments
#' @noRd
moments_sample <- function(moments, spreads) {
  none <- stats::setNames(rep(list(numeric()), length(moments$variables)), moments$variables)
  new_sample(
    columns = none, variables = moments$book, coding = lapply(none, function(column) list()), origin = list(),
    more = new.env(parent = emptyenv()), row = integer(), spreads = spreads
  )
}
