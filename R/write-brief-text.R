# A brief as text that people read: a section a key, what belongs together on one line.

#' @param brief As read from a file.
#' @return Lines of YAML, which [run_brief()] reads back as the same brief.
#' @noRd
brief_text <- function(brief) {
  order <- c(names(brief_schema()$properties), names(brief))
  brief <- Filter(function(section) length(section) > 0L, brief[intersect(unique(order), names(brief))])
  unlist(lapply(names(brief), function(key) section_text(key, brief[[key]])))
}

section_text <- function(key, value) {
  if (key %in% c("variables", "derive", "leave_out")) {
    return(c(paste0(key, ":"), sprintf("  %s: %s", vapply(names(value), yaml_word, ""), vapply(value, yaml_flow, ""))))
  }
  if (key == "pairs") return(c("pairs:", sprintf("  - %s", vapply(value, yaml_flow, ""))))
  sprintf("%s: %s", key, yaml_flow(value))
}

# "y" is a word to whoever reads a brief.
yaml_key <- function(name) if (name %in% c("x", "y")) name else yaml_word(name)

#' A value on one line
#' @noRd
yaml_flow <- function(value) {
  if (is.null(value)) return("null")
  if (!is.null(names(value))) {
    parts <- sprintf("%s: %s", vapply(names(value), yaml_key, ""), vapply(value, yaml_flow, ""))
    return(paste0("{", paste(parts, collapse = ", "), "}"))
  }
  if (is.list(value) || length(value) > 1L) {
    return(paste0("[", paste(vapply(value, yaml_flow, ""), collapse = ", "), "]"))
  }
  if (is.logical(value)) return(if (value) "true" else "false")
  if (is.numeric(value)) return(shortest_number(value))
  yaml_word(value)
}
