# Beyond the pair that is looked at: its two levels, its correlation pooled over groups, over waves of the same persons, and
# under every choice, as lines of the brief.

#' Variables that cases can be grouped by, those of a pair apart
#' @noRd
grouping_names <- function(study, pair) {
  names <- unlist(lapply(c("cluster", "group"), function(role) names_with(study, role)))
  setdiff(unique(c(names, names_with(study, "measure", c("binary", "nominal", "ordinal")))), c(pair$x, pair$y))
}

# The sections of a brief that hold a pair with its groups or waves: what their key is called there.
grouped_sections <- c(levels = "group", pool = "by", waves = "time")

#' Variables that may be the wave: declared times, and measures with few values, most of them in several cases
#' @noRd
wave_variables <- function(study, pair) {
  # Columns that stay in a database are not fetched for a list.
  measures <- if (holds_rows(study)) setdiff(names_with(study), c(pair$x, pair$y))
  few <- Filter(function(name) {
    # The first cases tell.
    values <- utils::head(study_column(study, name), 5000L)
    kinds <- count_distinct(values)
    kinds >= 2L && kinds <= min(30L, length(values) / 4)
  }, measures)
  c(names_with(study, "time"), few)
}

#' Variables that may name the persons: each at most once in a wave, some in several
#' @noRd
person_variables <- function(study, time) {
  wave <- as.character(study_column(study, time))
  open <- setdiff(c(names_with(study, "case"), names_with(study), names_with(study, "group")), time)
  Filter(function(name) {
    person <- as.character(study_column(study, name))
    known <- !is.na(person) & !is.na(wave)
    anyDuplicated(person[known]) > 0L && !anyDuplicated(data.frame(person, wave)[known, ])
  }, open)
}

section_place <- function(brief, key, pair) {
  same <- function(one) identical(one$x, pair$x) && identical(one$y, pair$y)
  places <- which(vapply(brief[[key]], same, NA))
  if (length(places)) places[1]
}

grouped_controls <- function(study, brief, pair) {
  labels <- c(levels = "Between and within groups", pool = "Pooled over groups", waves = "Over waves")
  groups <- grouping_names(study, pair)
  controls <- lapply(names(grouped_sections), function(key) {
    at <- section_place(brief, key, pair)
    of_waves <- key == "waves"
    control_select(
      paste0(key, ":group"), labels[[key]], variable_options(study, if (of_waves) wave_variables(study, pair) else groups),
      if (!is.null(at)) or_default(brief[[key]][[at]][[grouped_sections[[key]]]], ""),
      none = if (of_waves) "no waves" else "no groups"
    )
  })
  at <- section_place(brief, "waves", pair)
  entry <- if (!is.null(at)) brief$waves[[at]]
  c(controls, list(
    if (!is.null(entry$time)) control_select(
      "waves:case", "Persons", variable_options(study, person_variables(study, entry$time)), entry$case,
      none = "choose"
    ),
    control_check("choices:on", "Under every choice", !is.null(section_place(brief, "choices", pair)))
  ))
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
  if (inherits(result, "unsere_waves")) {
    return(tags$div(
      tags$h2(say("Over waves")), answer_sentence(result),
      cases_table(wave_cells(result), "Correlations within and between waves.")
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

set_grouped <- function(desk, view, key, value, part = "group") {
  view$options_open <- TRUE
  change_brief(desk, function(brief) {
    now <- current_pair(brief, view)
    if (is.null(now)) return(brief)
    pair <- now$pair[c("x", "y")]
    at <- section_place(brief, key, pair)
    entries <- if (is.null(at)) brief[[key]] else brief[[key]][-at]
    if (key == "waves") {
      entries <- c(entries, wave_entry(desk$study(), pair, brief[[key]][at], part, value))
    } else if (key == "choices") {
      if (isTRUE(as.logical(value))) entries <- c(entries, list(c(pair, now$pair["given"][length(now$pair$given) > 0L])))
    } else if (nzchar(value)) {
      entries <- c(entries, list(c(pair, stats::setNames(list(value), grouped_sections[[key]]))))
    }
    brief[[key]] <- if (length(entries)) entries
    brief
  })
}

# The line of a pair over waves: a wave brings the persons that fit it.
wave_entry <- function(study, pair, before, part, value) {
  if (part == "case") return(lapply(before, utils::modifyList, list(case = if (nzchar(value)) value)))
  if (!nzchar(value)) return(NULL)
  persons <- utils::head(person_variables(study, value), 1L)
  list(c(pair, list(time = value), if (length(persons)) list(case = persons)))
}
