# All questions: each is declared in a file of its own, by a function `question_NAME()`, and is found by that name.

#' The questions of data, in the order of the command's help
#' @noRd
questions <- function() {
  Filter(function(question) "FILE" %in% question$words, collect_records("question"))
}

#' The arguments of a question for its help page, from the declaration
#' @noRd
help_arguments <- function(name, except = character()) {
  declared <- Filter(function(one) "r" %in% one$doors, questions()[[name]]$arguments)
  declared <- declared[setdiff(names(declared), except)]
  items <- vapply(declared, function(one) {
    allowed <- if (length(one$allowed)) sprintf(" One of %s.", paste0("`\"", one$allowed, "\"`", collapse = ", "))
    default <- if (is.null(one$default)) or_default(one$otherwise, "none") else sprintf("`%s`", deparse(one$default))
    paste0(capital(gsub("%", "\\%", one$help, fixed = TRUE)), ".", allowed, sprintf(" Default: %s.", default))
  }, "")
  sprintf("@param %s %s", names(declared), items)
}

#' The coefficients for a help page, from their records
#' @noRd
help_coefficients <- function() {
  items <- vapply(coefficient_records(), function(record) {
    chosen <- if (nzchar(record$why)) sprintf(" Default if %s.", sub(":.*$", "", record$why)) else ""
    sprintf("`\"%s\"`: %s%s Sources: %s.", record$name, record$method, chosen, paste(record$sources, collapse = "; "))
  }, "")
  c("@section The coefficients:", paste(items, collapse = "\n\n"))
}
