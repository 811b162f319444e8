# What controlling for each of some candidates does to a relation.

# A side by its place, x or y, or by its name.
pick_part <- function(study, quo) {
  part <- rlang::quo_get_expr(quo)
  if (is.character(part) && part %in% setdiff(c("x", "y"), study_names(study))) part else pick_optional(study, quo, "part")
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
    controls <- held_columns(sample, record, which)
    partial <- tryCatch(
      if (is.null(design)) {
        x <- record$scores(sample$x)
        y <- record$scores(sample$y)
        list(row = change_by_holding(x, y, controls, confidence, sample$names), tied = tied_to_both(x, y, controls))
      } else {
        change_by_design(sample$x, sample$y, controls, design, record$resistant, confidence)
      },
      unsere_error_undefined = function(e) NULL
    )
    if (is.null(partial)) return(NULL)
    cbind(
      candidate = if (length(which) > 1L) "all together" else which, partial$row,
      verdict = candidate_verdict(partial$row, confidence, is_below(partial$tied, confidence))
    )
  })
  rows <- do.call(rbind, rows)
  if (!is.null(rows)) rownames(rows) <- NULL
  rows
}

#' Explained: controlling for it changes r significantly, and what is left is shown to be small; partly: what is left is
#' significant; masked: more is left than there was; otherwise it cannot be told
#'
#' What explains is tied to each side beyond the other; what is tied to x alone changes r by narrowing its spread, and that
#' explains nothing. What is noise in one side alone masks: controlling for it makes r larger.
#' @noRd
candidate_verdict <- function(row, confidence, tied) {
  clear <- is_below(row$p, confidence)
  if (!isTRUE(clear) || !isTRUE(tied)) return("not explained by")
  is_clear <- !is.na(row$ci_low) && (row$ci_low > 0 || row$ci_high < 0)
  if (abs(row$partial) > abs(row$r) || sign(row$partial) != sign(row$r) && is_clear) return("masked by")
  if (is_clear) return("partly explained by")
  # That a test does not reject shows nothing: the whole interval has to be small.
  if (isTRUE(max(abs(c(row$ci_low, row$ci_high))) < small_partial(row$r))) "explained by" else "cannot tell"
}

# What the interval of the partial r must lie within for nothing much to be left.
small_partial <- function(r) max(0.1, abs(r) / 3)
