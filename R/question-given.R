# One pair with others held constant.

#' The relation of a pair that is left when other variables are held constant
#' @param sample From [sample_given()].
#' @noRd
relate_given <- function(sample, asked) {
  record <- settle_coefficient(asked$coefficient, sample)
  if (!record$products) {
    abort_usage(sprintf("Nothing can be held constant beside %s.", record$name), "Use pearson or spearman.")
  }
  kept <- c(test = asked$test == "analytic", interval = asked$interval %in% c("analytic", "jackknife"))
  if (!all(kept)) {
    which <- names(kept)[!kept][1]
    abort_usage(
      sprintf("With variables held constant there is no `%s` \"%s\".", which, asked[[which]]),
      if (which == "test") "Leave it out: Student's t is used." else "Allowed: \"analytic\", \"jackknife\"."
    )
  }
  sample <- if (!is.na(record$two_valued)) as_zero_one(sample, record$two_valued) else sample
  part <- part_side(sample, asked$part)
  partial <- partial_of_sample(sample, record, part = part)
  free <- length(partial$x) - partial$held
  tested <- test_student(partial$both$r, partial$both$unexplained, free, asked$expect)
  around <- if (asked$interval == "jackknife" || !is.null(part)) {
    # Fisher's z presumes that both sides were freed of what is held.
    interval_jackknife(partial_without_each(partial), partial$r, partial$unexplained, asked$confidence, free - 2)
  } else {
    interval_by_z(
      partial$r, partial$unexplained, free, record$z_variance(partial$r, free), asked$confidence,
      if (record$resistant) {
        "bonett-wright z"
      } else {
        "fisher z"
      }
    )
  }
  left <- sample_of_residuals(sample, partial)
  estimate <- new_estimate(record$name, partial$x, partial$y, partial$r, partial$unexplained)
  new_relation(
    x = sample$names[1], y = sample$names[2], coefficient = record$name, r = partial$r,
    r_squared = if (is.null(record$words$r_squared)) NA_real_ else 1 - partial$unexplained,
    n = length(partial$x), n_dropped = sum(sample$dropped), confidence = asked$confidence, ci_low = around$ci_low,
    ci_high = around$ci_high, ci_method = around$ci_method, statistic = tested$statistic, value = tested$value,
    df = tested$df, p = tested$p, log10_p = tested$log10_p, p_method = tested$p_method, expect = asked$expect,
    direction = direction_of(partial$r), strength = strength_word(partial$r, asked$strength),
    strength_scale = asked$strength$name, scale = asked$strength,
    cautions = if (isTRUE(asked$undoubted)) new_cautions() else cautions_of_residuals(sample, left, partial, asked),
    sample = sample, estimate = estimate, chosen = if (asked$coefficient == "auto") "auto" else "asked", groups = NULL,
    largest = NULL, seed = NULL, resamples = NULL, given = sample$given$names, given_labels = sample$given$labels,
    unheld = partial$all, residual_sample = left, part = if (!is.null(part)) sample$names[part],
    z_variance = record$z_variance(partial$r, free)
  )
}

# A side by its place, x or y, or by its name.
pick_part <- function(study, quo) {
  told <- rlang::quo_get_expr(quo)
  if (is.character(told) && told %in% setdiff(c("x", "y"), study_names(study))) told else pick_optional(study, quo, "part")
}

#' What is left of a sample's two columns, by the scores of a coefficient
#' @noRd
partial_of_sample <- function(sample, record, which = sample$given$names, part = NULL) {
  scores <- record$scores
  measure_partial(scores(sample$x), scores(sample$y), held_columns(sample, record, which), sample$names, part)
}

# Bends, uneven spreads and far values are sought in what is left; few and missing cases among all.
cautions_of_residuals <- function(sample, left, partial, asked) {
  record <- straight_record()
  estimate <- new_estimate(record$name, partial$x, partial$y, partial$r, partial$unexplained)
  found <- list(
    estimate = estimate, record = record, r = partial$r, p = 0, alpha = alpha_of(asked$confidence), scale = asked$strength
  )
  found$once <- found_once(left, found)
  # What is left of two groups lies about two places, which bends nothing.
  grouped <- any(vapply(sample$coding, function(side) !is.null(side$one), NA))
  checks <- if (grouped) list() else list(doubt_curve, doubt_spread)
  doubts <- c(lapply(checks, function(check) check(left, found)), lapply(list(doubt_few, doubt_missing), function(check) {
    check(sample, found)
  }))
  new_cautions(do.call(c, doubts), sample$names[1], sample$names[2])
}

#' What holding each of some variables, and all of them, does to a relation
#'
#' @param sample From [sample_given()], over the cases that have them all.
#' @return A data frame, a row a candidate and one for all together where there are several: `candidate`, `r`, `partial`,
#'   `ci_low`, `ci_high`, `difference`, `difference_low`, `difference_high`, `p`, `verdict`.
#' @noRd
judge_candidates <- function(sample, record, confidence) {
  names <- sample$given$names
  sets <- c(as.list(names), if (length(names) > 1L) list(names))
  design <- sample_design(sample)
  rows <- lapply(sets, function(which) {
    held <- held_columns(sample, record, which)
    found <- tryCatch(
      if (is.null(design)) {
        x <- record$scores(sample$x)
        y <- record$scores(sample$y)
        list(row = change_by_holding(x, y, held, confidence, sample$names), tied = tied_to_both(x, y, held))
      } else {
        change_by_design(sample$x, sample$y, held, design, record$resistant, confidence)
      },
      unsere_error_undefined = function(e) NULL
    )
    if (is.null(found)) return(NULL)
    cbind(
      candidate = if (length(which) > 1L) "all together" else which, found$row,
      verdict = candidate_verdict(found$row, confidence, is_below(found$tied, confidence))
    )
  })
  rows <- do.call(rbind, rows)
  if (!is.null(rows)) rownames(rows) <- NULL
  rows
}

#' Explained: what holding it takes away is clear, and what is left is not; partly: both are clear; masked: more is left than
#' there was
#'
#' What explains is tied to each side beyond the other; what is tied to x alone changes r by narrowing its spread, and that
#' explains nothing. What is noise in one side alone masks: with it held, r is larger.
#' @noRd
candidate_verdict <- function(row, confidence, tied) {
  clear <- is_below(row$p, confidence)
  if (!isTRUE(clear) || !isTRUE(tied)) return("not explained by")
  left <- !is.na(row$ci_low) && (row$ci_low > 0 || row$ci_high < 0)
  if (abs(row$partial) > abs(row$r) || sign(row$partial) != sign(row$r) && left) return("masked by")
  if (left) "partly explained by" else "explained by"
}
