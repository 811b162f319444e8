# Sentences as data: what a room below words has to tell is a template with its figures, which words fill in, in whatever
# language is in force when it is shown.

#' A sentence as data: a template, in English, and what it is filled in with
#'
#' It is kept as a call that is never run, so that it stays one thing in lists.
#' @param text For [sprintf()].
#' @param ... Texts and numbers as they are, what [shown()] wraps, and further templates.
#' @noRd
template <- function(text, ...) {
  structure(as.call(list(quote(template), text, ...)), class = "unsere_template")
}

#' Parts of a sentence one after the other
#' @noRd
joined <- function(..., between = "") shown(Filter(Negate(is.null), list(...)), "parts", between)

#' A figure, and as what it is shown
#'
#' @param as `"r"`, `"p"`, `"number"`, `"decimals"`, `"statistic"`, `"df"`, `"count"`, `"percent"`, `"interval"`, `"reach"`,
#'   `"cases"`, `"counted"`; of a variable `"label"` (inside a sentence), `"Label"` (at its start), `"heading"` (as it
#'   stands); `"case"`, `"several"`, `"mark"`, `"date_order"`; of several parts `"parts"`, `"both"`.
#' @noRd
shown <- function(value, as, detail = NULL) {
  structure(as.call(list(quote(shown), value, as, detail)), class = "unsere_shown")
}

#' "3 rows", "1 row", worded where it is shown
#' @noRd
counted <- function(n, one, many = paste0(one, "s")) shown(n, "counted", c(one, many))

#' A template about one variable
#' @noRd
about <- function(template, variable) structure(template, variable = variable)

#' Which variable a decision is about, `NA` where it is about the table
#' @noRd
decision_variables <- function(decisions) {
  vapply(decisions, function(decision) or_default(attr(decision, "variable", exact = TRUE), NA_character_), "")
}

#' A template as English text, for errors
#' @noRd
in_english <- function(part) {
  if (inherits(part, "unsere_template")) return(do.call(sprintf, lapply(as.list(part)[-1], in_english)))
  if (!inherits(part, "unsere_shown")) return(part)
  if (part[[3]] == "counted") return(count_in_english(part[[2]], part[[4]][1], part[[4]][2]))
  paste(vapply(part[[2]], in_english, ""), collapse = part[[4]])
}

#' Decisions of reading: templates, each by the name of its kind
#' @noRd
as_decisions <- function(decisions) structure(as.list(decisions), class = "unsere_decisions")

#' @export
c.unsere_decisions <- function(...) as_decisions(do.call(c, lapply(list(...), unclass_decisions)))

#' @export
`[.unsere_decisions` <- function(x, ...) as_decisions(unclass(x)[...])

unclass_decisions <- function(part) {
  if (is.call(part)) list(part) else if (inherits(part, "unsere_decisions")) unclass(part) else part
}
