# Text that is nearly something else: what it may be, and what to do about it.

#' A column that stays text, and why
#' @noRd
keep_text <- function(text, why) list(values = text, note = joined(template("kept as text: "), why))

#' @param given Text that is no number, date or answer of two kinds.
#' @return A list: `why` (it is kept as text), `advice`, `quiet` where it need not be said on reading; or `NULL` where it
#'   is words.
#' @noRd
unread_kind <- function(given) {
  given <- given[!is.na(given)]
  all_like <- function(pattern) length(given) > 0L && all(grepl(pattern, given, perl = TRUE))
  slashed <- "^[0-9]{1,2}[/.-][0-9]{1,2}[/.-]([0-9]{4}|[0-9]{2})( [0-9:]+( ?[AaPp][Mm])?)?$"
  if (all_like("^[-+]?[0-9]+([.,][0-9]+)? ?%?$") && any(grepl("%$", given))) {
    return(list(
      why = template("some values have a percent sign and others none"),
      advice = "Write all as percentages, or all as shares, in a copy."
    ))
  }
  if (all_like("^[0-9]+:[0-5][0-9](:[0-5][0-9])?$")) {
    return(list(
      why = template(
        "%s may be minutes and seconds, or hours and minutes",
        given[grepl("^([3-9]|2[4-9]|[0-9]{3})", given)][1]
      ),
      advice = "Write durations as one number, such as minutes, in a copy."
    ))
  }
  if (all_like(slashed)) {
    return(list(
      why = template("%s may have the day or the month first", given[1]),
      advice = "Write dates as year-month-day in a copy: 2024-12-09."
    ))
  }
  if (all_like("^[^0-9]{0,3} ?[-+]?[0-9][0-9., ']* ?[^0-9]{0,12}$")) {
    parts <- unique(gsub("[-+0-9., ']", "", given))
    if (length(parts) > 1L && length(parts) < 6L && any(duplicated(gsub("[-+0-9., ']", "", given)))) {
      return(list(
        why = template("its numbers carry different units (%s)", paste(sprintf("\"%s\"", parts), collapse = ", ")),
        advice = "Write numbers of one unit, without it, in a copy.", quiet = TRUE
      ))
    }
  }
  NULL
}
