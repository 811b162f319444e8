# Names that do not exist, and those that may have been meant.

#' The names nearest to a mistyped one, nearest first
#'
#' @param name A string; `choices` a character vector.
#' @return Up to three of the choices, closest by edit distance, those that start alike counted closer.
#' @noRd
nearest_names <- function(name, choices, most = 3L) {
  if (!length(choices)) return(character())
  name <- substr(name, 1L, 200L)
  distance <- as.vector(utils::adist(tolower(name), tolower(choices))) / pmax(nchar(name), nchar(choices), 1L)
  inside <- vapply(tolower(choices), function(choice) nzchar(choice) && grepl(choice, tolower(name), fixed = TRUE), NA)
  alike <- startsWith(tolower(choices), tolower(name)) | inside | sorted_letters(choices) == sorted_letters(name)
  distance[alike] <- pmin(distance[alike], 0.3)
  close <- order(distance)[seq_len(min(most, length(choices)))]
  near <- close[distance[close] <= 0.5]
  if (length(near)) choices[near] else character()
}

sorted_letters <- function(words) {
  vapply(strsplit(tolower(words), ""), function(letters) paste(sort(letters), collapse = ""), "")
}

#' "Did you mean ...?", or the whole list where nothing is near
#' @noRd
suggest_names <- function(name, choices, noun) {
  near <- nearest_names(name, choices)
  questions <- c("Did you mean %s?", "Did you mean %s, or %s?", "Did you mean %s, %s, or %s?")
  if (length(near)) return(do.call(problem, as.list(c(questions[length(near)], near))))
  shown <- utils::head(choices, 12)
  more <- length(choices) - length(shown)
  problem(sprintf("The %s: %%s%%s.", noun), toString(shown), if (more > 0) problem(" and %d more", more) else "")
}

some_values <- function(values, most = 3L) {
  shown <- paste0("\"", utils::head(values, most), "\"", collapse = ", ")
  if (length(values) > most) paste0(shown, " ...") else shown
}

abort_no_order <- function(name) {
  abort_input(
    problem("%s has unordered categories, but numbers or ordered categories are needed here.", name),
    "If they are ordered, set the level in a codebook; relate uses unordered categories as they are (eta, Cramer's V)."
  )
}
