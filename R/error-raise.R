# The one place where errors are raised, and where what goes on is told. Three classes, which the command turns into its
# exit statuses:
# usage (2), input (3), undefined (4).

abort_usage <- function(problem, hint = NULL) abort_unsere("usage", problem, hint)

abort_input <- function(problem, hint = NULL) abort_unsere("input", problem, hint)

abort_undefined <- function(problem, hint = NULL) abort_unsere("undefined", problem, hint)

#' What is wrong, or what to do about it: a template with its figures, which words fill in
#' @noRd
problem <- function(text, ...) template(text, ...)

#' What was wrong, as a code: "cannot_be", "has_no_value_at_all"; the figures stand beside it
#' @noRd
error_code <- function(problem) {
  text <- if (inherits(problem, "unsere_template")) problem[[2]] else problem[1]
  words <- gsub("%[0-9$.+]*[a-z]", " ", tolower(text))
  gsub("^_|_$", "", gsub("[^a-z0-9]+", "_", words))
}

# What the core calls when an allocation fails.
abort_memory <- function() {
  abort_input("There is not enough memory for this.", "Ask about fewer variables at once, or close other programs.")
}

abort_unsere <- function(kind, problem, hint) {
  text <- in_english(problem)
  # What to do is told by the method for the body, in the language in force.
  figures <- if (inherits(problem, "unsere_template")) as.list(problem)[-(1:2)] else list()
  cli::cli_abort(
    "{text}",
    class = c(paste0("unsere_error_", kind), "unsere_error"), call = called_verb(), problem = problem, hint = hint,
    code = error_code(problem), figures = unname(figures)
  )
}

#' The call of the exported function that the user made, which errors name
#' @noRd
called_verb <- function() {
  verbs <- getNamespaceExports(topenv())
  for (call in sys.calls()) {
    verb <- call[[1]]
    if (is.call(verb) && identical(verb[[1]], quote(`::`))) verb <- verb[[3]]
    if (is.name(verb) && as.character(verb) %in% verbs && as.character(verb) != "run_command") return(call[1])
  }
  NULL
}

# What goes on, a line at a time, on standard error; suppressMessages() stills it.
tell <- function(text) cli::cli_inform(c(" " = "{text}"))
