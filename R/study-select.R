# From what the user wrote to the name of a variable: a bare name, a string, or a name that holds a string.

pick_one <- function(study, quo, argument = "name") {
  expression <- rlang::quo_get_expr(quo)
  if (rlang::quo_is_missing(quo)) abort_usage(sprintf("`%s` is missing.", argument), "Give the name of a variable.")
  if (is.symbol(expression)) {
    name <- rlang::as_string(expression)
    if (!name %in% names(study$data)) {
      held <- tryCatch(rlang::eval_tidy(quo), error = function(e) NULL)
      if (is.character(held) && length(held) == 1L) name <- held
    }
  } else {
    name <- rlang::eval_tidy(quo)
  }
  check_variable(study, name)
}

check_variable <- function(study, name) {
  if (!is.character(name) || length(name) != 1L || is.na(name)) {
    abort_usage("A variable is given by one name.", "For example relate(study, practice_hours, speaking_score).")
  }
  if (!name %in% names(study$data)) {
    where <- if (is.null(study$provenance$file)) "The data" else file_name(study$provenance$file)
    abort_input(
      sprintf("%s has no variable \"%s\".", where, name),
      suggest_names(name, names(study$data), "variables")
    )
  }
  name
}
