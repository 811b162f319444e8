# Say what it is: a table of the variables, each cell open to change.

place_variables <- function() {
  new_place("variables", "Variables", "What is each variable?",
    top = variables_top, rest = variables_rest, set = variables_set, act = variables_act
  )
}

# A wide table a part at a time.
variables_shown <- 100L

variables_top <- function(desk, view) {
  tags <- htmltools::tags
  tags$div(
    tags$p(class = "lead", say(
      "Labels and units appear on every axis. The level determines the coefficient; the role, how a variable is used."
    )),
    control_text("view:seek", "Find a variable", view$seek, "name or label")
  )
}

heading_labels <- c(
  "variable", "values", "label", "short label", "unit", "level", "role", "order of categories", "missing codes", "range"
)

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
      `data-form` = NA, many_form(),
      tags$div(class = "table", tabindex = "0", role = "region", `aria-label` = say("Variables"), tags$table(
        class = "variables", tags$caption(sprintf("%s.", capital(count_of(nrow(book), "variable")))),
        tags$thead(tags$tr(
          tags$th(scope = "col", tags$input(type = "checkbox", `data-all` = "pick:", `aria-label` = say("Select all"))),
          lapply(heading_labels, function(head) tags$th(scope = "col", translated(head)))
        )),
        tags$tbody(if (nrow(shown)) variable_rows(study, shown, view$picked))
      )),
      if (more > 0) tags$p(class = "hint", say("and %d more; find them by name.", more)),
      derive_form(desk)
    )
  })
}

#' The rows of the table, written at once: a tag for each of its many controls would be most of what the table costs
#' @noRd
variable_rows <- function(study, shown, picked = NULL) {
  safe <- function(text) htmltools::htmlEscape(text, attribute = TRUE)
  cell <- function(field, label, control) {
    key <- sprintf("variable:%s:%s", field, shown$variable)
    attributes <- sprintf(
      "id=\"%s\" data-set=\"%s\" aria-label=\"%s\"", vapply(key, control_id, ""), safe(key),
      safe(sprintf("%s: %s", translated(label), shown$variable))
    )
    paste0("<td>", control(field, attributes), "</td>")
  }
  text <- function(field, attributes) {
    value <- as.character(shown[[field]])
    sprintf("<input type=\"text\" %s value=\"%s\">", attributes, safe(ifelse(is.na(value), "", value)))
  }
  select <- function(options) {
    function(field, attributes) {
      items <- vapply(shown[[field]], function(chosen) as.character(option_items(options, translated(options), chosen)), "")
      sprintf("<select %s>%s</select>", attributes, items)
    }
  }
  sparks <- vapply(shown$variable, function(name) paste(variable_spark(study_column(study, name)), collapse = ""), "")
  picks <- sprintf(
    "<input type=\"checkbox\" data-field=\"%s\" aria-label=\"%s\"%s>", safe(paste0("pick:", shown$variable)),
    safe(say("Select %s", shown$variable)), ifelse(shown$variable %in% picked, " checked", "")
  )
  htmltools::HTML(paste0(
    "<tr><td>", picks, "</td><th scope=\"row\" class=\"text\">",
    htmltools::htmlEscape(shown$variable), "</th><td>", sparks, "</td>",
    cell("label", "label", text), cell("short", "short label", text), cell("unit", "unit", text),
    cell("level", "level", select(level_names)),
    cell("role", "role", select(role_names)), cell("values", "order of categories", text),
    cell("missing_codes", "missing codes", text), cell("range", "range", text), "</tr>",
    collapse = ""
  ))
}

#' What is set of all selected variables at once
#' @noRd
many_form <- function() {
  as_it_is <- function(options) stats::setNames(c("", options), translated(c("unchanged", options)))
  htmltools::tags$div(
    class = "row",
    field_select("many-level", "Level", as_it_is(level_names)), field_select("many-role", "Role", as_it_is(role_names)),
    field_text("many-codes", "Missing codes", placeholder = "-9; 99"),
    act_button("set_many", "Apply to selected variables")
  )
}

#' Set level, role and codes for no answer of many variables in one step
#' @noRd
set_many <- function(desk, view, fields) {
  picked <- sub("^pick:", "", names(fields)[startsWith(names(fields), "pick:") & vapply(fields, isTRUE, NA)])
  change_brief(desk, function(brief) {
    if (!length(picked)) abort_usage("No variable is selected.", "Tick variables in the table first.")
    wanted <- trimws(c(
      level = fields[["many-level"]], role = fields[["many-role"]], missing_codes = fields[["many-codes"]]
    ))
    wanted <- wanted[nzchar(wanted)]
    if (!length(wanted)) abort_usage("Nothing to apply.", "Choose a level or a role, or enter codes.")
    for (name in picked) for (field in names(wanted)) brief <- with_variable(brief, name, field, wanted[[field]])
    brief
  })
  view$picked <- picked
}

variable_spark <- function(column) {
  many <- !is.numeric(column) && length(unique(utils::head(column, 500L))) > 30L
  if (many) return(NULL)
  spark(if (is.numeric(column) || is.ordered(column)) as.double(column) else as.double(factor(column)))
}

derive_form <- function(desk) {
  tags <- htmltools::tags
  derived <- desk$brief()$derive
  tags$div(
    tags$h2(say("New variable from others")),
    if (length(derived)) tags$ul(lapply(names(derived), function(name) {
      tags$li(sprintf("%s = %s ", name, derived[[name]]), act_button("underive", "Remove", name))
    })),
    act_form(
      class = "row", field_text("name", "Name", placeholder = "log_practice"),
      field_text("expression", "Formula", placeholder = "log(practice_hours)"), act_button("derive", "Create")
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
    set_many = set_many(desk, view, fields),
    return(FALSE)
  )
  TRUE
}
