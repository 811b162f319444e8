# Predictors and doubt: several predictors of one outcome side by side, and two series over time with the verdict.

place_predictors <- function() {
  new_place("predictors", "Predictors", "Which predictor is strongest?",
    top = predictors_top, figure = predictors_figure, rest = predictors_rest, set = predictors_set,
    result = function(desk, view) desk_rank(desk),
    list = predictors_list, part = function(desk, view, part, name) {
      now <- chosen_predictors(shiny::isolate(desk$brief()), view)
      if (part == "outcome") return(predictors_set(desk, view, "rank:outcome", name))
      predictors_set(desk, view, paste0("rank-predictor:", name), !name %in% now$predictors)
    }
  )
}

#' The outcome and the predictors as far as they are chosen
#' @noRd
chosen_predictors <- function(brief, view) {
  list(
    outcome = or_default(brief$rank$outcome, view$outcome),
    predictors = union(unlist(brief$rank$predictors), view$predictors)
  )
}

predictors_list <- function(desk, view) {
  now <- chosen_predictors(desk$brief(), view)
  variable_list(
    desk, c(outcome = "y", predictor = "x"), list(outcome = now$outcome, predictor = now$predictors),
    ordered_measures(desk$study())
  )
}

predictors_top <- function(desk, view) {
  or_trouble({
    study <- desk$study()
    now <- chosen_predictors(desk$brief(), view)
    tags <- htmltools::tags
    tags$div(
      tags$div(class = "row", control_select(
        "rank:outcome", "Outcome (y)", variable_options(study, ordered_measures(study)), now$outcome,
        none = "choose"
      )),
      if (length(now$predictors) < 2L) {
        tags$p(class = "lead", say("Choose an outcome (y) and two predictors (x) or more in the list."))
      }
    )
  })
}

desk_rank <- function(desk) {
  brief <- desk$brief()
  if (is.null(brief$rank)) return(NULL)
  worked_out(desk, "rank", brief$rank, answer_entry("rank", desk$study(), brief$rank, brief))
}

predictors_figure <- function(desk, view) {
  rank <- desk_rank(desk)
  if (!is.null(rank)) draw_predictors(rank)
}

predictors_rest <- function(desk, view) {
  or_trouble({
    rank <- desk_rank(desk)
    if (is.null(rank)) return(NULL)
    tags <- htmltools::tags
    tags$div(
      answer_sentence(rank), list_of_cautions(rank$cautions, rank$variables),
      cases_table(comparison_cells(rank), "Differences between the correlations.", left_aligned = 2L)
    )
  })
}

predictors_set <- function(desk, view, key, value) {
  if (!startsWith(key, "rank")) return(FALSE)
  now <- chosen_predictors(shiny::isolate(desk$brief()), view)
  outcome <- now$outcome
  chosen <- now$predictors
  if (key == "rank:outcome") {
    outcome <- if (nzchar(value)) value
  } else {
    name <- sub("^rank-predictor:", "", key)
    chosen <- if (isTRUE(as.logical(value))) union(chosen, name) else setdiff(chosen, name)
  }
  chosen <- setdiff(chosen, outcome)
  view$outcome <- outcome
  view$predictors <- chosen
  # Two predictors make a ranking; fewer are kept in mind alone.
  change_brief(desk, function(brief) {
    brief$rank <- if (length(chosen) >= 2L && !is.null(outcome)) list(outcome = outcome, predictors = as.list(chosen))
    brief
  })
  TRUE
}

place_doubt <- function() {
  new_place("doubt", "Trends", "More than a shared trend?",
    top = doubt_top, figure = doubt_figure, rest = doubt_rest, set = doubt_set, act = doubt_act,
    result = desk_flags
  )
}

doubt_top <- function(desk, view) {
  or_trouble({
    study <- desk$study()
    brief <- desk$brief()
    numeric <- names_with(study, "measure", c("numeric", "ordinal"))
    time <- or_default(brief$spurious$time, role_variable(study, "time"))
    names <- study_names(study)
    tags <- htmltools::tags
    pairs <- brief$spurious$pairs
    tags$div(
      tags$div(
        class = "row", control_select("spurious:time", "Time", variable_options(study, names), time, none = "none"),
        control_select("view:series_x", "First series", variable_options(study, numeric), view$series_x, none = "choose"),
        control_select("view:series_y", "Second series", variable_options(study, numeric), view$series_y, none = "choose"),
        act_button("add_series", "Check the two", class = "main")
      ),
      if (length(pairs)) tags$div(
        class = "row",
        control_text(
          "spurious:candidates", "Potential confounders", paste(unlist(brief$spurious$candidates), collapse = "; "),
          "age_years; centre"
        ),
        control_text("spurious:season", "Periods per season", brief$spurious$season, "12"),
        control_text("spurious:lag", "Maximum lag, in periods", brief$spurious$lag, "2")
      ),
      if (length(pairs)) tags$div(class = "row", control_select("view:series", "Pairs in the report", stats::setNames(
        seq_along(pairs), vapply(pairs, function(pair) paste(unlist(pair), collapse = " and "), "")
      ), series_at(brief, view)), act_button("drop_series", "Remove from the report"))
    )
  })
}

series_at <- function(brief, view) {
  count <- length(brief$spurious$pairs)
  if (isTRUE(view$series %in% seq_len(count))) view$series else if (count) count
}

desk_flags <- function(desk, view) {
  brief <- desk$brief()
  at <- series_at(brief, view)
  if (is.null(at)) return(NULL)
  entry <- section_entries(brief_sections()$spurious, brief)[[at]]
  worked_out(desk, "flags", entry, answer_entry("spurious", desk$study(), entry, brief))
}

doubt_figure <- function(desk, view) {
  flags <- desk_flags(desk, view)
  if (!is.null(flags$series)) draw_over_time(flags)
}

doubt_rest <- function(desk, view) {
  or_trouble({
    flags <- desk_flags(desk, view)
    if (is.null(flags)) return(htmltools::tags$p(
      class = "lead", say("Two series with a common trend can be correlated without being related.")
    ))
    cells <- without_strip(flag_cells(flags))
    names(cells)[1] <- "series"
    htmltools::tags$div(
      answer_sentence(flags), cases_table(cells, "Levels, changes, detrended and prewhitened series."),
      list_of_cautions(flags$cautions, flags$relation$sample$variables)
    )
  })
}

doubt_set <- function(desk, view, key, value) {
  if (!startsWith(key, "spurious:")) return(FALSE)
  field <- sub("^spurious:", "", key)
  change_brief(desk, function(brief) {
    if (field != "time") {
      brief$spurious[[field]] <- if (field == "candidates") as_names(value) else unlist(as_numbers(value))
    } else if (length(brief$spurious$pairs)) {
      brief$spurious$time <- if (nzchar(value)) value
    } else if (nzchar(value)) {
      brief$variables[[value]]$role <- "time"
    }
    brief
  })
  TRUE
}

doubt_act <- function(desk, view, what, value, fields) {
  switch(what,
    add_series = {
      add_series(desk, or_default(view$series_x, ""), or_default(view$series_y, ""))
      view$series <- NULL
    },
    drop_series = change_brief(desk, function(brief) {
      brief$spurious$pairs[[series_at(brief, view)]] <- NULL
      if (!length(brief$spurious$pairs)) brief$spurious <- NULL
      brief
    }),
    return(FALSE)
  )
  TRUE
}
