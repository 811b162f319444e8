# The one place where errors are raised. Three classes, which the command turns into its exit statuses:
# usage (2), input (3), undefined (4).

abort_usage <- function(message, hint = NULL) abort_unsere("usage", message, hint)

abort_input <- function(message, hint = NULL) abort_unsere("input", message, hint)

abort_undefined <- function(message, hint = NULL) abort_unsere("undefined", message, hint)

abort_unsere <- function(kind, message, hint) {
  text <- c("{message}", if (!is.null(hint)) c(i = "{hint}"))
  cli::cli_abort(text, class = c(paste0("unsere_error_", kind), "unsere_error"), call = NULL, said = message,
    hint = hint)
}

#' The names nearest to a mistyped one, nearest first
#'
#' @param name A string; `choices` a character vector.
#' @return Up to three of the choices, closest by edit distance, those that start alike counted closer.
#' @noRd
nearest_names <- function(name, choices, most = 3L) {
  if (!length(choices)) return(character())
  distance <- as.vector(utils::adist(tolower(name), tolower(choices))) / pmax(nchar(name), nchar(choices))
  held <- startsWith(tolower(choices), tolower(name)) |
    vapply(tolower(choices), function(choice) grepl(choice, tolower(name), fixed = TRUE), NA)
  letters_of <- function(words) vapply(strsplit(tolower(words), ""), function(l) paste(sort(l), collapse = ""), "")
  alike <- held | letters_of(choices) == letters_of(name)
  distance[alike] <- pmin(distance[alike], 0.3)
  close <- order(distance)[seq_len(min(most, length(choices)))]
  near <- close[distance[close] <= 0.5]
  if (length(near)) choices[near] else character()
}

#' "Did you mean ...?", or the whole list where nothing is near
#' @noRd
suggest_names <- function(name, choices, noun) {
  near <- nearest_names(name, choices)
  if (length(near)) return(sprintf("Did you mean %s?", paste(near, collapse = ", or ")))
  shown <- utils::head(choices, 12)
  more <- length(choices) - length(shown)
  sprintf("The %s: %s%s.", noun, paste(shown, collapse = ", "), if (more > 0) sprintf(" and %d more", more) else "")
}

one_of <- function(value, allowed, argument) {
  if (is.character(value) && length(value) == 1L && value %in% allowed) return(value)
  shown <- if (length(value) == 1L) sprintf("\"%s\"", value) else "of this length"
  abort_usage(
    sprintf("`%s` cannot be %s.", argument, shown),
    sprintf("Allowed: %s.", paste0("\"", allowed, "\"", collapse = ", "))
  )
}

check_confidence <- function(confidence) {
  if (is.numeric(confidence) && length(confidence) == 1L && is.finite(confidence) && confidence > 0 && confidence < 1) {
    return(invisible(confidence))
  }
  abort_usage(
    sprintf("`confidence` cannot be %s.", paste(format(confidence), collapse = ", ")),
    "Allowed: one number between 0 and 1, such as 0.95."
  )
}

check_expect <- function(expect) one_of(expect, c("either", "positive", "negative"), "expect")

#' "1 case", "240 cases"
#' @noRd
count_of <- function(n, one, many = paste0(one, "s")) {
  paste(trimws(format(n, big.mark = if (any(n >= 10000)) "," else "", trim = TRUE)), ifelse(n == 1, one, many))
}

is_whole <- function(x) is.numeric(x) && length(x) == 1L && is.finite(x) && x == round(x)

or_default <- function(value, otherwise) if (is.null(value)) otherwise else value
