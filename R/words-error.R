# Errors in the language in force: what is wrong, and what to do about it, from their templates.

error_text <- function(e) worded(e$problem)

error_hint <- function(e) if (!is.null(e$hint)) worded(e$hint)

# That there is no such language is told in English.
worded <- function(problem) {
  if (!knows_language()) return(in_english(problem))
  if (is.character(problem)) say(problem) else fill_template(problem)
}

#' @rawNamespace S3method(rlang::cnd_header, unsere_error)
cnd_header.unsere_error <- function(cnd, ...) error_text(cnd)

#' @rawNamespace S3method(rlang::cnd_body, unsere_error)
cnd_body.unsere_error <- function(cnd, ...) if (!is.null(cnd$hint)) c(i = error_hint(cnd))
