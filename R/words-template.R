# Sentences that are data, see [template()], in the language in force.

#' A template filled in
#' @param variables Entries of the codebook, for the labels.
#' @noRd
fill_template <- function(part, variables = no_variables()) {
  if (inherits(part, "unsere_template")) {
    return(do.call(say, lapply(as.list(part)[-1], fill_template, variables)))
  }
  if (!inherits(part, "unsere_shown")) return(part)
  fillers[[part[[3]]]](part[[2]], part[[4]], variables)
}

#' Decisions, or figures, as texts
#' @noRd
fill_templates <- function(parts) vapply(unname(as.list(parts)), fill_template, "")

#' Decisions as lines for reading: what was decided alike of three columns or more is one line
#' @noRd
gather_decisions <- function(decisions) {
  decisions <- as.list(decisions)
  lines <- fill_templates(decisions)
  # A note about one column is kept as its name, a colon and the note.
  notes <- vapply(decisions, function(decision) {
    named <- inherits(decision, "unsere_shown") && length(decision[[2]]) == 3L &&
      identical(decision[[2]][[1]], attr(decision, "variable", exact = TRUE))
    if (named) fill_template(decision[[2]][[3]]) else NA_character_
  }, "")
  many <- names(which(table(notes) >= 3L))
  for (note in many) {
    at <- which(notes %in% note)
    names <- vapply(decisions[at], function(decision) decision[[2]][[1]], "")
    more <- length(names) - 4L
    lines[at[1]] <- paste0(
      paste(utils::head(names, 4), collapse = ", "), if (more > 0) say(" and %d more", more), say(" (each)"), ": ", note
    )
    lines[at[-1]] <- NA
  }
  lines[!is.na(lines)]
}

fillers <- list(
  r = function(value, digits, variables) format_r(value, or_default(digits, 2)),
  p = function(value, detail, variables) format_p_clause(value),
  number = function(value, digits, variables) format_number(value, or_default(digits, 3)),
  decimals = function(value, decimals, variables) format_decimals(value, decimals),
  statistic = function(value, detail, variables) format_statistic(value),
  df = function(value, detail, variables) format_df(value),
  count = function(value, detail, variables) format_count(value),
  percent = function(value, detail, variables) percent(value),
  interval = function(value, detail, variables) format_interval(value[1], value[2]),
  reach = function(value, detail, variables) reach_words(value),
  cases = function(value, detail, variables) count_of(value, "case"),
  counted = function(value, words, variables) count_of(value, words[1], words[2]),
  label = function(value, detail, variables) inside_of(variables, value),
  Label = function(value, detail, variables) begin(inside_of(variables, value), variables),
  heading = function(value, detail, variables) label_of(variables, value),
  case = function(value, detail, variables) case_inside(value),
  several = function(value, of, variables) list_some(value, of),
  date_order = function(value, detail, variables) date_order_words(value),
  mark = function(value, detail, variables) glyphs()[[value]],
  parts = function(value, between, variables) {
    paste(vapply(value, fill_template, "", variables), collapse = between)
  },
  both = function(value, detail, variables) paste(vapply(value, fill_template, "", variables), collapse = say(" and "))
)

# "day.month.year", with its marks.
date_order_words <- function(order) {
  parts <- c(year = say("year"), month = say("month"), day = say("day"), week = say("week"))
  for (name in names(parts)) order <- gsub(name, parts[[name]], order, fixed = TRUE)
  order
}

# Entries of a codebook, and those of other variables that are spoken of.
with_others <- function(variables, labels) {
  labels <- labels[setdiff(names(labels), variables$variable)]
  further <- variables[rep(NA_integer_, length(labels)), ]
  further$variable <- names(labels)
  further$label <- unname(labels)
  rbind(variables, further)
}

# A case that has a mere number for its name.
case_inside <- function(names) ifelse(grepl("^[0-9]+$", names), sprintf(say("case %s"), names), names)

list_some <- function(names, of, most = 4L) {
  if (length(names) == of) return(say("all %d of them", of))
  more <- length(names) - most
  paste0(paste(utils::head(names, most), collapse = ", "), if (more > 0) say(" and %d more", more))
}

# A codebook of nothing, for words about variables that are known by name alone.
no_variables <- function() data.frame(variable = character(), label = character(), unit = character())
