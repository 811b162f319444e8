# What may lie behind a relation, in words.

#' What each candidate does, side by side
#' @noRd
candidate_cells <- function(rows) {
  cells <- list(
    shorten(rows$label, 26), format_r(rows$r), format_r(rows$partial), mapply(format_interval, rows$ci_low, rows$ci_high),
    prose_p(rows$p), say(rows$verdict)
  )
  names(cells) <- c("held", "r", "partial r", "interval", "p of change", "finding")
  cells
}

#' The candidates in a sentence each
#' @noRd
candidate_words <- function(rows) {
  if (!NROW(rows)) return(NULL)
  controls <- small_inside(rows$label, rows$label == rows$candidate)
  controls[rows$candidate == "all together"] <- say("all of them")
  clauses <- say(
    "controlling for %s, r went from %s to %s (%s; change: %s)", controls, format_r(rows$r), format_r(rows$partial),
    candidate_verdict_words(rows), vapply(rows$p, format_p_clause, "")
  )
  paste0(capital(paste(clauses, collapse = "; ")), ".", if (any(rows$verdict %in% c("partly explained by", "cannot tell"))) {
    say(" Measurement error in a control variable leaves part of r in place.")
  })
}

candidate_verdict_words <- function(rows) {
  words <- say(rows$verdict)
  unsure <- rows$verdict == "cannot tell"
  words[unsure] <- say(
    "whether it explains r cannot be told, interval of the partial r %s", mapply(format_interval, rows$ci_low, rows$ci_high)
  )[unsure]
  words
}

json_candidates <- function(rows) if (is.null(rows)) list() else rows[setdiff(names(rows), "label")]

#' Which variables to look at as candidates, where none was named
#' @param rows From [variables_behind()].
#' @noRd
behind_words <- function(rows) {
  if (!NROW(rows)) return(NULL)
  named <- sprintf("%s (r = %s)", small_inside(rows$label, rows$label == rows$variable), format_r(rows$partial))
  say(
    "Potential confounders (controlling for them reduces r): %s. Check them with candidates.",
    paste(named, collapse = ", ")
  )
}

# What takes all of a clear relation with it stands in the sentence.
behind_sentence <- function(flags, digits) {
  rows <- flags$behind
  alpha <- alpha_of(flags$confidence)
  if (!NROW(rows) || !isTRUE(flags$relation$p < alpha) || rows$p[1] < alpha) return(NULL)
  controls <- small_inside(rows$label[1], rows$label[1] == rows$variable[1])
  say(
    "Controlling for %s, which is related to both, r was %s, %s.", controls,
    format_r(rows$partial[1], digits), format_p_clause(rows$p[1])
  )
}
