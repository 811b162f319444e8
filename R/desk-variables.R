# Say what it is: a table of the variables, each cell open to change.

place_variables <- function() {
  new_place("variables", "Say what it is", "What is each variable?",
    top = variables_top, rest = variables_rest, set = variables_set, act = variables_act
  )
}

# A wide table a part at a time.
variables_shown <- 40L

variables_top <- function(desk, view) {
  tags <- htmltools::tags
  tags$div(
    tags$p(
      class = "lead",
      "Labels and units then stand on every axis. A level says which coefficient suits; a role what it is for."
    ),
    control_text("view:seek", "Find a variable", view$seek, "part of its name")
  )
}

variables_rest <- function(desk, view) {
  or_trouble({
    study <- desk$study()
    book <- study_book(study)
    seek <- tolower(trimws(or_default(view$seek, "")))
    if (nzchar(seek)) book <- book[grepl(seek, tolower(paste(book$variable, book$label)), fixed = TRUE), ]
    tags <- htmltools::tags
    shown <- utils::head(book, variables_shown)
    more <- nrow(book) - nrow(shown)
    tags$div(
      tags$div(class = "table", tabindex = "0", role = "region", `aria-label` = "The variables", tags$table(
        class = "variables", tags$caption(sprintf("%s.", capital(count_of(nrow(book), "variable")))),
        tags$thead(tags$tr(lapply(
          c("variable", "values", "label", "unit", "level", "role", "order of words", "no answer", "range"),
          function(head) tags$th(scope = "col", head)
        ))),
        tags$tbody(lapply(seq_len(nrow(shown)), function(k) variable_row(study, as.list(shown[k, ]))))
      )),
      if (more > 0) tags$p(class = "hint", sprintf("and %d more; find them by name.", more)),
      derive_form(desk)
    )
  })
}

variable_row <- function(study, entry) {
  tags <- htmltools::tags
  column <- study_column(study, entry$variable)
  numbers <- if (is.numeric(column) || is.ordered(column)) as.double(column) else as.double(factor(column))
  many <- !is.numeric(column) && length(unique(utils::head(column, 500L))) > 30L
  cell <- function(field, control) {
    control$attribs[["aria-label"]] <- sprintf("%s of %s", field, entry$variable)
    tags$td(control)
  }
  key <- function(field) sprintf("variable:%s:%s", field, entry$variable)
  text <- function(field) {
    value <- entry[[field]]
    tags$input(type = "text", id = control_id(key(field)), `data-set` = key(field), value = if (is.na(value)) "" else value)
  }
  select <- function(field, options) {
    tags$select(
      id = control_id(key(field)), `data-set` = key(field), option_items(options, options, entry[[field]])
    )
  }
  tags$tr(
    tags$th(scope = "row", class = "text", entry$variable), tags$td(if (!many) spark(numbers)), cell("label", text("label")),
    cell("unit", text("unit")), cell("level", select("level", level_names)), cell("role", select("role", role_names)),
    cell("order of words", text("values")), cell("codes for no answer", text("missing_codes")), cell("range", text("range"))
  )
}

derive_form <- function(desk) {
  tags <- htmltools::tags
  derived <- desk$brief()$derive
  tags$div(
    tags$h2("A new variable from others"),
    if (length(derived)) tags$ul(lapply(names(derived), function(name) {
      tags$li(sprintf("%s = %s ", name, derived[[name]]), act_button("underive", "Take out", name))
    })),
    act_form(
      class = "row", field_text("name", "Name", placeholder = "log_practice"),
      field_text("expression", "Arithmetic on others", placeholder = "log(practice_hours)"), act_button("derive", "Make it")
    )
  )
}

variables_set <- function(desk, view, key, value) {
  if (!startsWith(key, "variable:")) return(FALSE)
  parts <- regmatches(key, regexec("^variable:([a-z_]+):(.*)$", key))[[1]]
  change_variable(desk, parts[3], parts[2], trimws(as.character(value)))
  TRUE
}

variables_act <- function(desk, view, what, value, fields) {
  switch(what,
    derive = change_brief(desk, function(brief) {
      if (!nzchar(trimws(or_default(fields$name, "")))) abort_usage(
        "The new variable needs a name.",
        "For example log_practice."
      )
      brief$derive[[trimws(fields$name)]] <- trimws(or_default(fields$expression, ""))
      brief
    }),
    underive = change_brief(desk, function(brief) {
      brief$derive[[value]] <- NULL
      brief
    }),
    return(FALSE)
  )
  TRUE
}
