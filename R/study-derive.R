#' Compute new variables
#'
#' Computes variables from others with `+ - * / ^ ( )`, `log`, `log10`, `exp`, `sqrt`, `abs`, `change` (difference
#' from the previous period), `since` (difference from the smallest value, as time from the start), `reverse`
#' (reverse-scoring, optionally with the ends of the scale: `reverse(m4, 1, 5)`), `mean_of` and `sum_of`. Expressions
#' are checked and never run as R code. A case with a missing value in any part has a missing result.
#'
#' @param study A study, or a data frame.
#' @param ... New variables: `name = "expression"`. Names that are not a single plain word are put in backticks.
#'   Later expressions may use earlier ones.
#' @return The study with the new variables; their expressions are recorded in the codebook's `source`.
#' @section Errors: `unsere_error_input`, with the position in the expression, if it cannot be read, uses an unknown
#'   variable, itself or another function; `unsere_error_undefined`, with the first cases, for a division by zero or
#'   the logarithm or root of a value that has none.
#' @examples
#' learners <- demo_study("learners")
#' learners <- derive(learners, log_practice = "log(practice_hours)", m4_turned = "reverse(m4, 1, 5)")
#' relate(learners, log_practice, speaking_score)
#' @export
derive <- function(study, ...) {
  study <- check_study(study)
  wanted <- list(...)
  if (length(wanted) && (is.null(names(wanted)) || !all(nzchar(names(wanted))))) {
    abort_usage("Each new variable needs a name.", "For example derive(study, log_practice = \"log(practice_hours)\").")
  }
  derive_each(study, wanted)
}

#' The same for a named list of expressions
#' @noRd
derive_each <- function(study, wanted) {
  for (name in names(wanted)) study <- derive_one(study, name, wanted[[name]])
  study
}

derive_one <- function(study, name, text) {
  if (name %in% study_names(study)) {
    abort_input(
      problem("There is a variable \"%s\" already.", name),
      "Give the new one another name; the data are not replaced."
    )
  }
  tree <- parse_expression(text)
  if (name %in% variables_in(tree)) {
    abort_input(problem("\"%s\" refers to itself in \"%s\".", name, text), "Use the variables of the data.")
  }
  # A step from the case before needs the cases, and so does what the database has no function for.
  if (!gives_rows(study, variables_in(tree), !holds_rows(study) && said_in_database(study, tree))) {
    return(derive_in_database(study, name, tree, text, function() compute_tree(tree, study, text)))
  }
  values <- compute_tree(tree, study, text)
  if (length(values) == 1L) values <- rep(values, study_size(study))
  with_column(study, name, values, paste("derived:", text))
}

compute_tree <- function(tree, study, text) {
  if (tree$kind == "number") return(tree$value)
  if (tree$kind == "variable") {
    if (!tree$name %in% study_names(study)) {
      hint <- suggest_names(tree$name, study_names(study), "variables")
      abort_expression(text, tree$at, problem("there is no variable \"%s\". %s", tree$name, hint))
    }
    return(study_numbers(study, tree$name)$values)
  }
  parts <- lapply(tree$parts, compute_tree, study, text)
  values <- apply_operation(tree$name, parts, study)
  check_derived(values, parts, tree, study, text)
  values
}

apply_operation <- function(name, parts, study) {
  a <- parts[[1]]
  b <- if (length(parts) > 1) parts[[2]]
  suppressWarnings(switch(name,
    "+" = a + b,
    "-" = a - b,
    "*" = a * b,
    "/" = a / b,
    "^" = a^b,
    negative = -a,
    log = log(a),
    log10 = log10(a),
    exp = exp(a),
    sqrt = sqrt(a),
    abs = abs(a),
    change = step_from_previous(a, study),
    since = a - min(a, na.rm = TRUE),
    reverse = if (length(parts) == 3L) b + parts[[3]] - a else min(a, na.rm = TRUE) + max(a, na.rm = TRUE) - a,
    sum_of = Reduce(`+`, parts),
    mean_of = Reduce(`+`, parts) / length(parts)
  ))
}

#' The step from the case before, in the order of the time variable where there is one
#' @noRd
step_from_previous <- function(a, study) {
  time <- role_variable(study, "time")
  order <- if (is.null(time)) seq_along(a) else order(study_column(study, time))
  out <- rep(NA_real_, length(a))
  out[order] <- c(NA, diff(a[order]))
  out
}

check_derived <- function(values, parts, tree, study, text) {
  whole <- Reduce(`&`, lapply(parts, is.finite))
  bad <- which(rep_len(whole, length(values)) & !is.finite(values) & tree$name != "change")
  if (!length(bad)) return(invisible())
  why <- switch(tree$name,
    "/" = "division by zero",
    log = ,
    log10 = "logarithm of zero or less",
    sqrt = "root of less than zero",
    "no finite value"
  )
  shown <- if (length(values) == 1L) "always" else paste(case_names(study, utils::head(bad, 3)), collapse = ", ")
  abort_undefined(
    problem(
      "In \"%s\": %s in %s (%s%s).", text, why, count_in_english(length(bad), "case"), shown,
      if (length(bad) > 3) " ..." else ""
    ),
    "Correct these cases in a copy of the file, or declare the value a missing code."
  )
}
