# Cautions are a table of facts: one row a reason to doubt a result.

severities <- c("serious", "warning", "note")

gravest_first <- function(severity) order(match(severity, severities))

#' A reason to doubt: its code, how grave it is, the figures that earned it, and what to do next
#'
#' @param figures A named list of numbers and names.
#' @param next_step From [next_step()], or `NULL`.
#' @noRd
new_finding <- function(code, severity, figures = list(), next_step = NULL) {
  list(code = code, severity = severity, figures = figures, next_step = next_step)
}

#' A question to ask next, with its arguments; the pair is that of the caution unless `pair` is `FALSE`
#' @noRd
next_step <- function(question, ..., pair = TRUE) list(question = question, arguments = list(...), pair = pair)

#' @param findings A list from [new_finding()]; `x`, `y` the pair that they are about, `NA` where they are about several.
#' @return A data frame: `code`, `severity`, `x`, `y`, `figures` and `next_step` (lists).
#' @noRd
new_cautions <- function(findings = list(), x = NA_character_, y = NA_character_) {
  field <- function(name) vapply(findings, `[[`, "", name)
  stopifnot(all(field("severity") %in% severities))
  rows <- list2DF(list(
    code = field("code"), severity = field("severity"), x = rep(x, length(findings)), y = rep(y, length(findings)),
    figures = lapply(findings, `[[`, "figures"), next_step = lapply(findings, `[[`, "next_step")
  ), nrow = length(findings))
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

#' The record of a caution
#'
#' @param code Its name in results; `place` its place among those of one severity.
#' @param check From a sample and what was found in it to findings, `NULL` where the figures give no reason; none for
#'   cautions that a question raises by itself.
#' @param schemes The schemes under which it is sought; under controlled variables in the residuals, `grouped` whether also
#'   in those of two groups.
#' @param of_groups Whether it is sought where groups without an order are related; `NA` for there as well as elsewhere.
#' @param always Whether it is told also where both variables are one measure.
#' @param meaning What it means in a few words, a template.
#' @param evidence,advice From the figures and the pair (`x`, `y`) to a [template()].
#' @param clause The sentence that stands with the result in every report of it, from the figures and the digits of r;
#'   `clause_from` the severity from which on it does: a serious one always, a warning where it gives another interval or
#'   test to report.
#' @noRd
new_caution <- function(code, place, check = NULL, schemes = "simple", always = FALSE, of_groups = FALSE, grouped = FALSE,
                        meaning, evidence, advice = function(f, pair) NULL, clause = NULL, clause_from = "serious") {
  c(as.list(environment()), name = code)
}

all_kinds_of_cases <- c("simple", "controlled", "design", "plausible")
