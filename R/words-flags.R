# The verdict on two series, in plain words.

#' What was done to the periods
#' @noRd
flag_notes <- function(x) {
  periods <- x$periods
  if (is.null(periods)) return("No time was given, so nothing is said about trends.")
  c(
    if (!periods$sorted) sprintf("The rows were put into the order of %s.", x$time),
    if (periods$gaps) {
      missing <- count_of(periods$gaps, paste(periods$step, "is"), paste0(periods$step, "s are"))
      sprintf("%s missing on the way; changes across a gap are left out.", missing)
    },
    if (periods$season > 1L) {
      sprintf("The season (%d periods a year) was taken out of changes and levels.", periods$season)
    },
    if (periods$flat) "A series changes by the same step every time, so its changes correlate with nothing."
  )
}

verdict_words <- c(
  holds = "holds: they go together beyond their trends",
  weakened = "weakened: part of it outlasts the trends, part does not",
  "trend only" = "trend only: they share a trend, and nothing more was seen",
  "no relation" = "no relation: neither the levels nor the changes are clearly tied",
  "too little data" = "too little data: eight periods with both values are needed"
)

#' @export
format.unsere_flags <- function(x, ..., door = door_r()) {
  variables <- x$relation$sample$variables
  over <- if (is.na(x$time)) "" else sprintf(", over time (%s)", x$time)
  watson <- "%s (2: neighbouring times are independent; towards 0: they are not)"
  entries <- set_entries(list(
    "Durbin-Watson" = if (!is.na(x$durbin_watson)) sprintf(watson, format_decimals(x$durbin_watson, 2)),
    "one change" = if (isTRUE(is_below(x$changes$p, x$confidence))) weakest_clause(x),
    "within groups" = within_clause(x)
  ))
  c(
    set_title(sprintf("%s and %s%s", heading_of(variables, x$x), heading_of(variables, x$y), over)), "",
    if (!is.na(x$verdict)) c(paste0("  ", bold(verdict_words[[x$verdict]])), "", set_table(flag_cells(x)), ""),
    if (is.na(x$verdict)) paste0("  ", estimate_words(x$relation)),
    if (is.na(x$verdict) && length(entries)) "", entries,
    set_notes(flag_notes(x)),
    set_cautions(x$cautions, variables, door), "", "To report", set_paragraph(in_words(x))
  )
}

#' Three r side by side
#' @noRd
flag_cells <- function(x) {
  rows <- list(x$levels, x$changes, x$detrended)
  cells <- list(
    c("levels", "changes", "without the trend"), vapply(rows, function(row) format_r(row$r), ""),
    vapply(rows, function(row) format(row$n), ""), vapply(rows, function(row) format_decimals(row$n_effective, 0), ""),
    prose_p(vapply(rows, `[[`, 0, "p")),
    vapply(rows, function(row) if (is.na(row$r)) "" else format_strip(row$r, NA, NA, 23L), "")
  )
  names(cells) <- c("", "r", "n", "counts as", "p", "")
  # The p of levels takes neighbouring times for independent, which is what deceives.
  cells[[5]][1] <- sprintf("(%s)", cells[[5]][1])
  cells
}

weakest_clause <- function(x) {
  at <- x$series$grid$labels[x$weakest$place + 1L]
  sprintf(
    "without the change up to %s, r of the changes would be %s (%s)", at, format_r(x$weakest$r),
    format_p_clause(x$weakest$p)
  )
}

within_clause <- function(x) {
  if (is.null(x$within)) return(NULL)
  by <- x$within$by_group[!is.na(x$within$by_group)]
  sprintf("r = %s, %s (%s)", format_r(x$within$r), format_p_clause(x$within$p), paste(names(by), format_r(by),
    collapse = ", "
  ))
}

#' @export
in_words.unsere_flags <- function(result, digits = 2, ...) {
  variables <- result$relation$sample$variables
  x <- inside_of(variables, result$x)
  y <- inside_of(variables, result$y)
  text <- if (is.na(result$verdict)) in_words(result$relation, digits) else trend_sentence(result, x, y, digits)
  if (is.null(result$within)) return(text)
  paste0(text, sprintf(
    " Within %s the relation was r(%d) = %s, %s.", count_of(length(result$within$by_group), "group"),
    result$within$df, format_r(result$within$r, digits), format_p_clause(result$within$p)
  ))
}

trend_sentence <- function(result, x, y, digits) {
  figures <- function(row) sprintf("r = %s, %s", format_r(row$r, digits), format_p_clause(row$p))
  levels <- format_r(result$levels$r, digits)
  both <- sprintf("%s; without the trend %s", figures(result$changes), figures(result$detrended))
  from <- if (is.null(result$step)) "period" else result$step
  other_way <- isTRUE(sign(result$levels$r) != sign(result$changes$r)) && result$verdict == "holds"
  switch(result$verdict,
    holds = sprintf(
      "%s and %s went together from %s to %s, not only in their trends (changes: %s).%s",
      capital(x), y, from, from, both,
      if (other_way) sprintf(" Over the whole time they drifted the other way (levels r = %s).", levels) else ""
    ),
    weakened = sprintf(
      paste(
        "%s and %s correlated over time (levels r = %s), but only part of it outlasted their trends (changes: %s);",
        "it should be reported as uncertain."
      ),
      capital(x), y, levels, both
    ),
    "trend only" = sprintf(
      paste(
        "%s and %s correlated over time (levels r = %s), but their changes from %s to %s did not clearly (%s);",
        "a shared trend is enough to explain it, and the r of the levels should not be reported as a relation."
      ),
      capital(x), y, levels, from, from, both
    ),
    "no relation" = sprintf(
      "No clear relation of %s and %s over time was found (levels r = %s; changes: %s).", x, y, levels, both
    ),
    sprintf(
      "%s and %s share %s, too few to tell a relation from a trend.", capital(x), y, count_of(result$levels$n, from)
    )
  )
}

#' @export
format.unsere_flag_table <- function(x, ..., door = door_r()) {
  rows <- utils::head(x$pairs, 40)
  cells <- list(
    x = shorten(label_of(x$variables, rows$x), 14), y = shorten(label_of(x$variables, rows$y), 14),
    levels = format_r(rows$levels_r), changes = format_r(rows$changes_r), "no trend" = format_r(rows$detrended_r),
    "p adj." = prose_p(rows$changes_p_adjusted), verdict = ifelse(is.na(rows$verdict), "", rows$verdict)
  )
  more <- nrow(x$pairs) - nrow(rows)
  c(
    set_title(sprintf("%s over time (%s)", count_of(nrow(x$pairs), "pair"), x$time)), "", set_table(cells, left = 2L),
    if (more > 0) sprintf("  and %s more (--format csv has all)", count_of(more, "pair")), "",
    set_paragraph(in_words(x))
  )
}

#' @export
in_words.unsere_flag_table <- function(result, digits = 2, ...) {
  counts <- table(factor(result$pairs$verdict, names(verdict_words)))
  counts <- counts[counts > 0]
  tail <- if (nrow(result$pairs) > 1L) {
    " p of the changes is adjusted for the number of pairs by Holm; the verdicts use it."
  }
  named <- result$pairs[result$pairs$verdict %in% "holds", ]
  told <- sprintf("%s and %s", inside_of(result$variables, named$x), inside_of(result$variables, named$y))
  held <- if (nrow(named)) {
    sprintf(" Beyond their trends go together: %s.", paste(utils::head(told, 5), collapse = "; "))
  }
  verdicts <- toString(sprintf("%s %d", names(counts), counts))
  paste0(sprintf("Of %s: %s.", count_of(nrow(result$pairs), "pair"), verdicts), held, tail)
}

#' @export
json_fields.unsere_flags <- function(result, door = door_r()) {
  c(json_head("flags"), list(
    x = result$x, y = result$y, time = result$time, verdict = result$verdict, levels = result$levels,
    changes = result$changes,
    detrended = result$detrended, durbin_watson = result$durbin_watson, within = result$within, step = result$step,
    season = result$season, cautions = caution_fields(result$cautions, result$relation$sample$variables, door),
    notes = or_default(many(flag_notes(result)), list()), sentence = in_words(result)
  ), intake_fields(result))
}

#' @export
json_fields.unsere_flag_table <- function(result, door = door_r()) {
  c(json_head("flag_pairs"), list(time = result$time, pairs = result$pairs, sentence = in_words(result)))
}

#' @export
as_markdown.unsere_flags <- function(result) {
  cells <- flag_cells(result)[1:5]
  names(cells)[1] <- "series"
  c(markdown_table(cells), "", in_words(result))
}

#' @export
as_markdown.unsere_flag_table <- function(result) {
  rows <- result$pairs
  c(markdown_table(
    list(
      x = label_of(result$variables, rows$x), y = label_of(result$variables, rows$y),
      verdict = rows$verdict,
      levels = format_r(rows$levels_r), changes = format_r(rows$changes_r),
      "without the trend" = format_r(rows$detrended_r)
    ),
    left = 3L
  ), "", in_words(result))
}
