# The list of variables at the left of a place: each with its distribution and what it is in this question; a click gives it
# that part. Finding one by name is done in the page itself.

#' @param parts What a variable can be here: badges by the name of the part, such as `c(x = "x", y = "y")`.
#' @param selected For each part the variables that have it, a named list.
#' @param names The variables of the list; all that are neither a case's name nor about the response where it is `NULL`.
#' @noRd
variable_list <- function(desk, parts, selected, names = NULL) {
  study <- desk$study()
  book <- study_book(study)
  book <- book[if (is.null(names)) !book$role %in% c("about", "case") else book$variable %in% names, ]
  tags <- htmltools::tags
  tags$div(
    class = "variable-list",
    tags$label(class = "visually-hidden", `for` = "find-variable", say("Find a variable")),
    tags$input(
      id = "find-variable", type = "search", `data-find` = NA, autocomplete = "off",
      placeholder = say("Search %s", count_of(nrow(book), "variable"))
    ),
    tags$ul(htmltools::HTML(paste(listed_variables(desk, study, book, parts, selected), collapse = "")))
  )
}

# Written at once: a tag for each of many variables would be most of what the list costs.
listed_variables <- function(desk, study, book, parts, selected) {
  names <- book$variable
  label <- label_of(book, names)
  safe <- function(text) htmltools::htmlEscape(text, attribute = TRUE)
  buttons <- vapply(names, part_buttons, "", book = book, parts = parts, selected = selected)
  kind <- ifelse(is.na(book$unit), translated(book$level), sprintf("%s, %s", translated(book$level), book$unit))
  sprintf(
    paste0(
      "<li class=\"%s\" data-name=\"%s\">%s<span class=\"called\"><span class=\"label\" title=\"%s\">%s</span>",
      "<span class=\"kind\">%s</span></span><span class=\"parts\">%s</span></li>"
    ),
    ifelse(names %in% unlist(selected), "on", ""), safe(tolower(paste(names, label, book$label))),
    sparks_of(desk, study, names),
    safe(ifelse(is.na(book$label), names, book$label)), htmltools::htmlEscape(shorten_at_word(label, 60L)),
    htmltools::htmlEscape(kind), buttons
  )
}

# A button for each part that a variable can have, pressed where it has it.
part_buttons <- function(name, book, parts, selected) {
  safe <- function(text) htmltools::htmlEscape(text, attribute = TRUE)
  paste(vapply(names(parts), function(part) {
    sprintf(
      paste0(
        "<button type=\"button\" class=\"part\" data-act=\"part\" data-value=\"%s\" aria-pressed=\"%s\" ",
        "aria-label=\"%s\">%s</button>"
      ),
      safe(paste(part, name, sep = "\r")), tolower(name %in% selected[[part]]),
      safe(sprintf("%s: %s", shorten_at_word(label_of(book, name), 60L), translated(part))), translated(parts[[part]])
    )
  }, ""), collapse = "")
}

#' Small distributions, drawn once for the data as they are
#' @noRd
sparks_of <- function(desk, study, names) {
  if (!identical(desk$known$sparks_of, desk$known$study_key)) {
    desk$known$sparks <- list()
    desk$known$sparks_of <- desk$known$study_key
  }
  new <- setdiff(names, names(desk$known$sparks))
  drawn <- lapply(stats::setNames(nm = new), function(name) {
    paste(c(variable_spark(study_column(study, name)), "<svg class='spark' aria-hidden='true'></svg>")[1])
  })
  desk$known$sparks <- c(desk$known$sparks, drawn)
  unlist(desk$known$sparks[names])
}
