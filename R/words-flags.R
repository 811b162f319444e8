# The verdict on two series, in plain words.

#' What was done to the periods
#' @noRd
flag_notes <- function(x) {
  periods <- x$periods
  if (is.null(periods)) {
    unmeasured <- unmeasured_of_relation(replace(x$relation, "unmeasured", list(x$unmeasured)))
    return(c(say("No time variable was given, so trends were not checked."), behind_words(x$behind), unmeasured))
  }
  c(
    if (!is.null(x$unmeasured)) say("Of the changes: %s", unmeasured_sentence(x$unmeasured, 2)),
    if (!is.null(x$relation$sample$more$design)) {
      say("The series were analysed without the sampling design.")
    },
    if (!periods$sorted) say("The rows were sorted by %s.", x$time),
    if (periods$gaps) {
      say("Missing periods: %s; changes across a gap are excluded.", count_of_steps(periods$gaps, periods$step))
    },
    if (!is.null(periods$units)) {
      say(
        paste(
          "%d units (%s) over %d times: the mean of each unit and of each time was removed; p by the jackknife,",
          "leaving out one unit at a time."
        ),
        periods$units, periods$name_of_units, periods$times
      )
    },
    if (!is.null(x$series$averaged)) {
      say(
        "The mean of the %d units (%s) at each time was analysed; five units are needed to look within units.",
        x$series$averaged,
        x$series$name_of_units
      )
    },
    if (periods$uneven) {
      say(paste(
        "The times are uneven: a change over a longer step is weighted by its length, and no seasonal pattern was",
        "sought."
      ))
    },
    if (periods$season > 1L) {
      say(
        "%s (%d periods) was removed from the changes and the levels.",
        if (periods$seasonal) say("A seasonal pattern that both series share") else say("The seasonal pattern"),
        periods$season
      )
    },
    repeats_words(x),
    if (periods$too_short) {
      say("The times cover less than two seasons, so a seasonal pattern cannot be separated from a correlation.")
    },
    if (periods$flat) say("A series changes by the same step every time, so its changes have no correlation.")
  )
}

# Values that each fill several periods.
repeats_words <- function(x) {
  repeats <- x$periods$repeats
  if (is.null(repeats)) return(NULL)
  names <- paste(c(x = x$x, y = x$y)[repeats$which], collapse = say(" and "))
  say(
    if (repeats$drawn) {
      "%s: values between every %dth period lie on straight lines; only the periods they join were used (n = %d)."
    } else {
      "%s: each value fills %d periods; the means of these were used (n = %d)."
    }, names, repeats$periods, as.integer(x$levels$n)
  )
}

verdict_words <- c(
  holds = "robust to the trend: the correlation holds beyond the trends",
  weakened = "weakened: the evidence beyond the trend is mixed",
  "cannot tell" = "inconclusive: too few periods to show or rule out a correlation beyond the trends",
  "trend only" = "shared trend only: too little evidence of a correlation beyond the trends",
  "between units" = paste(
    "between units only: units with higher values of one have higher values of the other, but changes within",
    "units are not significantly correlated"
  ),
  "no relation" = "no significant correlation of the levels or the changes",
  "too little data" = "too few periods with both values"
)

# The codes of verdicts as a reader has them.
verdict_labels <- c(
  holds = "robust to the trend", weakened = "partly due to trend", "cannot tell" = "inconclusive",
  "trend only" = "shared trend only", "between units" = "between units only", "no relation" = "not significant",
  "too little data" = "too few periods"
)

verdict_line <- function(x) {
  if (x$verdict != "trend only" || !has_season(x)) return(say(verdict_words[[x$verdict]]))
  say("shared trend or seasonal pattern only: too little evidence of a correlation beyond them")
}

#' @export
format.unsere_flags <- function(x, ..., door = door_r()) {
  variables <- x$relation$sample$variables
  over <- if (is.na(x$time)) "" else say(", over time (%s)", x$time)
  watson <- say("%s (2: no autocorrelation; towards 0: positive autocorrelation)")
  entries <- set_entries(list(
    "Durbin-Watson" = if (!is.na(x$durbin_watson)) say(watson, format_decimals(x$durbin_watson, 2)),
    "lag" = lag_clause(x),
    "few periods" = if (isTRUE(is_below(x$prewhitened$p, x$confidence))) weakest_clause(x),
    "within groups" = if (!groups_are_units(x)) within_clause(x)
  ))
  c(
    set_title(say("%s and %s%s", heading_of(variables, x$x), heading_of(variables, x$y), over)), "",
    if (!is.na(x$verdict)) c(paste0("  ", bold(verdict_line(x))), "", set_table(flag_cells(x))),
    if (!is.na(x$verdict) && length(entries)) "",
    if (is.na(x$verdict)) paste0("  ", estimate_words(x$relation)),
    if (is.na(x$verdict) && length(entries)) "", entries,
    if (NROW(x$candidates)) c("", say("Control variable"), set_table(candidate_cells(x$candidates))),
    set_notes(flag_notes(x)),
    set_cautions(x$cautions, variables, door), "", say("To report"), set_paragraph(in_words(x))
  )
}

#' The r side by side
#' @noRd
flag_cells <- function(x) {
  panel <- !is.null(x$units)
  rows <- if (panel) x$checks[names(unit_rows_named)] else x[c("levels", "changes", "detrended", "prewhitened")]
  names <- if (panel) unit_rows_named else series_names
  effective <- format_decimals(vapply(rows, `[[`, 0, "n_effective"), 0)
  cells <- list(
    say(names), vapply(rows, function(row) format_r(row$r), ""), vapply(rows, function(row) format(row$n), ""), effective,
    prose_p(vapply(rows, `[[`, 0, "p")),
    vapply(rows, function(row) if (is.na(row$r)) "" else format_strip(row$r, NA, NA, 23L), "")
  )
  names(cells) <- c("", "r", "n", say("effective n"), "p", "")
  # The p of levels takes neighbouring times for independent, which is what deceives.
  cells[[5]][1] <- sprintf("(%s)", cells[[5]][1])
  if (panel) cells[-4] else cells
}

# Cells for a page or a document, where no strip stands.
without_strip <- function(cells) cells[-length(cells)]

unit_rows_named <- c(
  levels = "levels", inside = "levels within units", changes = "changes", detrended = "within units and times"
)
series_names <- c("levels", "changes", "detrended", "prewhitened")

weakest_clause <- function(x) {
  if (is.null(x$weakest) || is.na(x$weakest$r)) return(NULL)
  at <- x$series$grid$labels[x$weakest$place + c(1L, 3L)]
  say(
    "without %s to %s, r of the prewhitened series would be %s (%s)", at[1], at[2], format_r(x$weakest$r),
    format_p_clause(x$weakest$p)
  )
}

lag_clause <- function(x) {
  if (is.null(x$lags)) return(NULL)
  best <- x$lags[x$lags$lag == x$lag, ]
  way <- if (x$lag) say("%s follows %s most closely after %s", x$y, x$x, count_of_steps(
    x$lag,
    x$step
  )) else say("closest without a lag")
  say(
    "%s: r of the prewhitened series %s (%s, adjusted for %d lags)", way, format_r(best$r), format_p_clause(best$p_adjusted),
    nrow(x$lags)
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
  text <- paste(c(text, behind_sentence(result, digits), candidate_words(result$candidates)), collapse = " ")
  if (is.null(result$within) || groups_are_units(result)) return(text)
  paste0(text, say(
    " Within %s, r(%d) = %s, %s.", count_of(length(result$within$by_group), "group"),
    result$within$df, format_r(result$within$r, digits), format_p_clause(result$within$p)
  ))
}

# Within units the trend of each is still there, so that what holds within groups tells nothing new of them.
groups_are_units <- function(x) isTRUE(x$within$group == x$series$name_of_units)

#' @export
format.unsere_flag_table <- function(x, ..., door = door_r()) {
  rows <- utils::head(x$pairs, 40)
  cells <- list(
    x = shorten(label_of(x$variables, rows$x), 14), y = shorten(label_of(x$variables, rows$y), 14),
    levels = format_r(rows$levels_r), changes = format_r(rows$changes_r), "no trend" = format_r(rows$detrended_r),
    "adjusted p" = prose_p(rows$p_adjusted), verdict = ifelse(is.na(rows$verdict), "", say(verdict_labels[rows$verdict]))
  )
  more <- nrow(x$pairs) - nrow(rows)
  c(
    set_title(say("%s over time (%s)", count_of(nrow(x$pairs), "pair"), x$time)), "", set_table(cells, left_aligned = 2L),
    if (more > 0) say("  and %s more (--format csv has all)", count_of(more, "pair")), "",
    set_paragraph(in_words(x))
  )
}

#' @export
in_words.unsere_flag_table <- function(result, digits = 2, ...) {
  counts <- table(factor(result$pairs$verdict, names(verdict_words)))
  counts <- counts[counts > 0]
  tail <- if (nrow(result$pairs) > 1L) {
    if (is.null(result$flags[[1]]$units)) {
      say(" p of the prewhitened series is adjusted for the number of pairs (Holm); the verdicts use it.")
    } else {
      say(" p of the changes is adjusted for the number of pairs (Holm); the verdicts use it.")
    }
  }
  named <- result$pairs[result$pairs$verdict %in% "holds", ]
  pair <- say("%s and %s", inside_of(result$variables, named$x), inside_of(result$variables, named$y))
  clause <- if (nrow(named)) {
    say(" Correlated beyond their trends: %s.", paste(utils::head(pair, 5), collapse = "; "))
  }
  verdicts <- toString(sprintf("%s %d", say(verdict_labels[names(counts)]), counts))
  paste0(say("Of %s: %s.", count_of(nrow(result$pairs), "pair"), verdicts), clause, tail)
}

#' @export
json_fields.unsere_flags <- function(result, door = door_r()) {
  c(json_head("flags"), list(
    x = result$x, y = result$y, time = result$time, verdict = result$verdict, levels = result$levels,
    changes = result$changes, detrended = result$detrended, prewhitened = result$prewhitened,
    durbin_watson = result$durbin_watson, within = result$within, step = result$step,
    season = result$season, lag = result$lag, lags = or_default(result$lags, list()),
    units = or_default(result$units, NA_integer_),
    across = or_default(result$checks$across, list(r = NA_real_, p = NA_real_)),
    inside = or_default(result$checks$inside[c("r", "p")], list(r = NA_real_, p = NA_real_)),
    averaged = or_default(result$series$averaged, NA_integer_),
    candidates = json_candidates(result$candidates),
    cautions = fields_of_cautions(result$cautions, result$relation$sample$variables, door),
    notes = or_default(many(flag_notes(result)), list()), sentence = in_words(result)
  ), if (!is.null(result$unmeasured)) list(unmeasured = result$unmeasured), intake_fields(result))
}

#' @export
json_fields.unsere_flag_table <- function(result, door = door_r()) {
  c(json_head("flag_pairs"), list(time = result$time, pairs = result$pairs, sentence = in_words(result)))
}

#' @export
markdown_lines.unsere_flags <- function(result) {
  timeless <- is.na(result$verdict)
  cells <- if (timeless) relation_cells(result$relation) else without_strip(flag_cells(result))
  if (!timeless) names(cells)[1] <- "series"
  c(
    markdown_table(cells, left_aligned = if (timeless) 2L else 1L), "",
    if (NROW(result$candidates)) c(markdown_table(candidate_cells(result$candidates)), ""),
    in_words(result), if (timeless) c("", paste(flag_notes(result), collapse = " "))
  )
}

#' @export
markdown_lines.unsere_flag_table <- function(result) {
  rows <- result$pairs
  c(markdown_table(
    list(
      x = label_of(result$variables, rows$x), y = label_of(result$variables, rows$y),
      verdict = rows$verdict,
      levels = format_r(rows$levels_r), changes = format_r(rows$changes_r),
      "detrended" = format_r(rows$detrended_r)
    ),
    left_aligned = 3L
  ), "", in_words(result))
}
