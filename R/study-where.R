# Which cases: conditions on the small arithmetic of derived variables, worked out on a study's columns or, where they stay
# in a database, said in its own words. Nothing is ever evaluated as R code, or handed to a database as it was written.

#' The cases of a study for which a condition holds
#' @return The study with these cases; what it rests on is told among the decisions.
#' @noRd
keep_where <- function(study, text) {
  at <- which(condition_holds(study, parse_condition(text), text))
  if (!length(at)) abort_input(problem("No case has %s.", text), "Check the values that it uses.")
  all <- study_size(study)
  study <- study[at, ]
  study$provenance$where <- text
  with_decision(study, "where", where_told(text, length(at), all))
}

condition_holds <- function(study, tree, text) {
  holds_for(tree, with_numbers_compared(study, variables_in(tree)), text) %in% TRUE
}

# Numbers that name something, such as those of schools, may be compared too.
with_numbers_compared <- function(study, names) {
  for (name in intersect(names, study_names(study))) {
    if (is.numeric(study_column(study, name)) && level_of(study, name) == "nominal") {
      study <- with_entry(study, name, list(level = "numeric"))
    }
  }
  study
}

where_told <- function(text, rows, all) {
  template("only cases with %s: %.0f of %.0f", text, rows, all)
}

holds_for <- function(tree, study, text) {
  if (tree$kind %in% c("compared", "among")) return(holds_compared(tree, study, text))
  if (tree$kind == "missing") return(is.na(study_column(study, variable_of(tree$parts[[1]], text))))
  parts <- lapply(tree$parts, holds_for, study, text)
  switch(tree$kind,
    and = Reduce(`&`, parts),
    or = Reduce(`|`, parts),
    not = !parts[[1]]
  )
}

holds_compared <- function(tree, study, text) {
  words <- vapply(tree$parts, function(part) part$kind == "text", NA)
  column <- if (any(words)) study_column(study, variable_of(c(tree$parts[!words], tree$parts)[[1]], text))
  moments <- inherits(column, c("Date", "POSIXt"))
  sides <- lapply(tree$parts, function(part) {
    if (moments) return(if (part$kind == "text") moment_of_text(part$value, text) else column)
    if (part$kind == "text") return(part$value)
    if (!any(words)) return(compute_tree(part, study, text))
    as.character(words_of(study_column(study, variable_of(part, text))))
  })
  if (moments) sides <- on_one_clock(sides)
  if (tree$kind == "among") {
    values <- unlist(sides[-1])
    return(ifelse(is.na(sides[[1]]), NA, sides[[1]] %in% values))
  }
  get(if (tree$name == "=") "==" else tree$name, baseenv())(sides[[1]], sides[[2]])
}

# A date or a moment in quotes, in any form that a column may have.
moment_of_text <- function(value, text) {
  read <- read_dates(value, ".")$values
  if (inherits(read, c("Date", "POSIXt"))) return(read)
  abort_input(
    problem("In \"%s\", \"%s\" is compared with dates but is not a date.", shortened_text(text), value),
    "Write dates as year-month-day: 2024-12-09."
  )
}

# Moments as numbers: seconds where all have times, else days, so that a date holds its whole day.
on_one_clock <- function(sides) {
  timed <- all(vapply(sides, inherits, NA, "POSIXt"))
  lapply(sides, function(side) {
    seconds <- as.double(side) * if (inherits(side, "Date")) 86400 else 1
    if (timed) seconds else floor(seconds / 86400)
  })
}
