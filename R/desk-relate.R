# Relate: one pair, its figure, its strip and sentence, its cautions with a way to follow each up.

place_relate <- function() {
  new_place("relate", "Pair", "Are two variables correlated?",
    top = relate_top, figure = relate_figure, rest = relate_rest, side = relate_side, list = relate_list,
    part = take_part, set = relate_set, act = relate_act, whole = relate_drawing, result = function(desk, view) {
      pair <- current_pair(desk$brief(), view)$pair
      if (!is.null(pair)) desk_answer(desk, pair)$relation
    }
  )
}

# What the variables of the list can be here, and are.
relate_list <- function(desk, view) {
  now <- chosen_sides(desk$brief(), view)
  variable_list(
    desk, c(x = "x", y = "y", control = "control", group = "group"),
    list(x = now$x, y = now$y, control = unlist(now$pair$given), group = view$by)
  )
}

#' The pair that is looked at, and its sides as far as they are chosen
#' @noRd
chosen_sides <- function(brief, view) {
  now <- current_pair(brief, view)
  c(now, list(x = or_default(view$x, now$pair$x), y = or_default(view$y, now$pair$y)))
}

relate_top <- function(desk, view) {
  or_trouble({
    study <- desk$study()
    brief <- desk$brief()
    now <- chosen_sides(brief, view)
    usable <- relatable_names(study)
    tags <- htmltools::tags
    tags$div(
      if (length(brief$pairs) > 1L) kept_pairs(brief, now$at),
      tags$div(
        class = "row", control_select("pair:x", "x (horizontal)", variable_options(study, usable), now$x, none = "choose"),
        control_select("pair:y", "y (vertical)", y_options(study, usable, now$x), now$y, none = "choose"),
        if (!is.null(now$pair)) control_check("pair:kept", "in the report", !is.null(now$at))
      ),
      if (!is.null(now$pair)) or_trouble({
        relation <- desk_answer(desk, now$pair)$relation
        tags$div(class = "answer", page_block(block_strip(relation)), answer_sentence(relation))
      })
    )
  })
}

#' The answer to a pair, worked out once for all that shows it
#' @noRd
desk_answer <- function(desk, pair) {
  brief <- desk$brief()
  worked_out(desk, "pair", pair, answer_entry("pairs", desk$study(), pair, brief))
}

kept_pairs <- function(brief, at) {
  shown <- vapply(brief$pairs, function(pair) sprintf("%s and %s", pair$x, pair$y), "")
  control_select("view:pair", "Pairs in the report", stats::setNames(seq_along(shown), shown), at,
    none = if (is.null(at)) "not in the report yet"
  )
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
  folded(
    say("Options"),
    open = if (isTRUE(view$options_open)) NA,
    htmltools::tags$div(
      class = "column",
      control_select(
        "pair:coefficient", "Coefficient", c("auto", coefficient_names()), or_default(pair$coefficient, "auto")
      ),
      control_select("pair:expect", "Direction", c(
        "two-sided" = "either", "positive, specified in advance" = "positive",
        "negative, specified in advance" = "negative"
      ), or_default(pair$expect, "either")),
      control_select("pair:interval", "Interval and test", line_intervals, or_default(pair$interval, "auto")),
      control_text("pair:given", "Control variables", paste(unlist(pair$given), collapse = "; "), "age_years; centre"),
      control_select("pair:shape", "Shape of the line", c("linear", "log", "quadratic"), or_default(pair$shape, "linear")),
      control_text("pair:predict_at", "Predict y at x =", paste(unlist(pair$predict_at), collapse = "; "), "5; 10"),
      control_text("pair:solve", "Estimate x from y =", paste(unlist(pair$solve), collapse = "; "), "60"),
      control_text(
        "pair:smallest", "Smallest correlation that matters",
        if (is.null(pair$smallest)) "" else format(pair$smallest), "0.1"
      ),
      control_check("pair:unmeasured", "Unmeasured confounder", isTRUE(pair$unmeasured)),
      control_text(
        "pair:correct_for", "Reliabilities, to correct for attenuation", figures_told(pair$correct_for), "practice_hours=0.8"
      ),
      control_text(
        "pair:correct_range", "SD in the population, to correct for restricted range", figures_told(pair$correct_range),
        "practice_hours=4.2"
      ),
      control_select("view:by", "Color by group", variable_options(study, few), view$by, none = "none"),
      if (!is.null(view$by)) control_check("view:panels", "One panel per group", view$panels),
      control_check("view:flat_line", "Line at the mean of y", view$flat_line),
      grouped_controls(study, brief, pair)
    )
  )
}

# "practice_hours=0.8; speaking_score=0.9", whichever way the brief has it.
figures_told <- function(figures) {
  figures <- unlist(figures)
  if (length(names(figures))) figures <- paste0(names(figures), "=", figures)
  paste(figures, collapse = "; ")
}

relate_figure <- function(desk, view) {
  figure <- relate_drawing(desk, view)
  if (is.null(figure)) return(NULL)
  # What they say stands above it.
  attr(figure, "alt") <- figure$labels$title
  figure$labels[c("title", "subtitle")] <- NULL
  figure
}

relate_drawing <- function(desk, view) {
  study <- desk$study()
  brief <- desk$brief()
  pair <- current_pair(brief, view)$pair
  if (is.null(pair)) return(NULL)
  by <- if (isTRUE(view$by %in% study_names(study))) view$by
  draw_pair(study, pair$x, pair$y, list(
    by = by, given = unlist(pair$given), line = TRUE, shape = or_default(pair$shape, "linear"), case_band = FALSE,
    flat_line = isTRUE(view$flat_line), panels = isTRUE(view$panels) && !is.null(by), means = FALSE,
    at = unlist(pair$predict_at), solve = unlist(pair$solve), labels = TRUE, name_cases = "none", x_limits = NULL,
    y_limits = NULL, confidence = or_default(brief_settings(brief)$confidence, 0.95)
  ), figure_texts(NULL, NULL, NA, FALSE))
}

relate_rest <- function(desk, view) {
  brief <- desk$brief()
  pair <- current_pair(brief, view)$pair
  if (is.null(pair)) return(htmltools::tags$p(class = "lead", say("Choose x and y, in the list or above.")))
  or_trouble({
    answer <- desk_answer(desk, pair)
    htmltools::tags$div(
      take_away(brief, pair), chosen_cases(desk, view, pair), line_figures(answer$line), grouped_rest(desk, pair)
    )
  })
}

#' What stands beside a pair: the cautions with their next steps, the details, and what can be chosen
#' @noRd
relate_side <- function(desk, view) {
  brief <- desk$brief()
  pair <- current_pair(brief, view)$pair
  if (is.null(pair)) return(NULL)
  tags <- htmltools::tags
  relation <- tryCatch(with_files(desk_answer(desk, pair)$relation), unsere_error = function(e) NULL)
  tags$div(
    if (!is.null(relation)) tags$div(
      tags$h2(say("Cautions")),
      if (nrow(relation$cautions)) {
        list_of_cautions(
          relation$cautions, relation$sample$variables,
          function(code, figures) follow_up(code, figures, relation)
        )
      } else {
        tags$p(class = "hint", say("None."))
      },
      tags$h2(say("Details")), pair_details(relation)
    ),
    or_trouble(pair_options(desk$study(), brief, pair, view))
  )
}

pair_details <- function(relation) {
  entries <- relation_entries(relation)
  entries <- entries[!vapply(entries, is.null, NA)]
  tags <- htmltools::tags
  tags$dl(class = "details", unname(Map(function(name, text) {
    list(tags$dt(name), tags$dd(set_html(text)))
  }, say(names(entries)), entries)))
}

#' Dots marked in the figure: who they are, and r without them beside r with them
#' @noRd
chosen_cases <- function(desk, view, pair) {
  tags <- htmltools::tags
  if (is.null(view$brush)) {
    return(tags$p(class = "hint", say("Click a dot, or drag over several, to see the cases and r without them.")))
  }
  study <- desk$study()
  brief <- desk$brief()
  answer <- desk_answer(desk, pair)
  sample <- answer$relation$sample
  box <- view$brush
  inside <- which(sample$columns[[1]] >= box$xmin & sample$columns[[1]] <= box$xmax &
    sample$columns[[2]] >= box$ymin & sample$columns[[2]] <= box$ymax)
  if (!length(inside)) return(tags$p(class = "hint", say("No dot lies there.")))
  without <- tryCatch(
    answer_entry("pairs", study[-sample$row[inside], ], pair, brief)$relation,
    unsere_error = function(e) NULL
  )
  names <- sample_cases(sample, inside)
  tags$div(
    class = "chosen", `aria-live` = "polite",
    tags$p(sprintf(
      "%s marked: %s%s.", count_of(length(names), "case"), paste(utils::head(names, 12), collapse = ", "),
      if (length(names) > 12L) say(" and %d more", length(names) - 12L) else ""
    )),
    if (!is.null(without)) tags$p(sprintf(
      "Without %1$s %2$s; with %1$s %3$s.", if (length(inside) == 1L) "this one" else "them", r_label(without),
      r_label(answer$relation)
    )),
    act_form(class = "row", field_text("reason", "Reason for exclusion"), act_button(
      "leave_marked", "Exclude", paste(names, collapse = "\r")
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
      "a single new case" = say("%s to %s", format_number(rows$case_low), format_number(rows$case_high))
    ), "Predictions.")
  }
  solved <- if (NROW(line$solutions)) {
    rows <- line$solutions
    cases_table(list(
      reading = format_number(rows$y, 6), x = format_number(rows$x),
      between = sprintf("%s and %s", format_number(rows$x_low), format_number(rows$x_high))
    ), "Inverse predictions.")
  }
  htmltools::tags$div(cases_table(cells, "Regression line."), predicted, solved)
}

relate_set <- function(desk, view, key, value) {
  if (key %in% c(paste0(names(grouped_sections), ":group"), "waves:case", "choices:on")) {
    set_grouped(desk, view, sub(":.*", "", key), value, sub(".*:", "", key))
    return(TRUE)
  }
  if (!startsWith(key, "pair:")) return(FALSE)
  field <- sub("^pair:", "", key)
  if (field == "kept") {
    keep_pair(desk, view, isTRUE(as.logical(value)))
  } else if (field %in% c("x", "y")) {
    choose_side(desk, view, field, value)
  } else {
    set_pair(desk, view, field, value)
  }
  TRUE
}

#' A pair is looked at as soon as both sides are chosen
#' @noRd
choose_side <- function(desk, view, side, value) {
  now <- chosen_sides(shiny::isolate(desk$brief()), view)
  sides <- list(x = now$x, y = now$y)
  other <- setdiff(c("x", "y"), side)
  # What becomes x while it is y changes places with it.
  if (identical(sides[[other]], value)) sides[other] <- list(sides[[side]])
  sides[side] <- list(if (is_word(value) && nzchar(value)) value)
  view$x <- sides$x
  view$y <- sides$y
  view$brush <- NULL
  if (is_word(sides$x) && is_word(sides$y) && sides$x != sides$y) open_pair(desk, view, sides$x, sides$y)
}

set_pair <- function(desk, view, field, value) {
  given <- trimws(as.character(value))
  change_pair(desk, view, function(pair) {
    pair[[field]] <- if (!nzchar(given) || field %in% c("coefficient", "interval") && given == "auto" ||
      field == "expect" && given == "either") {
      NULL
    } else if (field %in% c("predict_at", "solve", "smallest")) {
      as_numbers(given)
    } else if (field == "unmeasured") {
      if (isTRUE(as.logical(given))) TRUE
    } else if (field %in% c("given", "correct_for", "correct_range")) {
      as_names(given)
    } else {
      given
    }
    pair
  })
}

#' A click on a part of a variable in the list: it gets that part, or loses it
#' @noRd
take_part <- function(desk, view, part, name) {
  switch(part,
    x = ,
    y = choose_side(desk, view, part, name),
    control = change_pair(desk, view, function(pair) {
      controls <- unlist(pair$given)
      controls <- if (name %in% controls) setdiff(controls, name) else c(controls, name)
      pair$given <- if (length(controls)) as.list(controls)
      pair
    }),
    group = {
      view$by <- if (!identical(view$by, name)) name
      if (is.null(view$by)) view$panels <- NULL
    }
  )
}

relate_act <- function(desk, view, what, value, fields) {
  parts <- strsplit(or_default(value, ""), "\r", fixed = TRUE)[[1]]
  switch(what,
    set_pair = set_pair(desk, view, parts[1], parts[2]),
    panels = {
      view$by <- value
      view$panels <- TRUE
    },
    leave_marked = {
      leave_aside(desk, parts, fields$reason)
      view$brush <- NULL
    },
    no_answer = add_missing_codes(desk, parts[1], parts[-1]),
    to_doubt = {
      add_series(desk, parts[1], parts[2])
      view$place <- "doubt"
    },
    return(FALSE)
  )
  TRUE
}
