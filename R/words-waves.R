# A pair over waves of the same persons, in words.

#' @export
format.unsere_waves <- function(x, ..., door = door_r()) {
  c(
    set_title(say("%s and %s over %s waves", x$labels[1], x$labels[2], format_count(length(x$waves)))), "",
    set_table(wave_cells(x, brief = TRUE), left_aligned = 2L), "",
    if (nrow(x$differences)) c(say("Difference of cross-lagged correlations"), set_table(wave_difference_cells(x)), ""),
    if (nrow(x$lost)) c(say("Lost after the first wave"), set_table(lost_cells(x)), ""),
    set_entries(list(persons = attrition_clause(x))), "", say("To report"), set_paragraph(in_words(x)),
    set_paragraph(lagged_warning(x))
  )
}

kind_words <- c(
  wave = "same wave", stability = "stability", "cross-lagged" = "cross-lagged", change = "change with change",
  between = "between persons", within = "within persons"
)

#' "practice 1, score 2", as a row is called
#' @noRd
wave_row_words <- function(x, rows) {
  side <- function(which) x$labels[match(which, c("x", "y"))]
  ifelse(rows$kind == "wave", say("wave %s", rows$from), ifelse(
    rows$kind == "stability", say("%s, wave %s to %s", side(rows$first), rows$from, rows$to), ifelse(
      rows$kind == "cross-lagged", say("%s %s, %s %s", side(rows$first), rows$from, side(rows$second), rows$to), ifelse(
        rows$kind == "change", say("wave %s to %s", rows$from, rows$to), say("all waves")
      )
    )
  ))
}

wave_cells <- function(x, brief = FALSE) {
  rows <- x$relations
  words <- wave_row_words(x, rows)
  cells <- list(
    kind = say(ifelse(duplicated(rows$kind) & brief, "", kind_words[rows$kind])),
    of = if (brief) shorten(words, 50) else words, n = format_count(rows$n), r = format_r(rows$r),
    interval = mapply(format_interval, rows$ci_low, rows$ci_high), p = prose_p(rows$p)
  )
  cells$kind[is.na(cells$kind)] <- ""
  names(cells) <- c("", " ", "n", coefficient_symbol(x$coefficient), say("%s%% interval", percent(x$confidence)), "p")
  cells
}

wave_difference_cells <- function(x) {
  rows <- x$differences
  cells <- list(
    waves = say("wave %s to %s", rows$from, rows$to), first = format_r(rows$r_x_first), second = format_r(rows$r_y_first),
    difference = format_r(rows$difference), interval = mapply(format_interval, rows$ci_low, rows$ci_high),
    p = prose_p(rows$p)
  )
  names(cells) <- c(
    say("waves"), say("%s first", shorten(x$labels[1], 18)), say("%s first", shorten(x$labels[2], 18)), say("difference"),
    say("%s%% interval", percent(x$confidence)), "p"
  )
  cells
}

lost_cells <- function(x) {
  rows <- x$lost
  cells <- list(
    variable = shorten(x$labels[match(rows$variable, c("x", "y"))], 26), stayed = format_column(rows$mean_stayed),
    lost = format_column(rows$mean_lost), n = sprintf("%s / %s", format_count(rows$n_stayed), format_count(rows$n_lost)),
    r = format_r(rows$r), p = prose_p(rows$p)
  )
  names(cells) <- c(say("at the first wave"), say("mean, stayed"), say("mean, lost"), say("n"), say("r with staying"), "p")
  cells
}

attrition_clause <- function(x) {
  rows <- x$attrition
  by_wave <- paste(say("wave %s: %s", rows$wave, format_count(rows$n)), collapse = ", ")
  say("%s; %s in every wave", by_wave, format_count(rows$all_so_far[nrow(rows)]))
}

#' @export
in_words.unsere_waves <- function(result, digits = 2, ...) {
  paste(c(
    same_wave_sentence(result, digits), stability_sentence(result, digits), lagged_sentence(result, digits),
    change_sentence(result, digits), lost_sentence(result), sets_sentence(result)
  ), collapse = " ")
}

of_kind <- function(x, kind, first = NULL) {
  rows <- x$relations[x$relations$kind == kind & !is.na(x$relations$r), ]
  if (is.null(first)) rows else rows[rows$first == first, ]
}

span_words <- function(r, digits) {
  if (length(r) == 1L) return(format_r(r, digits))
  ends <- unique(format_r(range(r), digits))
  if (length(ends) == 1L) ends else say("%s to %s", ends[1], ends[2])
}

same_wave_sentence <- function(x, digits) {
  rows <- of_kind(x, "wave")
  ends <- c(rows$from[1], rows$from[nrow(rows)])
  clear <- sum(rows$p < 1 - x$confidence, na.rm = TRUE)
  say(
    "Within waves %s and %s correlated at %s (wave %s to %s; significant in %s of %s).", small_inside(x$labels[1]),
    small_inside(x$labels[2]), paste(format_r(rows$r, digits), collapse = ", "), ends[1], ends[2], format_count(clear),
    format_count(nrow(rows))
  )
}

stability_sentence <- function(x, digits) {
  clause <- function(side) {
    rows <- of_kind(x, "stability", side)
    near <- rows[rows$distance == min(rows$distance), ]
    say("%s for %s", span_words(near$r, digits), small_inside(x$labels[match(side, c("x", "y"))]))
  }
  sides <- intersect(c("x", "y"), of_kind(x, "stability")$first)
  if (!length(sides)) return(NULL)
  say("Stability from wave to wave was %s.", paste(vapply(sides, clause, ""), collapse = say(" and ")))
}

lagged_sentence <- function(x, digits) {
  rows <- x$differences
  if (!nrow(rows)) return(NULL)
  strongest <- rows[which.min(rows$p), ]
  clear <- isTRUE(strongest$p < 1 - x$confidence)
  figures <- say(
    "%s first %s, %s first %s, difference %s, %s%% CI %s, %s", small_inside(x$labels[1]),
    format_r(strongest$r_x_first, digits), small_inside(x$labels[2]), format_r(strongest$r_y_first, digits),
    format_r(strongest$difference, digits), percent(x$confidence),
    format_interval(strongest$ci_low, strongest$ci_high, digits), format_p_clause(strongest$p)
  )
  if (clear) {
    return(say("The cross-lagged correlations differed from wave %s to %s (%s).", strongest$from, strongest$to, figures))
  }
  if (nrow(rows) == 1L) return(say("The cross-lagged correlations did not differ significantly (%s).", figures))
  say(
    "The cross-lagged correlations did not differ significantly in any step (closest from wave %s to %s: %s).",
    strongest$from, strongest$to, figures
  )
}

change_sentence <- function(x, digits) {
  rows <- of_kind(x, "change")
  within <- of_kind(x, "within")
  between <- of_kind(x, "between")
  c(
    if (nrow(rows)) say("Changes correlated at %s.", paste(sprintf(
      "%s (%s)", format_r(rows$r, digits), vapply(rows$p, format_p_clause, "")
    ), collapse = ", ")),
    if (nrow(within)) say(
      "Within persons r was %s, %s%% CI %s, between persons %s, %s%% CI %s.", format_r(within$r, digits),
      percent(x$confidence), format_interval(within$ci_low, within$ci_high, digits), format_r(between$r, digits),
      percent(x$confidence), format_interval(between$ci_low, between$ci_high, digits)
    )
  )
}

lost_sentence <- function(x) {
  if (!nrow(x$lost)) return(NULL)
  alpha <- 1 - x$confidence
  clear <- x$lost[(x$lost$p < alpha) %in% TRUE, ]
  n <- x$lost$n_lost[1]
  first <- if (nrow(clear)) {
    names <- small_inside(x$labels[match(clear$variable, c("x", "y"))])
    say(
      "The %s persons lost after the first wave differed in %s (%s).", format_count(n),
      paste(names, collapse = say(" and ")), paste(vapply(clear$p, format_p_clause, ""), collapse = ", ")
    )
  } else {
    say("The %s persons lost after the first wave did not differ significantly in either at the start.", format_count(n))
  }
  if (isTRUE(x$lost_difference < alpha)) {
    other <- say("Their correlation at the first wave was another one, %s.", format_p_clause(x$lost_difference))
    first <- paste(first, other)
  }
  first
}

#' What a difference of cross-lagged r does not show, told wherever they stand
#' @noRd
lagged_warning <- function(x) {
  if (!nrow(x$differences)) return(NULL)
  say(paste(
    "A difference of cross-lagged correlations does not show which of the two comes first: one that is more stable, or",
    "lasting differences between persons, give it as well (Rogosa 1980; Hamaker et al. 2015)."
  ))
}

#' @export
as.data.frame.unsere_waves <- function(x, ...) x$relations

#' @export
json_fields.unsere_waves <- function(result, door = door_r()) {
  fields <- unclass(result)[waves_fields]
  fields$waves <- as.list(as.character(result$waves))
  c(json_head("waves"), fields, sets_fields(result), list(
    notes = or_default(many(lagged_warning(result)), list()), sentence = in_words(result)
  ))
}

#' @export
markdown_lines.unsere_waves <- function(result) {
  c(
    markdown_table(wave_cells(result)), "",
    if (nrow(result$differences)) c(markdown_table(wave_difference_cells(result)), ""),
    if (nrow(result$lost)) c(markdown_table(lost_cells(result)), ""), in_words(result), "", lagged_warning(result)
  )
}
