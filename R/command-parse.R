# The words of the command, taken apart by what the questions declare.

# Options that every command takes.
closing_arguments <- function() {
  list(
    language = argument("choice", "the language of all texts", value = "CODE", allowed = languages()),
    quiet = argument("flag", "print the result without notes"), help = argument("flag", "show this help"),
    version = argument("flag", "show the version")
  )
}

output_arguments <- function() {
  list(
    format = argument(
      "choice", "the output format",
      value = "FORM", allowed = c("text", "json", "csv", "markdown")
    ),
    out = argument("path", "write to this file (run and demo: folder) instead", value = "PATH")
  )
}

#' @param declared A named list of arguments.
#' @return A list: `words`, and `options`, under the names of R, each of its type; names of variables still to be checked.
#' @noRd
parse_words <- function(arguments, declared) {
  split <- split_arguments(arguments, declared)
  options <- Map(function(text, name) parse_value(text, declared[[name]], name), split$options, names(split$options))
  list(words = split$words, options = options, texts = split$options)
}

option_name <- function(name) paste0("--", gsub("_", "-", name))

split_arguments <- function(arguments, declared) {
  words <- character()
  options <- list()
  i <- 0L
  while (i < length(arguments)) {
    i <- i + 1L
    argument <- arguments[i]
    if (argument %in% c("-h", "-?")) argument <- "--help"
    if (argument == "--") return(list(words = c(words, arguments[-seq_len(i)]), options = options))
    if (!startsWith(argument, "--")) {
      if (grepl("^-[A-Za-z]", argument)) abort_short(argument)
      words <- c(words, argument)
      next
    }
    name <- gsub("-", "_", sub("^--([^=]*).*$", "\\1", argument))
    check_option(name, names(declared))
    if (!is.null(options[[name]])) abort_usage(problem("%s is given twice.", option_name(name)), "Give it once.")
    given <- grepl("=", argument, fixed = TRUE)
    if (is.null(declared[[name]]$value)) {
      if (given) abort_usage(problem("%s takes no value.", option_name(name)), problem("Write %s alone.", option_name(name)))
      options[[name]] <- TRUE
      next
    }
    if (!given) i <- i + 1L
    text <- if (given) sub("^[^=]*=", "", argument) else arguments[i]
    if (is.na(text) || !nzchar(trimws(text)) || !given && startsWith(text, "--")) {
      option <- option_name(name)
      abort_usage(problem("%s needs a value.", option), problem("%s: %s.", option, problem(declared[[name]]$help)))
    }
    options[[name]] <- text
  }
  list(words = words, options = options)
}

abort_short <- function(argument) {
  abort_usage(problem("There is no option %s.", argument), "Options are whole words, such as --format.")
}

check_option <- function(name, allowed) {
  if (name %in% allowed) return(invisible())
  near <- nearest_names(name, allowed)
  abort_usage(
    problem("There is no option %s here.", option_name(name)),
    if (length(near)) {
      sprintf("Did you mean %s?", option_name(near[1]))
    } else {
      paste0("The options: ", paste(option_name(allowed), collapse = ", "), ".")
    }
  )
}

#' An option's text as its type has it
#' @noRd
parse_value <- function(text, one, name) {
  if (isTRUE(text)) return(TRUE)
  parts <- trimws(strsplit(text, ",", fixed = TRUE)[[1]])
  switch(one$type,
    number = ,
    whole = parse_number(text, name),
    numbers = parse_numbers(parts, text, name),
    variables = ,
    texts = parts[nzchar(parts)],
    choices = parts,
    values = parse_values(parts, text, name),
    scale = if (grepl("=", text, fixed = TRUE)) unlist(parse_values(parts, text, name)) else text,
    text
  )
}

parse_number <- function(text, name) {
  number <- numbers_in(trimws(text))
  if (is.na(number)) abort_usage(problem("%s takes one number, not \"%s\".", option_name(name), shown_text(text)))
  number
}

parse_numbers <- function(parts, text, name) {
  numbers <- numbers_in(parts)
  if (length(numbers) && !anyNA(numbers)) return(numbers)
  abort_usage(problem("%s takes numbers separated by commas, not \"%s\".", option_name(name), shown_text(text)))
}

parse_values <- function(parts, text, name) {
  sides <- strsplit(parts, "=", fixed = TRUE)
  numbers <- vapply(sides, function(side) if (length(side) == 2L) numbers_in(trimws(side[2])) else NA_real_, 0)
  if (length(numbers) && !anyNA(numbers)) {
    return(stats::setNames(as.list(numbers), trimws(vapply(sides, `[`, "", 1L))))
  }
  abort_usage(
    problem("%s needs values by name, not \"%s\".", option_name(name), shown_text(text)), "For example a=5,b=90."
  )
}
