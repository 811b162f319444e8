# Cautions are a table of facts: one row a reason to doubt a result.

severities <- c("serious", "warning", "note")

gravest_first <- function(severity) order(match(severity, severities))

#' A reason to doubt: its code, how grave it is, the figures that earned it, and what to do next
#'
#' @param figures A named list of numbers and names.
#' @param next_step From [next_step()], or `NULL`.
#' @noRd
new_doubt <- function(code, severity, figures = list(), next_step = NULL) {
  list(code = code, severity = severity, figures = figures, next_step = next_step)
}

#' A question to ask next, with its arguments; the pair is that of the caution unless `pair` is `FALSE`
#' @noRd
next_step <- function(question, ..., pair = TRUE) list(question = question, arguments = list(...), pair = pair)

#' @param doubts A list from [new_doubt()]; `x`, `y` the pair that they are about, `NA` where they are about several.
#' @return A data frame: `code`, `severity`, `x`, `y`, `figures` and `next_step` (lists).
#' @noRd
new_cautions <- function(doubts = list(), x = NA_character_, y = NA_character_) {
  field <- function(name) vapply(doubts, `[[`, "", name)
  stopifnot(all(field("severity") %in% severities))
  rows <- list2DF(list(
    code = field("code"), severity = field("severity"), x = rep(x, length(doubts)), y = rep(y, length(doubts)),
    figures = lapply(doubts, `[[`, "figures"), next_step = lapply(doubts, `[[`, "next_step")
  ), nrow = length(doubts))
  as_cautions(rows[gravest_first(rows$severity), ])
}

as_cautions <- function(rows) {
  rownames(rows) <- NULL
  class(rows) <- c("unsere_cautions", "data.frame")
  rows
}

#' Several tables of cautions as one, the gravest first
#' @noRd
bind_cautions <- function(...) {
  parts <- lapply(Filter(Negate(is.null), list(...)), function(part) structure(part, class = "data.frame"))
  rows <- do.call(rbind, c(list(structure(new_cautions(), class = "data.frame")), parts))
  as_cautions(rows[gravest_first(rows$severity), ])
}

#' Some rows of a table of cautions
#' @noRd
pick_cautions <- function(cautions, which) as_cautions(structure(cautions, class = "data.frame")[which, ])
