# Relate: one pair, its figure, its strip and sentence, its cautions with a way to follow each up.

place_relate <- function() {
  new_place("relate", "Pair", "Are two variables correlated?",
    top = relate_top, figure = relate_figure, rest = relate_rest, set = relate_set, act = relate_act
  )
}

relate_top <- function(desk, view) {
  or_trouble({
    study <- desk$study()
    brief <- desk$brief()
    at <- pair_at(brief, view)
    pair <- if (!is.null(at)) brief$pairs[[at]]
    x <- or_default(view$x, pair$x)
    y <- or_default(view$y, pair$y)
    usable <- relatable_names(study)
    tags <- htmltools::tags
    tags$div(
      if (length(brief$pairs) > 1L) kept_pairs(brief, at),
      tags$div(
        class = "row", control_select("pair:x", "Along", variable_options(study, usable), x, none = "choose"),
        control_select("pair:y", "Up", y_options(study, usable, x), y, none = "choose")
      ),
      if (!is.null(pair)) pair_options(study, brief, pair, view),
      if (!is.null(pair)) or_trouble({
        relation <- desk_answer(desk, at)$relation
        tags$div(class = "answer", page_block(block_strip(relation)), answer_sentence(relation))
      })
    )
  })
}

#' The answer to a pair of the brief, worked out once for all that shows it
#' @noRd
desk_answer <- function(desk, at) {
  brief <- desk$brief()
  worked_out(desk, "pair", brief$pairs[[at]], answer_entry("pairs", desk$study(), brief$pairs[[at]], brief))
}

kept_pairs <- function(brief, at) {
  shown <- vapply(brief$pairs, function(pair) sprintf("%s and %s", pair$x, pair$y), "")
  control_select("view:pair", "Pairs in the brief", stats::setNames(seq_along(shown), shown), at)
}

#' Each partner of x with the coefficient that the two would get
#' @noRd
y_options <- function(study, names, x) {
  options <- variable_options(study, setdiff(names, x))
  if (is.null(x) || !x %in% study_names(study)) return(options)
  suited <- vapply(options, function(y) {
    record <- choose_coefficient(level_of(study, c(x, y)))
    if (is.null(record)) "" else paste0(" \u2013 ", record$adjective)
  }, "")
  stats::setNames(options, paste0(names(options), suited))
}

pair_options <- function(study, brief, pair, view) {
  few <- Filter(function(name) length(unique(study_column(study, name))) <= 9L, grouping_names(study, pair))
  htmltools::tags$details(
    class = "options", open = if (isTRUE(view$options_open)) NA, htmltools::tags$summary("The line, groups, predictions"),
    htmltools::tags$div(
      class = "row",
      control_select("pair:shape", "Shape of the line", c("linear", "log", "quadratic"), or_default(pair$shape, "linear")),
      control_text("pair:predict_at", "Predict at", paste(unlist(pair$predict_at), collapse = "; "), "5; 10"),
      control_text("pair:solve", "Read x from y", paste(unlist(pair$solve), collapse = "; "), "60"),
      control_select("pair:interval", "Interval and test", line_intervals, or_default(pair$interval, "auto")),
      control_select("view:by", "Colour by", variable_options(study, few), view$by,
        none = "nothing"
      ),
      if (!is.null(view$by)) control_check("view:panels", "A panel each", view$panels),
      control_text("pair:given", "Held constant", paste(unlist(pair$given), collapse = "; "), "age_years; centre"),
      control_check("view:flat_line", "Flat line at the mean", view$flat_line),
      levels_control(study, brief, pair),
      act_button("drop_pair", "Take this pair out")
    )
  )
}

relate_figure <- function(desk, view) {
  study <- desk$study()
  brief <- desk$brief()
  at <- pair_at(brief, view)
  if (is.null(at)) return(NULL)
  pair <- brief$pairs[[at]]
  by <- if (isTRUE(view$by %in% study_names(study))) view$by
  draw_pair(study, pair$x, pair$y, list(
    by = by, given = unlist(pair$given), line = TRUE, shape = or_default(pair$shape, "linear"), case_band = FALSE,
    flat_line = isTRUE(view$flat_line), panels = isTRUE(view$panels) && !is.null(by), means = FALSE,
    at = unlist(pair$predict_at), solve = unlist(pair$solve), labels = TRUE, name_cases = "none", x_limits = NULL,
    y_limits = NULL, confidence = or_default(brief_settings(brief)$confidence, 0.95)
  ), figure_texts(NULL, NULL, NULL, FALSE))
}

relate_rest <- function(desk, view) {
  brief <- desk$brief()
  at <- pair_at(brief, view)
  if (is.null(at)) return(htmltools::tags$p(class = "lead", "Choose one variable along and one up."))
  or_trouble({
    answer <- desk_answer(desk, at)
    relation <- answer$relation
    tags <- htmltools::tags
    tags$div(
      chosen_cases(desk, view, brief, at),
      list_of_cautions(relation$cautions, relation$sample$variables, function(code) follow_up(code, relation)),
      line_figures(answer$line), levels_rest(desk, brief$pairs[[at]])
    )
  })
}

#' Dots marked in the figure: who they are, and r without them beside r with them
#' @noRd
chosen_cases <- function(desk, view, brief, at) {
  tags <- htmltools::tags
  if (is.null(view$brush)) {
    return(tags$p(class = "hint", "Click a dot in the figure, or drag over some, to see who they are, and r without them."))
  }
  study <- desk$study()
  pair <- brief$pairs[[at]]
  answer <- desk_answer(desk, at)
  sample <- answer$relation$sample
  box <- view$brush
  inside <- which(sample$columns[[1]] >= box$xmin & sample$columns[[1]] <= box$xmax &
    sample$columns[[2]] >= box$ymin & sample$columns[[2]] <= box$ymax)
  if (!length(inside)) return(tags$p(class = "hint", "No dot lies there."))
  without <- tryCatch(
    answer_entry("pairs", study[-sample$row[inside], ], pair, brief)$relation,
    unsere_error = function(e) NULL
  )
  names <- sample_cases(sample, inside)
  tags$div(
    class = "chosen", `aria-live` = "polite",
    tags$p(sprintf(
      "%s marked: %s%s.", count_of(length(names), "case"), paste(utils::head(names, 12), collapse = ", "),
      if (length(names) > 12L) sprintf(" and %d more", length(names) - 12L) else ""
    )),
    if (!is.null(without)) tags$p(sprintf(
      "Without %1$s %2$s; with %1$s %3$s.", if (length(inside) == 1L) "this one" else "them", r_label(without),
      r_label(answer$relation)
    )),
    act_form(class = "row", field_text("reason", "Leave them aside, because"), act_button(
      "leave_marked", "Leave aside", paste(names, collapse = "\r")
    ))
  )
}

#' A click marks what lies close to it
#' @noRd
around_click <- function(click) {
  wide <- diff(unlist(click$domain[c("left", "right")])) * 0.015
  high <- diff(unlist(click$domain[c("bottom", "top")])) * 0.025
  list(xmin = click$x - wide, xmax = click$x + wide, ymin = click$y - high, ymax = click$y + high)
}

line_figures <- function(line) {
  if (is.null(line)) return(NULL)
  cells <- list(
    equation = line_equation(line), "R squared" = format_r(line$r_squared), "residual sd" = format_number(line$residual_sd)
  )
  predicted <- if (NROW(line$predictions)) {
    rows <- line$predictions
    cases_table(list(
      at = format_number(rows$at, 6), mean = format_number(rows$fit),
      "a single new case" = sprintf("%s to %s", format_number(rows$case_low), format_number(rows$case_high))
    ), "Predicted from the line.")
  }
  solved <- if (NROW(line$solutions)) {
    rows <- line$solutions
    cases_table(list(
      reading = format_number(rows$y, 6), x = format_number(rows$x),
      between = sprintf("%s and %s", format_number(rows$x_low), format_number(rows$x_high))
    ), "Read back from the line.")
  }
  htmltools::tags$div(cases_table(cells, "The line."), predicted, solved)
}

#' What a caution's button does
#' @noRd
follow_up <- function(code, relation) {
  step <- function(label, what, value) list(label = label, what = what, value = value)
  switch(code,
    curved = step("Take a bent line", "set_pair", "shape\rquadratic"),
    interval_too_narrow = ,
    uneven_spread = step("Take the wider interval", "set_pair", "interval\rjackknife"),
    one_case = ,
    far_value = step("Take ranks", "set_pair", "coefficient\rspearman"),
    mixed_groups = if (!is.null(relation$sample$more$group_name)) {
      step("A panel for each group", "panels", relation$sample$more$group_name)
    },
    shared_trend = ,
    serial_dependence = step("Look over time", "to_doubt", paste(relation$x, relation$y, sep = "\r")),
    codes_not_numbers = step("See what was read", "go", "bring")
  )
}

relate_set <- function(desk, view, key, value) {
  if (key == "levels:group") {
    set_levels(desk, view, value)
    return(TRUE)
  }
  if (!startsWith(key, "pair:")) return(FALSE)
  field <- sub("^pair:", "", key)
  if (field %in% c("x", "y")) {
    choose_side(desk, view, field, value)
  } else {
    set_pair(desk, view, field, value)
  }
  TRUE
}

#' A pair stands in the brief as soon as both sides are chosen
#' @noRd
choose_side <- function(desk, view, side, value) {
  brief <- shiny::isolate(desk$brief())
  at <- pair_at(brief, view)
  pair <- if (!is.null(at)) brief$pairs[[at]]
  if (is.null(view$x)) view$x <- pair$x
  if (is.null(view$y)) view$y <- pair$y
  view[[side]] <- if (is_word(value) && nzchar(value)) value
  view$brush <- NULL
  if (!is_word(view$x) || !is_word(view$y) || view$x == view$y) return(invisible())
  add_pair(desk, view, view$x, view$y)
}

set_pair <- function(desk, view, field, value) {
  change_brief(desk, function(brief) {
    at <- pair_at(brief, view)
    if (is.null(at)) return(brief)
    given <- trimws(as.character(value))
    brief$pairs[[at]][[field]] <- if (!nzchar(given)) NULL else if (field %in% c("predict_at", "solve")) {
      as_numbers(given)
    } else if (field == "given") {
      as_names(given)
    } else {
      given
    }
    brief
  })
}

relate_act <- function(desk, view, what, value, fields) {
  parts <- strsplit(or_default(value, ""), "\r", fixed = TRUE)[[1]]
  switch(what,
    set_pair = set_pair(desk, view, parts[1], parts[2]),
    panels = {
      view$by <- value
      view$panels <- TRUE
    },
    drop_pair = {
      change_brief(desk, function(brief) {
        brief$pairs[[pair_at(brief, view)]] <- NULL
        brief
      })
      view$pair <- view$x <- view$y <- NULL
    },
    leave_marked = {
      leave_aside(desk, parts, fields$reason)
      view$brush <- NULL
    },
    to_doubt = {
      add_series(desk, parts[1], parts[2])
      view$place <- "doubt"
    },
    return(FALSE)
  )
  TRUE
}
