# A question is declared once, for all doors: what it asks for, of which type, what is allowed, what it means when nothing
# is said, and at which doors it stands. The checks, the command's options and help, the schema of briefs and the lists in
# the help pages come from the declaration.

#' One argument of a question
#'
#' @param type `"number"`, `"whole"`, `"numbers"`, `"choice"`, `"choices"`, `"flag"`, `"variable"`, `"variables"`, `"text"`,
#'   `"texts"`, `"path"`, `"scale"`, `"values"` (numbers by name).
#' @param help What it is, for everyone; `value` how its value is called in the command's help; `otherwise` what holds where
#'   nothing is given, in words, for an argument without a default.
#' @param allowed For choices: a character vector. `from`, `to` the ends of a number, themselves allowed unless `inside`.
#' @param doors Where it can be given: `"r"`, `"command"`, `"brief"`; `brief` its key there.
#' @noRd
argument <- function(type, help, default = NULL, value = "NAME", allowed = NULL, from = -Inf, to = Inf, inside = FALSE,
                     doors = c("r", "command"), brief = NULL, otherwise = NULL) {
  list(
    type = type, help = help, default = default, value = if (type != "flag") value, allowed = allowed, from = from,
    to = to, inside = inside, doors = c(doors, if (!is.null(brief)) "brief"), brief = brief, otherwise = otherwise
  )
}

#' @param name Of the question and of its command; `call` of its R function; `about` what it answers, a line.
#' @param words The command's words after its name, capitals: a file, and the arguments of these names; `open` the argument,
#'   or arguments one by one, that further words are; `lists` those of the words that may name several, with commas or stars.
#' @param arguments A named list from [argument()], under the names of R.
#' @param answer From a study and settled arguments to a result; `NULL` where the question is not asked of a file.
#' @param example A line of the command on the demo data, after `unsere`.
#' @param place Its place in lists; `designed` whether it honours how cases were drawn.
#' @param section Its section of a brief and of the report, from [new_brief_section()].
#' @noRd
new_question <- function(name, call, about, words, arguments, answer, example, open = NULL, usage = NULL,
                         place = 9, designed = FALSE, section = NULL, lists = character()) {
  if (is.null(usage)) usage <- paste(c(name, words), collapse = " ")
  list(
    name = name, call = call, about = about, words = words, open = open, arguments = arguments, answer = answer,
    example = example, usage = usage, place = place, designed = designed, section = section,
    lists = lists
  )
}

# What stands in several questions, said once.
shared_arguments <- function(...) {
  all <- list(
    coefficient = argument(
      "choice", "the coefficient (auto: by the levels of measurement)",
      default = "auto",
      allowed = c("auto", coefficient_names()), brief = "coefficient"
    ),
    expect = argument(
      "choice", "the direction of the test: either (two-sided), or positive or negative if specified in advance",
      default = "either",
      value = "DIRECTION", allowed = c("either", "positive", "negative"), brief = "expect"
    ),
    confidence = argument(
      "number", "the confidence level of intervals",
      default = 0.95, value = "SHARE", from = 0, to = 1,
      inside = TRUE, brief = "settings"
    ),
    strength = argument(
      "scale", "the scale of verbal labels for size: cohen, evans, gignac, or own limits such as small=.1,large=.4",
      default = "cohen", value = "SCALE", allowed = names(strength_scales), brief = "settings"
    ),
    interval = argument(
      "choice", "the method of interval and test: auto (textbook, or jackknife if the data require it) or analytic",
      default = "auto", value = "KIND", allowed = c("auto", "analytic"), brief = "interval"
    ),
    threads = argument("whole", "the number of threads", value = "N", from = 1, to = 256, otherwise = "2")
  )
  all[c(...)]
}

paste_or <- function(words) paste(paste(utils::head(words, -1), collapse = ", "), "or", utils::tail(words, 1))

#' The arguments of a question with their defaults put in and each checked
#'
#' @param given A named list; what is `NULL` counts as not given. Names of variables come checked.
#' @return A list with every argument of the question.
#' @section Errors: `unsere_error_usage` for a value that is not allowed.
#' @noRd
settle_arguments <- function(question, given) {
  given <- Filter(Negate(is.null), given)
  declared <- question$arguments
  unknown <- setdiff(names(given), c(names(declared), "x", "y", "outcome", "names"))
  if (length(unknown)) abort_usage(problem("There is no argument `%s` here.", unknown[1]))
  options <- given
  for (name in names(declared)) {
    one <- declared[[name]]
    value <- or_default(given[[name]], one$default)
    options[name] <- list(if (!is.null(value)) check_argument(value, one, name))
  }
  options
}

check_argument <- function(value, one, name) {
  switch(one$type,
    number = check_number(value, one, name),
    whole = check_number(value, one, name, whole = TRUE),
    numbers = check_numbers(value, name),
    choice = one_of(value, one$allowed, name),
    choices = vapply(value, one_of, "", allowed = one$allowed, argument = name, USE.NAMES = FALSE),
    flag = check_flag(value, name),
    scale = strength_scale(value),
    text = check_text(value, name),
    path = check_text(value, name),
    value
  )
}

check_number <- function(value, one, name, whole = FALSE) {
  beyond <- if (one$inside) function(v) v <= one$from || v >= one$to else function(v) v < one$from || v > one$to
  if (is_number(value) && !beyond(value) && (!whole || value == round(value)) && abs(value) <= 2^53) return(value)
  shown <- utils::head(format(value), 3)
  abort_usage(
    problem("`%s` cannot be %s.", name, paste(shown, collapse = ", ")),
    problem("Allowed: %s.", range_words(one, whole))
  )
}

range_words <- function(one, whole) {
  kind <- if (whole) "one whole number" else "one number"
  shown <- function(v) format(v, big.mark = if (abs(v) >= 1e4) "," else "", scientific = FALSE, trim = TRUE)
  if (one$inside) return(sprintf("%s between %s and %s", kind, shown(one$from), shown(one$to)))
  if (is.finite(one$from) && is.finite(one$to)) return(sprintf("%s from %s to %s", kind, shown(one$from), shown(one$to)))
  if (is.finite(one$from)) sprintf("%s from %s on", kind, shown(one$from)) else kind
}

check_numbers <- function(value, name) {
  if (is.numeric(value) && length(value) && all(is.finite(value)) && all(abs(value) <= 1e150)) return(as.double(value))
  abort_usage(problem("`%s` must hold numbers, none beyond 1e150.", name), "For example 5, or several of them.")
}

check_flag <- function(value, name) {
  if (is.logical(value) && length(value) == 1L && !is.na(value)) return(value)
  abort_usage(problem("`%s` must be TRUE or FALSE.", name))
}

check_text <- function(value, name) {
  if (is_word(value) && nzchar(value)) return(value)
  abort_usage(problem("`%s` must be one string that is not empty.", name))
}
