# Items: is the scale sound? Each item with the rest, and what a key makes of multiple choice.

place_items <- function() {
  new_place("items", "Items", "Is the scale reliable?",
    top = items_top, figure = items_figure, rest = items_rest, set = items_set, act = items_act,
    result = function(desk, view) desk_items(desk),
    list = items_list, part = function(desk, view, part, name) {
      if (part == "reverse-scored") return(turn_item(desk, name))
      chosen <- chosen_items(shiny::isolate(desk$brief()), view)
      items_set(desk, view, paste0("item:", name), !name %in% chosen)
    }
  )
}

chosen_items <- function(brief, view) union(unlist(brief$items$variables), view$items)

items_list <- function(desk, view) {
  study <- desk$study()
  few <- Filter(function(name) {
    length(unique(utils::head(study_column(study, name), 500L))) <= 12L
  }, names_with(study, "measure"))
  items <- desk$brief()$items
  parts <- c("item of the scale" = "item")
  selected <- list("item of the scale" = chosen_items(desk$brief(), view))
  if (!is.null(items)) {
    parts <- c(parts, "reverse-scored" = "reversed")
    selected[["reverse-scored"]] <- unlist(items$reverse)
  }
  variable_list(desk, parts, selected, few)
}

# An item is scored the other way round, or no longer.
turn_item <- function(desk, name) {
  change_brief(desk, function(brief) {
    if (!name %in% unlist(brief$items$variables)) {
      abort_usage(problem("%s is not one of the items.", name), "Name it among the items.")
    }
    now <- unlist(brief$items$reverse)
    now <- if (name %in% now) setdiff(now, name) else c(now, name)
    brief$items$reverse <- if (length(now)) as.list(now)
    brief
  })
}

#' Items that look like one scale, each group taken by one click
#' @noRd
proposed_scales <- function(study) {
  groups <- find_batteries(study)
  marked <- names_with(study, "measure", "binary")
  alike <- split(marked, sub("[_. ]?[0-9]+$", "", marked))
  groups <- utils::head(c(groups, unname(alike[lengths(alike) >= 4L])), 6L)
  if (!length(groups)) return(NULL)
  htmltools::tags$p(class = "row", say("Possible scales:"), lapply(groups, function(items) {
    ends <- sprintf("%s \u2013 %s", items[1], items[length(items)])
    act_button("take_scale", say("%s (%d items)", ends, length(items)), paste(items, collapse = "\r"))
  }))
}

items_top <- function(desk, view) {
  or_trouble({
    study <- desk$study()
    items <- desk$brief()$items
    key <- unlist(items$key)
    tags <- htmltools::tags
    tags$div(
      if (is.null(items)) tags$p(class = "lead", say("Choose three items or more in the list.")),
      if (is.null(items)) proposed_scales(study),
      tags$div(
        class = "row wide",
        control_text("items-reverse", "Reverse-scored items", paste(unlist(items$reverse), collapse = "; "), "m4"),
        control_text(
          "items-key", "Correct answers (key)", paste(sprintf("%s=%s", names(key), key), collapse = "; "),
          "q1=B; q2=D, or BDAC"
        ),
        control_select("items-missing", "Missing answers", c(
          pairwise = "pairwise", "listwise (persons who answered every item)" = "listwise"
        ), or_default(items$missing, "pairwise"))
      )
    )
  })
}

desk_items <- function(desk) {
  brief <- desk$brief()
  if (is.null(brief$items)) return(NULL)
  worked_out(desk, "items", brief$items, answer_entry("items", desk$study(), brief$items, brief))
}

items_figure <- function(desk, view) {
  items <- desk_items(desk)
  if (!is.null(items)) figure_items(items)
}

items_rest <- function(desk, view) {
  or_trouble({
    items <- desk_items(desk)
    if (is.null(items)) return(NULL)
    htmltools::tags$div(
      answer_sentence(items), cases_table(item_cells(items), "Items."),
      if (!is.null(items$options)) {
        cases_table(option_cells(items$options), "Response options; correct answers are marked *.", left_aligned = 2L)
      },
      score_form(desk, length(unlist(desk$brief()$items$variables)))
    )
  })
}

#' A score of the items that are looked at, a variable from then on
#' @noRd
score_form <- function(desk, count) {
  tags <- htmltools::tags
  scores <- desk$brief()$scores
  tags$div(
    tags$h2(say("Score from these items")),
    if (length(scores)) tags$ul(lapply(names(scores), function(name) {
      of <- count_of(length(scores[[name]]$items), "item")
      tags$li(say("%s: of %s ", name, of), act_button("unscore", "Remove", name))
    })),
    act_form(
      class = "row", field_text("name", "Name", placeholder = "motivation"),
      field_text("least", "Minimum number of answers", count), field_select("how", "How", c("mean", "sum")),
      act_button("score", "Create")
    )
  )
}

items_act <- function(desk, view, what, value, fields) {
  switch(what,
    score = make_score(desk, fields),
    take_scale = {
      view$items <- NULL
      change_brief(desk, function(brief) {
        brief$items <- list(variables = as.list(strsplit(value, "\r", fixed = TRUE)[[1]]))
        brief
      })
    },
    unscore = change_brief(desk, function(brief) {
      brief$scores[[value]] <- NULL
      if (!length(brief$scores)) brief$scores <- NULL
      brief
    }),
    return(FALSE)
  )
  TRUE
}

make_score <- function(desk, fields) {
  change_brief(desk, function(brief) {
    name <- trimws(or_default(fields$name, ""))
    if (!nzchar(name)) abort_usage("The score needs a name.", "For example motivation.")
    score_fields <- brief$items[intersect(c("reverse", "key"), names(brief$items))]
    least <- as_numbers(or_default(fields$least, ""))
    score_fields$least <- if (length(least)) least[[1]]
    brief$scores[[name]] <- c(list(items = brief$items$variables, how = fields$how), score_fields)
    brief
  })
}

items_set <- function(desk, view, key, value) {
  if (!startsWith(key, "item")) return(FALSE)
  chosen <- chosen_items(shiny::isolate(desk$brief()), view)
  if (startsWith(key, "item:")) {
    name <- sub("^item:", "", key)
    chosen <- if (isTRUE(as.logical(value))) union(chosen, name) else setdiff(chosen, name)
  }
  view$items <- chosen
  change_brief(desk, function(brief) {
    entry <- brief$items
    if (key == "items-key") entry$key <- if (nzchar(trimws(value))) as.list(parse_key(value, chosen))
    if (key == "items-missing") entry$missing <- if (value != "pairwise") value
    if (key == "items-reverse") entry$reverse <- as_names(value)
    # Three items make a scale; fewer are kept in mind alone.
    entry$variables <- as.list(chosen)
    entry$key <- entry$key[intersect(names(entry$key), chosen)]
    brief$items <- if (length(chosen) >= 3L) Filter(length, entry)
    brief
  })
  TRUE
}
