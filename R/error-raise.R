# The one place where errors are raised, and where what goes on is told. Three classes, which the command turns into its
# exit statuses:
# usage (2), input (3), undefined (4).

abort_usage <- function(message, hint = NULL) abort_unsere("usage", message, hint)

abort_input <- function(message, hint = NULL) abort_unsere("input", message, hint)

abort_undefined <- function(message, hint = NULL) abort_unsere("undefined", message, hint)

# What the core calls when an allocation fails.
abort_memory <- function() {
  abort_input("There is not enough memory for this.", "Ask about fewer variables at once, or close other programs.")
}

abort_unsere <- function(kind, message, hint) {
  text <- c("{message}", if (!is.null(hint)) c(i = "{hint}"))
  classes <- c(paste0("unsere_error_", kind), "unsere_error")
  cli::cli_abort(text, class = classes, call = called_verb(), said = message, hint = hint)
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
