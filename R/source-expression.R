# The small arithmetic of derived variables as its own parser: text becomes a tree of calls, the tree is computed on the
# study's variables, and nothing is ever evaluated as R code.

expression_functions <- c("log", "log10", "exp", "sqrt", "abs", "change", "since", "reverse", "mean_of", "sum_of")

#' Text to tokens: numbers, names (bare or in backticks), marks; each with its place
#' @param more Patterns of further tokens, or in place of these.
#' @noRd
split_expression <- function(text, more = character()) {
  patterns <- c(
    space = "^[ \t]+", number = "^([0-9]+[.]?[0-9]*|[.][0-9]+)([eE][-+]?[0-9]+)?", name = "^[[:alpha:].][[:alnum:]_.]*",
    quoted = "^`[^`]+`", mark = "^[-+*/^(),]"
  )
  patterns[names(more)] <- more
  tokens <- list()
  at <- 1L
  while (at <= nchar(text)) {
    rest <- substring(text, at)
    lengths <- vapply(patterns, function(p) attr(regexpr(p, rest), "match.length"), 0L)
    kind <- names(patterns)[match(TRUE, lengths > 0)]
    if (is.na(kind)) abort_expression(text, at, sprintf("\"%s\" is not part of the arithmetic", substr(rest, 1, 1)))
    piece <- substr(rest, 1, lengths[[kind]])
    if (kind == "quoted") {
      kind <- "name"
      piece <- gsub("`", "", piece, fixed = TRUE)
    }
    if (kind != "space") tokens[[length(tokens) + 1L]] <- list(kind = kind, text = piece, at = at)
    at <- at + lengths[[which(lengths > 0)[1]]]
  }
  tokens
}

abort_expression <- function(text, at, what) {
  abort_input(
    sprintf("In \"%s\", at place %d: %s.", text, at, what),
    sprintf("Allowed: variables, numbers, + - * / ^ ( ) and %s.", paste(expression_functions, collapse = ", "))
  )
}

#' Tokens to a tree, by precedence: sum, product, sign, power, then numbers, variables, calls and brackets
#' @noRd
parse_expression <- function(text) {
  if (!is.character(text) || length(text) != 1L || is.na(text) || !nzchar(trimws(text))) {
    abort_usage("An expression is one string.", "For example derive(study, log_practice = \"log(practice_hours)\").")
  }
  reader <- new.env(parent = emptyenv())
  reader$text <- text
  reader$tokens <- split_expression(text)
  reader$at <- 1L
  tree <- parse_sum(reader)
  left <- peek(reader)
  if (!is.null(left)) abort_expression(text, left$at, sprintf("\"%s\" is not expected here", left$text))
  tree
}

peek <- function(reader) if (reader$at <= length(reader$tokens)) reader$tokens[[reader$at]]

next_is <- function(reader, marks) {
  token <- peek(reader)
  !is.null(token) && token$kind == "mark" && token$text %in% marks
}

take <- function(reader) {
  token <- peek(reader)
  if (is.null(token)) abort_expression(reader$text, nchar(reader$text) + 1L, "something is missing at the end")
  reader$at <- reader$at + 1L
  token
}

expect_mark <- function(reader, mark) {
  token <- peek(reader)
  if (next_is(reader, mark)) return(take(reader))
  at <- if (is.null(token)) nchar(reader$text) + 1L else token$at
  abort_expression(reader$text, at, sprintf("\"%s\" is missing", mark))
}

parse_left <- function(reader, marks, operand) {
  tree <- operand(reader)
  while (next_is(reader, marks)) {
    mark <- take(reader)
    tree <- list(kind = "call", name = mark$text, at = mark$at, parts = list(tree, operand(reader)))
  }
  tree
}

parse_sum <- function(reader) parse_left(reader, c("+", "-"), parse_product)

parse_product <- function(reader) parse_left(reader, c("*", "/"), parse_sign)

parse_sign <- function(reader) {
  if (!next_is(reader, c("-", "+"))) return(parse_power(reader))
  mark <- take(reader)
  operand <- parse_sign(reader)
  if (mark$text == "+") operand else list(kind = "call", name = "negative", at = mark$at, parts = list(operand))
}

parse_power <- function(reader) {
  base <- parse_atom(reader)
  if (!next_is(reader, "^")) return(base)
  mark <- take(reader)
  list(kind = "call", name = "^", at = mark$at, parts = list(base, parse_sign(reader)))
}

parse_atom <- function(reader) {
  token <- take(reader)
  if (token$kind == "number") return(list(kind = "number", value = as.numeric(token$text), at = token$at))
  if (token$kind == "name") {
    if (next_is(reader, "(")) return(parse_call(reader, token))
    return(list(kind = "variable", name = token$text, at = token$at))
  }
  if (token$text != "(") abort_expression(reader$text, token$at, sprintf("\"%s\" is not expected here", token$text))
  tree <- parse_sum(reader)
  expect_mark(reader, ")")
  tree
}

parse_call <- function(reader, token) {
  if (!token$text %in% expression_functions) {
    near <- nearest_names(token$text, expression_functions)
    hint <- if (length(near)) sprintf(" (did you mean %s()?)", near[1]) else ""
    abort_expression(reader$text, token$at, sprintf("there is no function %s()%s", token$text, hint))
  }
  take(reader)
  parts <- list()
  if (!next_is(reader, ")")) {
    repeat {
      parts[[length(parts) + 1L]] <- parse_sum(reader)
      if (!next_is(reader, ",")) break
      take(reader)
    }
  }
  expect_mark(reader, ")")
  wanted <- switch(token$text,
    reverse = c(1L, 3L),
    mean_of = ,
    sum_of = c(2L, Inf),
    c(1L, 1L)
  )
  if (length(parts) < wanted[1] || length(parts) > wanted[2] || (token$text == "reverse" && length(parts) == 2L)) {
    abort_expression(reader$text, token$at, sprintf("%s() takes %s", token$text, switch(token$text,
      reverse = "a variable, or a variable and both ends of its scale",
      mean_of = ,
      sum_of = "two variables or more",
      "one variable"
    )))
  }
  list(kind = "call", name = token$text, at = token$at, parts = parts)
}

functions_in <- function(tree) unique(c(if (tree$kind == "call") tree$name, unlist(lapply(tree$parts, functions_in))))

variables_in <- function(tree) {
  if (tree$kind == "variable") return(tree$name)
  unique(unlist(lapply(tree$parts, variables_in)))
}
