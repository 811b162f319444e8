# Whom a text is for: who calls functions, who types commands, or who reads a page. The same next step is told to each in
# the way that serves.

door_r <- function() list(kind = "r")

#' @param path The data file as it was given; `options` how it was read, a named list of options and their words.
#' @noRd
door_shell <- function(path, options = list()) list(kind = "shell", path = path, options = options)

door_page <- function() list(kind = "page")

# What each question is called in R.
calls_in_r <- c(
  look = "overview", relate = "relate", matrix = "correlation_matrix", line = "fit_line", rank = "rank_predictors",
  items = "check_items", levels = "relate_levels", pool = "pool_relations", choices = "vary_choices", waves = "relate_waves",
  flag = "flag_spurious", "draw scatter" = "draw_scatter", "draw box" = "draw_box"
)

#' "Next: ..." for a door, or `NULL`
#' @param step From `next_step()`; `x`, `y` the pair it is asked of.
#' @noRd
step_words <- function(step, x, y, door, lead = say("Try:")) {
  if (is.null(step) || door$kind == "page") return(NULL)
  if (step$question == "derive") return(paste(lead, derive_words(step, door)))
  # What is said of a whole matrix names no pair.
  if (step$pair && is.na(x)) step[c("question", "pair")] <- list("matrix", FALSE)
  variables <- c(if (step$pair) c(x, y), step$variables)
  paste(lead, if (door$kind == "r") step_in_r(step, variables) else step_in_shell(step, variables, door))
}

# The command has no line for it, a brief has.
derive_words <- function(step, door) {
  if (door$kind == "r") return(sprintf("derive(study, %s = %s)", step$name, r_value(step$expression)))
  say("in a brief, derive: {%s: %s}", step$name, encodeString(step$expression, quote = "\""))
}

step_in_shell <- function(step, variables, door) {
  arguments <- step$arguments
  if (!is.null(arguments$missing_codes)) arguments$missing_codes <- c(door$options$missing_codes, arguments$missing_codes)
  arguments <- utils::modifyList(door$options, arguments)
  option_words <- unlist(Map(option_word, names(arguments), arguments))
  out <- if (startsWith(step$question, "draw ")) "--out figure.png"
  words <- c(
    if (identical(door$path, "-")) "-" else shell_word(sub("^-", "./-", door$path)),
    vapply(variables, shell_word, ""), option_words, out
  )
  paste(c("unsere", step$question, words), collapse = " ")
}

option_word <- function(name, value) {
  option <- paste0("--", gsub("_", "-", name))
  if (isTRUE(value)) return(option)
  text <- paste(if (is.numeric(value)) format(value, trim = TRUE, digits = 15) else value, collapse = ",")
  if (startsWith(text, "-")) sprintf("%s=%s", option, shell_word(text)) else paste(option, shell_word(text))
}

# Set in single quotes wherever the shell would read more into a name than its letters.
shell_word <- function(text) {
  if (grepl("^[A-Za-z0-9_./,][A-Za-z0-9_./,-]*$", text)) return(text)
  if (grepl("^-[0-9.,]+$", text)) text else shQuote(text, "sh")
}

step_in_r <- function(step, variables) {
  step_arguments <- step$arguments
  if (!is.null(step_arguments$missing_codes)) {
    return(sprintf("set_variable(study, %s, missing_codes = %s)", r_name(step$about), r_value(step_arguments$missing_codes)))
  }
  call <- function(verb, arguments) {
    named <- unlist(Map(function(name, value) sprintf("%s = %s", name, r_value(value)), names(arguments), arguments))
    sprintf("%s(%s)", verb, paste(c("study", vapply(variables, r_name, ""), named), collapse = ", "))
  }
  if (length(step_arguments$shape) > 1L) {
    lines <- vapply(step_arguments$shape, function(shape) call("fit_line", list(shape = shape)), "")
    return(sprintf("compare_lines(%s)", paste(lines, collapse = ", ")))
  }
  if (!is.null(step_arguments$by)) step_arguments$by <- structure(step_arguments$by, class = "variable")
  call(calls_in_r[[step$question]], step_arguments)
}

r_name <- function(name) if (make.names(name) == name) name else encodeString(name, quote = "\"")

r_value <- function(value) {
  if (inherits(value, "variable")) return(r_name(unclass(value)))
  text <- if (is.character(value)) encodeString(value, quote = "\"") else format(value, trim = TRUE, digits = 15)
  if (length(text) == 1L) text else sprintf("c(%s)", paste(text, collapse = ", "))
}
