# Between groups and within them: the two levels of the pair that is looked at, as a line of the brief.

#' Variables that cases can be grouped by, those of a pair apart
#' @noRd
grouping_names <- function(study, pair) {
  told <- unlist(lapply(c("cluster", "group"), function(role) names_with(study, role)))
  setdiff(unique(c(told, names_with(study, "measure", c("binary", "nominal", "ordinal")))), c(pair$x, pair$y))
}

levels_at <- function(brief, pair) {
  found <- which(vapply(brief$levels, function(one) one$x == pair$x && one$y == pair$y, NA))
  if (length(found)) found[1]
}

levels_control <- function(study, brief, pair) {
  at <- levels_at(brief, pair)
  control_select("levels:group", "Between and within groups", variable_options(study, grouping_names(study, pair)),
    if (!is.null(at)) or_default(brief$levels[[at]]$group, ""),
    none = "no groups"
  )
}

levels_rest <- function(desk, pair) {
  brief <- desk$brief()
  at <- levels_at(brief, pair)
  if (is.null(at)) return(NULL)
  or_trouble({
    levels <- answer_entry("levels", desk$study(), brief$levels[[at]], brief)
    tags <- htmltools::tags
    tags$div(
      tags$h2(say("Between and within: %s", label_of(levels$variables, levels$group))), answer_sentence(levels),
      cases_table(levels_cells(levels), "Correlation between and within groups."),
      cases_table(likeness_cells(levels), "Intraclass correlations.")
    )
  })
}

set_levels <- function(desk, view, value) {
  view$options_open <- TRUE
  change_brief(desk, function(brief) {
    now <- current_pair(brief, view)
    if (is.null(now)) return(brief)
    pair <- now$pair[c("x", "y")]
    at <- levels_at(brief, pair)
    kept <- if (is.null(at)) brief$levels else brief$levels[-at]
    if (nzchar(value)) kept <- c(kept, list(c(pair, list(group = value))))
    brief$levels <- if (length(kept)) kept
    brief
  })
}
