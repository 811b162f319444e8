# Beyond the pair that is looked at: its two levels, its correlation pooled over groups, and under every choice, as lines of
# the brief.

#' Variables that cases can be grouped by, those of a pair apart
#' @noRd
grouping_names <- function(study, pair) {
  told <- unlist(lapply(c("cluster", "group"), function(role) names_with(study, role)))
  setdiff(unique(c(told, names_with(study, "measure", c("binary", "nominal", "ordinal")))), c(pair$x, pair$y))
}

# The sections of a brief that hold a pair with its groups: what the groups' key is called there.
grouped_sections <- c(levels = "group", pool = "by")

section_place <- function(brief, key, pair) {
  same <- function(one) identical(one$x, pair$x) && identical(one$y, pair$y)
  found <- which(vapply(brief[[key]], same, NA))
  if (length(found)) found[1]
}

grouped_controls <- function(study, brief, pair) {
  labels <- c(levels = "Between and within groups", pool = "Pooled over groups")
  options <- variable_options(study, grouping_names(study, pair))
  groups <- lapply(names(grouped_sections), function(key) {
    at <- section_place(brief, key, pair)
    control_select(paste0(key, ":group"), labels[[key]], options,
      if (!is.null(at)) or_default(brief[[key]][[at]][[grouped_sections[[key]]]], ""),
      none = "no groups"
    )
  })
  c(groups, list(control_check("choices:on", "Under every choice", !is.null(section_place(brief, "choices", pair)))))
}

grouped_rest <- function(desk, pair) {
  brief <- desk$brief()
  lapply(c(names(grouped_sections), "choices"), function(key) {
    at <- section_place(brief, key, pair)
    if (is.null(at)) return(NULL)
    or_trouble(grouped_view(answer_entry(key, desk$study(), brief[[key]][[at]], brief)))
  })
}

grouped_view <- function(result) {
  tags <- htmltools::tags
  if (inherits(result, "unsere_levels")) {
    return(tags$div(
      tags$h2(say("Between and within: %s", label_of(result$variables, result$group))), answer_sentence(result),
      cases_table(levels_cells(result), "Correlation between and within groups."),
      cases_table(likeness_cells(result), "Intraclass correlations.")
    ))
  }
  if (inherits(result, "unsere_choices")) {
    return(tags$div(
      tags$h2(say("Under every choice")), answer_sentence(result),
      if (nrow(result$decisions)) cases_table(decision_cells(result), "What each choice changes.")
    ))
  }
  tags$div(
    tags$h2(say("Pooled over groups: %s", label_of(result$variables, result$by))), answer_sentence(result),
    cases_table(pooled_cells(result), "Correlations by group, with their mean."), lapply(pooled_notes(result), tags$p)
  )
}

set_grouped <- function(desk, view, key, value) {
  view$options_open <- TRUE
  change_brief(desk, function(brief) {
    now <- current_pair(brief, view)
    if (is.null(now)) return(brief)
    pair <- now$pair[c("x", "y")]
    at <- section_place(brief, key, pair)
    kept <- if (is.null(at)) brief[[key]] else brief[[key]][-at]
    if (key == "choices") {
      if (isTRUE(as.logical(value))) kept <- c(kept, list(c(pair, now$pair["given"][length(now$pair$given) > 0L])))
    } else if (nzchar(value)) {
      kept <- c(kept, list(c(pair, stats::setNames(list(value), grouped_sections[[key]]))))
    }
    brief[[key]] <- if (length(kept)) kept
    brief
  })
}
