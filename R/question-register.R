# All questions; a new one is a file and a line here.

asked_before <- new.env(parent = emptyenv())

#' All questions, in the order of the command's help
#' @noRd
questions <- function() {
  if (is.null(asked_before$questions)) {
    all <- list(
      question_look(), question_relate(), question_matrix(), question_line(), question_rank(), question_flag()
    )
    asked_before$questions <- stats::setNames(all, vapply(all, `[[`, "", "name"))
  }
  asked_before$questions
}

#' The list of a question's arguments for its help page
#' @noRd
help_arguments <- function(name) {
  declared <- Filter(function(one) "r" %in% one$doors, questions()[[name]]$arguments)
  told <- vapply(declared, function(one) {
    default <- if (!is.null(one$default)) sprintf(" The default is `%s`.", deparse(one$default)) else ""
    paste0(capital_first(one$help), ".", default)
  }, "")
  sprintf("@param %s %s", names(declared), told)
}
