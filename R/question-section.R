# A question's section of a brief, as data of its declaration: the key under which it stands, what an entry of it asks, the
# schema that it is held to, and how an entry becomes a result. The report, the desk and the checks of a brief go through
# these in their order; what a section looks like is a function `section_NAME()` of the report.

#' @param key The key in a brief; `place` its place among them.
#' @param schema A function without arguments that gives the section's schema.
#' @param entries From the section of a brief to a list of entries, each of which has one result.
#' @param names From an entry to the variables that it names, or a list of them.
#' @param about From an entry to a template that says what it asks: "the trends of x and y".
#' @param answer `function(study, entry, brief, settings, known)` that gives a result; `known` holds the results before it.
#' @param title A template for the heading over several entries; `many` whether there may be several.
#' @param result The name of the result or results in a report, where it is not the key.
#' @noRd
new_brief_section <- function(key, place, schema, names, about, answer, entries = list, title = NULL, many = FALSE,
                              result = key) {
  as.list(environment())
}

#' All sections of a brief by their keys, in the order in which people work
#' @noRd
brief_sections <- function() {
  sections <- Filter(Negate(is.null), lapply(collect_records("question"), `[[`, "section"))
  sections <- sections[order(vapply(sections, `[[`, 0, "place"))]
  stats::setNames(sections, vapply(sections, `[[`, "", "key"))
}

order_of_sections <- function(brief) unique(c(unlist(brief$report$order), names(brief_sections())))

section_entries <- function(section, brief) {
  if (!is.null(brief[[section$key]])) section$entries(brief[[section$key]])
}

#' The result of one entry of a brief
#' @noRd
answer_entry <- function(key, study, entry, brief, settings = brief_settings(brief), known = list()) {
  if (!is.null(study)) entry <- with_full_names(entry, study_names(study))
  brief_sections()[[key]]$answer(study, entry, brief, settings, known)
}

#' Settings hold for every question; what a section says itself goes before them
#' @noRd
brief_settings <- function(brief) {
  given <- brief$settings
  if (is.null(given$confidence) && !is.null(given$alpha)) given$confidence <- 1 - given$alpha
  given$alpha <- NULL
  given$interval <- or_default(given$interval, attr(brief, "route"))
  if (is.list(given$strength)) given$strength <- unlist(given$strength)
  utils::modifyList(list(strength = "cohen", digits = 2), as.list(given))
}

#' What a section of the brief says of a question's arguments
#' @noRd
section_arguments <- function(question, section, settings) {
  declared <- Filter(function(one) "brief" %in% one$doors, question$arguments)
  values <- lapply(names(declared), function(name) {
    key <- declared[[name]]$brief
    value <- if (key == "settings") settings[[name]] else or_default(section[[key]], settings[[key]])
    if (is.list(value) && is.null(names(value))) unlist(value) else value
  })
  Filter(Negate(is.null), stats::setNames(values, names(declared)))
}

# Where a brief lists variables, "item_*" stands for all that begin so.
patterns_in_brief <- function(brief, names) {
  listing <- intersect(names(brief), c(names(brief_sections()), "scores", "plausible"))
  brief[listing] <- lapply(brief[listing], with_full_names, names)
  brief
}
