# The sentence on two series over time.

# "year", or 2 and "year" of "2 years".
parts_of_step <- function(step) {
  many <- regmatches(step, regexec("^([0-9.]+) (.*)s$", step))[[1]]
  if (length(many)) list(number = as.numeric(many[2]), unit = many[3]) else list(number = 1, unit = step)
}

# "4 years": how long a count of steps is.
count_of_steps <- function(n, step) {
  one <- parts_of_step(step)
  count_of(n * one$number, one$unit)
}

# "12 years", but "12 times" where a step is not one of its unit.
count_of_times <- function(n, step) count_of(n, if (parts_of_step(step)$number == 1) step else "time")

from_step_to_step <- function(step) {
  one <- parts_of_step(step)
  if (step == "time") return(say("from one time to the next"))
  if (one$number == 1) return(say("from %s to %s", say(step), say(step)))
  say("from one time to the next, %s apart,", count_of_steps(1, step))
}

# What the levels show, as far as their own p goes.
levels_sentence <- function(result, x, y, levels) {
  if (isTRUE(is_below(result$levels$p, result$confidence))) {
    x <- begin(x, result$relation$sample$variables)
    return(say("%s and %s were correlated over time (%s).", x, y, levels))
  }
  say("The levels of %s and %s were not significantly correlated over time (%s).", x, y, levels)
}

#' Which of the figures beyond the trend are significant, and which are not
#' @noRd
evidence_beyond_trend <- function(result, digits) {
  names <- c(
    changes = "the changes", if (is.null(result$units)) c(prewhitened = "the prewhitened series"),
    detrended = "the detrended series"
  )
  significant <- vapply(names(names), function(kind) isTRUE(is_below(result[[kind]]$p, result$confidence)), NA)
  clauses <- vapply(names(names)[order(!significant)], function(kind) {
    row <- result[[kind]]
    say(
      if (significant[[kind]]) "%s were significantly correlated (r = %s, %s)" else "%s were not (r = %s, %s)",
      say(names[[kind]]), format_r(row$r, digits), format_p_clause(row$p)
    )
  }, "")
  paste(clauses, collapse = ", ")
}

trend_sentence <- function(result, x, y, digits) {
  first <- function(name) begin(name, result$relation$sample$variables)
  figures <- function(row) sprintf("r = %s, %s", format_r(row$r, digits), format_p_clause(row$p))
  levels <- levels_clause(result, digits)
  panel <- !is.null(result$units)
  both <- sprintf(
    "%s; %s %s", figures(result$changes), if (panel) say("within units and times") else say("prewhitened"),
    figures(if (panel) result$detrended else result$prewhitened)
  )
  step <- or_default(result$step, "period")
  from <- from_step_to_step(step)
  other_way <- isTRUE(sign(result$levels$r) != sign(result$changes$r)) && result$verdict == "holds"
  switch(result$verdict,
    holds = say(
      "%s and %s were correlated %s beyond their trends (changes: %s).%s", first(x), y, from, both,
      if (other_way) say(" Over the whole time the correlation had the opposite sign (%s).", levels) else ""
    ),
    weakened = paste(levels_sentence(result, x, y, levels), say(
      "Without the trend the evidence is mixed: %s; the correlation should be reported as uncertain.",
      evidence_beyond_trend(result, digits)
    )),
    "cannot tell" = paste(levels_sentence(result, x, y, levels), say(
      "%s are too few to tell whether they correlate beyond their trends (changes: %s).",
      count_of_times(result$levels$n, step), both
    )),
    "trend only" = trend_only_sentence(result, first(x), y, levels, from, both, digits),
    "between units" = say(
      paste(
        "%s and %s were correlated between the %d units, apart from any trend (r = %s, %s, with the mean of each",
        "time removed), but within units their changes %s were not (%s)."
      ),
      first(x), y, result$units, format_r(result$checks$across$r, digits), format_p_clause(result$checks$across$p), from,
      both
    ),
    "no relation" = say(
      "%s and %s were not significantly correlated over time (%s; changes: %s).", first(x), y, levels, both
    ),
    if (panel) {
      say("%s and %s: the %d units share too few times to separate a correlation from a trend.", first(x), y, result$units)
    } else {
      say(
        "%s and %s share %s, too few to separate a correlation from a trend.", first(x), y,
        count_of_times(result$levels$n, step)
      )
    }
  )
}

trend_only_sentence <- function(result, x, y, levels, from, both, digits) {
  if (!is_mixed(result)) return(say(
    paste(
      "%s and %s were correlated over time (%s), but their changes %s were not (%s). %s is enough to explain",
      "the correlation of the levels, which should not be reported as a relationship."
    ),
    x, y, levels, from, both, capital(what_is_shared(result))
  ))
  paste(say("%s and %s were correlated over time (%s).", x, y, levels), say(
    paste(
      "Without the trend the evidence is weak: %s. %s may explain the correlation of the levels, which should not be",
      "reported as a relationship."
    ),
    evidence_beyond_trend(result, digits), capital(what_is_shared(result))
  ))
}

what_is_shared <- function(result) {
  if (has_season(result)) say("a shared trend or seasonal pattern") else say("a shared trend")
}

# Whether something beyond the trend is significant for itself, though it does not outlast the other checks.
is_mixed <- function(result) {
  kinds <- c("changes", if (is.null(result$units)) "prewhitened")
  any(vapply(kinds, function(kind) isTRUE(is_below(result[[kind]]$p, result$confidence)), NA))
}

# The r of the levels, of what, and where all cases together hide it, within units.
levels_clause <- function(result, digits) {
  averaged <- result$series$averaged
  r <- format_r(result$levels$r, digits)
  if (!is.null(averaged)) return(say("levels: r = %s in the mean of %d units", r, averaged))
  hidden <- isTRUE(result$levels$p >= alpha_of(result$confidence)) && result$verdict %in% c("trend only", "cannot tell")
  if (is.null(result$units) || !hidden) return(say("levels: r = %s", r))
  say("levels: r = %s, within units r = %s", r, format_r(result$checks$inside$r, digits))
}

has_season <- function(x) isTRUE(x$periods$season > 1L)
