# Which cases: conditions on the small arithmetic of derived variables, worked out on a study's columns or, where they stay
# in a database, said in its own words. Nothing is ever evaluated as R code, or handed to a database as it was written.

#' The cases of a study for which a condition holds
#' @return The study with these cases; what it rests on is told among the decisions.
#' @noRd
keep_where <- function(study, text) {
  at <- which(condition_holds(study, parse_condition(text), text))
  if (!length(at)) abort_input(problem("No case has %s.", text), "Look at the values that it asks for.")
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

where_told <- function(text, kept, all) {
  template("only cases with %s: %.0f of %.0f", text, kept, all)
}

holds_for <- function(tree, study, text) {
  if (tree$kind == "compared") {
    words <- vapply(tree$parts, function(part) part$kind == "text", NA)
    sides <- lapply(tree$parts, function(part) {
      if (part$kind == "text") return(part$value)
      if (!any(words)) return(compute_tree(part, study, text))
      as.character(words_of(study_column(study, variable_of(part, text))))
    })
    return(get(if (tree$name == "=") "==" else tree$name, baseenv())(sides[[1]], sides[[2]]))
  }
  if (tree$kind == "missing") return(is.na(study_column(study, variable_of(tree$parts[[1]], text))))
  parts <- lapply(tree$parts, holds_for, study, text)
  switch(tree$kind,
    and = parts[[1]] & parts[[2]],
    or = parts[[1]] | parts[[2]],
    not = !parts[[1]]
  )
}
