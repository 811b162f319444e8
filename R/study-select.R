# From what the user wrote to the name of a variable: a bare name, a string, or a name that holds a string.

pick_one <- function(study, quo, argument = "name") {
  expression <- rlang::quo_get_expr(quo)
  if (rlang::quo_is_missing(quo)) abort_usage(problem("`%s` is missing.", argument), "Give the name of a variable.")
  named <- held_names(study, quo)
  if (length(named) == 1L) return(check_variable(study, named))
  check_variable(study, if (is.symbol(expression)) rlang::as_string(expression) else rlang::eval_tidy(quo))
}

check_variable <- function(study, name) {
  if (!is.character(name) || length(name) != 1L || is.na(name)) {
    abort_usage("A variable is given by one name.", "For example relate(study, practice_hours, speaking_score).")
  }
  if (!name %in% study_names(study)) {
    book <- study_book(study)
    labelled <- book$variable[book$label %in% name | book$short %in% name]
    if (length(labelled) == 1L) return(labelled)
    abort_input(
      problem("%s has no variable \"%s\".", data_name(study), name),
      suggest_names(name, name_to_type(book, study_names(study)), "variables")
    )
  }
  note_wanted(study, name)
  name
}

#' Variables by their names, or by what their names begin or end with: "item_*"
#' @noRd
check_variables <- function(study, names) {
  unique(unlist(lapply(names, function(name) {
    matches <- matching_names(name, study_names(study))
    if (is.null(matches)) return(check_variable(study, name))
    if (!length(matches)) {
      abort_input(
        problem("%s has no variable like \"%s\".", data_name(study), name),
        suggest_names(gsub("*", "", name, fixed = TRUE), study_names(study), "variables")
      )
    }
    for (one in matches) note_wanted(study, one)
    matches
  })))
}

#' Those of some names that a pattern with stars fits, in their order; `NULL` where it is no pattern
#' @noRd
matching_names <- function(pattern, names) {
  if (!is_word(pattern) || pattern %in% names || !grepl("*", pattern, fixed = TRUE)) return(NULL)
  grep(utils::glob2rx(pattern), names, value = TRUE)
}

#' Lists of names with patterns written out, in a brief or a part of one; patterns that fit nothing stay
#' @noRd
with_full_names <- function(part, names) {
  if (is.character(part) || is.list(part) && is.null(names(part)) && all(vapply(part, is_word, NA))) {
    full <- unlist(lapply(part, function(name) {
      matches <- matching_names(name, names)
      if (length(matches)) matches else name
    }))
    return(if (is.list(part)) as.list(full) else full)
  }
  if (is.list(part)) part[] <- lapply(part, with_full_names, names)
  part
}

#' The variable that a quoted argument names, or `NULL` where none was given, also by an expression such as `if`
#' @noRd
pick_optional <- function(study, quo, argument) {
  none <- rlang::quo_is_null(quo) || rlang::quo_is_call(quo) && is.null(rlang::eval_tidy(quo))
  if (!none) pick_one(study, quo, argument)
}

#' The strings that a name outside the study holds
#' @noRd
held_names <- function(study, quo) {
  if (!rlang::quo_is_symbol(quo) || rlang::as_name(quo) %in% study_names(study)) return(NULL)
  value <- tryCatch(rlang::eval_tidy(quo), error = function(e) NULL)
  if (is.character(value)) unname(value)
}

#' Several variables: bare names, strings, or what tidyselect understands
#' @noRd
pick_several <- function(study, quos) {
  names <- unlist(lapply(quos, function(quo) {
    expression <- rlang::quo_get_expr(quo)
    if (is.call(expression)) return(pick_by_call(study, quo))
    named <- held_names(study, quo)
    if (is.character(expression)) named <- expression
    if (length(named)) check_variables(study, named) else pick_one(study, quo)
  }))
  unique(names)
}

#' The variables asked for, or all numeric measures where none was
#' @noRd
pick_or_numeric <- function(study, quos) {
  chosen <- pick_several(study, quos)
  if (length(chosen)) return(chosen)
  names_with(study, "measure", "numeric")
}

pick_by_call <- function(study, quo) {
  need_package("tidyselect", "to choose variables by an expression")
  tryCatch(names(tidyselect::eval_select(quo, columns_to_choose(study))), error = function(e) {
    abort_input("The choice of variables cannot be understood.", first_line(conditionMessage(e)))
  })
}

#' Several variables given as one argument, or `NULL` where none is
#' @noRd
pick_side <- function(study, quo) if (!rlang::quo_is_null(quo)) pick_several(study, list(quo))
