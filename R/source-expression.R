# The small arithmetic of derived variables: R's parser reads it, a list of what is allowed makes a tree of it, and
# the tree is
# computed on the study's variables. Nothing is ever evaluated as R code.

expression_functions <- c("log", "log10", "exp", "sqrt", "abs", "change", "since", "reverse", "mean_of", "sum_of")

arithmetic_marks <- c("+", "-", "*", "/", "^")

abort_expression <- function(text, at, what) {
  abort_input(
    problem("In \"%s\"%s: %s.", shortened_text(text), if (isTRUE(at > 0)) sprintf(", at place %d", at) else "", what),
    problem("Allowed: variables, numbers, + - * / ^ ( ) and %s.", paste(expression_functions, collapse = ", "))
  )
}

# Of a text too long for one line its beginning.
shortened_text <- function(text) if (nchar(text) > 200L) paste0(substr(text, 1L, 190L), "...") else text

#' An expression as a tree: numbers, variables, and calls of marks and functions
#' @noRd
parse_expression <- function(text) {
  if (!is_word(text) || !nzchar(trimws(text))) {
    abort_usage("An expression is one string.", "For example derive(study, log_practice = \"log(practice_hours)\").")
  }
  tree_of_call(parse_as_r(text), text)
}

#' Text as R's parser reads it, for a tree that allows little of it
#' @param words What the parser is given, where that is not the text itself.
#' @param set_aside Parts of the text, by what stands for them in `words`.
#' @noRd
parse_as_r <- function(text, words = text, set_aside = character()) {
  stray <- regexpr("[#;\\\\$@:%?~!&|{}]|\\[|->", if (identical(words, text)) gsub("`[^`]*`", "``", text) else "")
  if (stray > 0) abort_expression(text, stray, problem("\"%s\" is not an arithmetic operator", substr(text, stray, stray)))
  check_nesting(text, words)
  call <- tryCatch(str2lang(gsub("<-", "< -", words, fixed = TRUE)), error = function(e) {
    at <- as.integer(regmatches(conditionMessage(e), regexec("<text>:1:([0-9]+)", conditionMessage(e)))[[1]][2])
    if (is.na(at) || at > nchar(words)) at <- nchar(words) + 1L
    rest <- substring(words, at)
    open <- lengths(regmatches(words, gregexpr("(", words, fixed = TRUE))) -
      lengths(regmatches(words, gregexpr(")", words, fixed = TRUE)))
    abort_expression(text, place_in_text(text, words, at), if (nzchar(trimws(rest))) {
      piece <- regmatches(rest, regexpr("^([[:alnum:]_.]+|[<>=!&|]+|.)", rest))
      if (piece %in% names(set_aside)) piece <- set_aside[[piece]]
      sprintf("\"%s\" is not expected here", sub("==", "=", piece, fixed = TRUE))
    } else if (open > 0L && !grepl("[-+*/^<>=&|(,]\\s*$", words)) {
      "\")\" is missing"
    } else {
      "something is missing at the end"
    })
  })
  if (depth_of_call(call) > most_nested) {
    abort_expression(text, 0L, problem("more than %d operations are chained", most_nested))
  }
  call
}

# How many operations may hang on each other, and brackets stand in brackets.
most_nested <- 300L

most_brackets <- 40L

check_nesting <- function(text, words) {
  marks <- utf8ToInt(gsub("[^()]", "", enc2utf8(words)))
  if (max(0, cumsum(ifelse(marks == 40L, 1, -1))) > most_brackets) {
    abort_expression(text, 0L, problem("brackets are nested more than %d deep", most_brackets))
  }
}

#' The parts that one mark joins, however many: a and b and c
#' @noRd
chain_of_call <- function(call, mark) {
  parts <- list()
  while (is.call(call) && identical(call[[1]], as.name(mark))) {
    parts[[length(parts) + 1L]] <- call[[3]]
    call <- call[[2]]
  }
  c(list(call), rev(parts))
}

#' How deep a call is, what `&` and `|` join counted once; without recursion, as it may be very deep
#' @noRd
depth_of_call <- function(call) {
  waiting <- list(list(call, 1L))
  deepest <- 0L
  while (length(waiting) && deepest <= most_nested) {
    at <- waiting[[length(waiting)]]
    waiting[[length(waiting)]] <- NULL
    deepest <- max(deepest, at[[2]])
    if (!is.call(at[[1]])) next
    mark <- as.character(at[[1]][[1]])[1]
    parts <- if (mark %in% c("&", "|")) chain_of_call(at[[1]], mark) else as.list(at[[1]])[-1]
    parts <- Filter(is.call, parts)
    waiting <- c(waiting, lapply(parts, list, at[[2]] + 1L))
  }
  deepest
}

# As far as the two are the same a place in the one is that in the other.
place_in_text <- function(text, words, at) if (substr(text, 1L, at - 1L) == substr(words, 1L, at - 1L)) at else 0L

tree_of_call <- function(call, text) {
  at_name <- function(name) regexpr(name, text, fixed = TRUE)[1]
  if (is.numeric(call) && is.finite(call)) return(list(kind = "number", value = as.numeric(call)))
  if (is.name(call)) return(list(kind = "variable", name = as.character(call), at = at_name(as.character(call))))
  if (!is.call(call) || !is.name(call[[1]])) {
    abort_expression(text, at_name(format(call)[1]), problem("\"%s\" is not an arithmetic operator", format(call)[1]))
  }
  name <- as.character(call[[1]])
  parts <- as.list(call)[-1]
  if (length(names(parts)) || any(vapply(parts, identical, NA, quote(expr = )))) { # nolint: spaces_inside_linter.
    abort_expression(text, at_name(name), "a part of it is missing, or has a name")
  }
  if (name == "(") return(tree_of_call(parts[[1]], text))
  if (!name %in% c(arithmetic_marks, expression_functions)) abort_no_function(name, text, at_name(name))
  parts <- lapply(parts, tree_of_call, text)
  if (name %in% c("+", "-") && length(parts) == 1L) {
    return(if (name == "+") parts[[1]] else list(kind = "call", name = "negative", parts = parts))
  }
  if (!name %in% arithmetic_marks) check_parts(name, length(parts), text, at_name(name))
  list(kind = "call", name = name, parts = parts)
}

abort_no_function <- function(name, text, at) {
  if (!grepl("^[[:alpha:].]", name)) abort_expression(text, at, problem("\"%s\" is not an arithmetic operator", name))
  near <- nearest_names(name, expression_functions)
  hint <- if (length(near)) sprintf(" (did you mean %s()?)", near[1]) else ""
  abort_expression(text, at, problem("there is no function %s()%s", name, hint))
}

check_parts <- function(name, parts, text, at) {
  fits <- switch(name,
    reverse = parts %in% c(1L, 3L),
    mean_of = ,
    sum_of = parts >= 2L,
    parts == 1L
  )
  if (!fits) abort_expression(text, at, problem("%s() needs %s", name, switch(name,
    reverse = "a variable, or a variable and both ends of its scale",
    mean_of = ,
    sum_of = "two variables or more",
    "one variable"
  )))
}

functions_in <- function(tree) unique(c(if (tree$kind == "call") tree$name, unlist(lapply(tree$parts, functions_in))))

variables_in <- function(tree) {
  if (tree$kind == "variable") return(tree$name)
  unique(unlist(lapply(tree$parts, variables_in)))
}
