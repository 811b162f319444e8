# Look: one variable at a time, its values, its far cases by name, and who is excluded, with a reason.

place_look <- function() {
  new_place("look", "Explore", "What is in the data?",
    top = look_top, figure = look_figure, rest = look_rest, list = look_list, act = look_act,
    part = function(desk, view, part, name) {
      view$variable <- name
      view$clicked <- NULL
    }
  )
}

look_list <- function(desk, view) {
  study <- desk$study()
  variable_list(desk, c(show = "show"), list(show = looked_at(study, view)), study_names(study))
}

# The variable looked at: the one chosen, or the first measure, or the first of all where none has an order.
looked_at <- function(study, view) {
  if (isTRUE(view$variable %in% study_names(study))) view$variable else c(ordered_measures(study), study_names(study))[1]
}

look_top <- function(desk, view) {
  or_trouble({
    study <- desk$study()
    name <- looked_at(study, view)
    drawn <- c(distribution = "distribution", "normal quantiles" = "quantiles", "box plot with outliers" = "box")
    htmltools::tags$div(
      class = "row", control_select("view:variable", "Variable", variable_options(study, study_names(study)), name),
      control_select("view:drawn", "Show", drawn, or_default(view$drawn, "distribution"))
    )
  })
}

look_figure <- function(desk, view) {
  study <- desk$study()
  name <- looked_at(study, view)
  if (level_of(study, name) == "nominal") {
    abort_input(problem("%s cannot be drawn.", name), "Set its level first, or choose another variable.")
  }
  switch(or_default(view$drawn, "distribution"),
    quantiles = draw_quantiles(study, name),
    box = draw_box(study, name),
    draw_distribution(study, name)
  )
}

look_rest <- function(desk, view) {
  or_trouble({
    study <- desk$study()
    name <- looked_at(study, view)
    tags <- htmltools::tags
    tags$div(
      look_clicked(study, name, view$clicked), look_figures(study, name), look_far(study, name), look_careless(study),
      look_missing(study),
      exclusion_form(desk, study)
    )
  })
}

look_figures <- function(study, name) {
  row <- summarise_variables(study, name)
  cells <- list(
    variable = label_of(study_book(study), name), n = format_count(row$n), missing = format_count(row$missing),
    different = format_count(row$distinct), mean = format_number(row$mean), sd = format_number(row$sd),
    min = format_number(row$min, 6), median = format_number(row$median, 6), max = format_number(row$max, 6)
  )
  cases_table(cells, "Distribution.")
}

#' Who lies where the figure was clicked: in the bar there, or close to it
#' @noRd
look_click <- function(desk, view, click) {
  study <- desk$study()
  name <- looked_at(study, view)
  drawn <- or_default(view$drawn, "distribution")
  at <- if (drawn == "quantiles") click$y else click$x
  close <- diff(unlist(click$domain[if (drawn == "quantiles") c("bottom", "top") else c("left", "right")])) * 0.015
  ends <- at + c(-close, close)
  if (drawn == "distribution") {
    bars <- panel_bars(panel_values(study, name, FALSE), NULL)
    # Between bars that stand apart, the nearer one is meant.
    apart <- if (nrow(bars) > 1L) max(0, min(bars$from[-1] - bars$to[-nrow(bars)])) / 2 else 0
    bar <- which(bars$from - apart <= at & bars$to + apart >= at)[1]
    if (is.na(bar)) return(view$clicked <- NULL)
    ends <- c(bars$from[bar], bars$to[bar])
  }
  view$clicked <- list(name = name, from = ends[1], to = ends[2])
}

look_clicked <- function(study, name, clicked) {
  tags <- htmltools::tags
  if (!identical(clicked$name, name)) return(tags$p(class = "hint", say("Click in the figure to see the cases there.")))
  values <- study_numbers(study, name)$values
  # A bar holds the values from its left end on; the last one those at its right end too.
  last <- clicked$to >= max(values, na.rm = TRUE)
  there <- which(values >= clicked$from & (values < clicked$to | last & values == clicked$to))
  tags$div(class = "chosen", `aria-live` = "polite", case_rows(study, there, name))
}

#' Some cases as rows of the table: who they are, what was clicked, and the variables beside it
#' @noRd
case_rows <- function(study, at, first, most = 20L) {
  if (!length(at)) return(htmltools::tags$p(class = "hint", say("No case lies there.")))
  names <- utils::head(union(first, setdiff(study_names(study), role_variable(study, "case"))), 7L)
  shown <- utils::head(at, most)
  cells <- lapply(stats::setNames(names, label_of(study_book(study), names)), function(name) {
    words <- as.character(words_of(study_column(study, name)))[shown]
    ifelse(is.na(words), "", shorten_at_word(words, 40L))
  })
  caption <- if (length(at) > most) {
    say("%s there, the first %d of them.", count_of(length(at), "case"), most)
  } else {
    say("%s there.", count_of(length(at), "case"))
  }
  cases_table(c(list(case = case_names(study, shown)), cells), caption, left_aligned = seq_len(length(cells) + 1L))
}

look_far <- function(study, name) {
  if (level_of(study, name) != "numeric") return(NULL)
  far <- outliers_of(study, name)
  far <- far[order(-far$distance), ]
  if (!NROW(far)) return(NULL)
  far <- utils::head(far, 12)
  htmltools::tags$div(
    htmltools::tags$h2(say("Outliers")),
    htmltools::tags$ul(class = "cases", lapply(seq_len(nrow(far)), function(k) {
      htmltools::tags$li(sprintf("%s: %s ", far$case[k], format_number(far$value[k], 6)), act_button(
        "name_case", "Exclude \u2026", far$case[k]
      ))
    }))
  )
}

look_careless <- function(study) {
  signs <- answer_signs(study)
  if (!nrow(signs)) return(NULL)
  tags <- htmltools::tags
  tags$div(tags$h2(say("Flagged response patterns")), tags$ul(lapply(seq_len(nrow(signs)), function(k) {
    named <- utils::head(signs$cases[[k]], 8)
    tags$li(sprintf("%s, %s: %s.", count_of(signs$count[k], "case"), signs$detail[k], paste(named, collapse = ", ")))
  })))
}

look_missing <- function(study) {
  rows <- summarise_variables(study, study_names(study))
  rows <- utils::head(rows[rows$missing > 0, ][order(-rows$missing[rows$missing > 0]), ], 10)
  if (!nrow(rows)) return(NULL)
  cells <- list(
    variable = label_of(rows, rows$variable), missing = format_count(rows$missing),
    share = sprintf("%s %%", format_number(100 * rows$missing / study_size(study), 2))
  )
  cases_table(cells, "Missing values by variable.")
}

#' Who is excluded, and the form that excludes another
#' @noRd
exclusion_form <- function(desk, study) {
  tags <- htmltools::tags
  aside <- desk$brief()$leave_out
  tags$div(
    tags$h2(say("Excluded cases")),
    if (length(aside)) tags$ul(class = "cases", lapply(names(aside), function(case) {
      tags$li(sprintf("%s: %s ", case, aside[[case]]), act_button("take_back", "Include again", case))
    })) else tags$p(class = "hint", say("None. Excluded cases are counted with each result and listed in the report.")),
    act_form(
      class = "row", field_text("case", "Case", placeholder = utils::head(case_names(study, 1L), 1)),
      field_text("reason", "Reason", placeholder = "why"), act_button("leave_out", "Exclude")
    )
  )
}

look_act <- function(desk, view, what, value, fields) {
  switch(what,
    leave_out = leave_aside(desk, strsplit(or_default(fields$case, ""), "[;,]")[[1]], fields$reason),
    take_back = change_brief(desk, function(brief) {
      brief$leave_out[[value]] <- NULL
      brief
    }),
    return(FALSE)
  )
  TRUE
}
