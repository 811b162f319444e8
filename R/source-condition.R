# Conditions: which cases, in words that a study and a database both understand.

condition_marks <- c("<=", ">=", "!=", "<", ">", "=")

#' A condition as a tree: comparisons joined by `and`, `or`, `not` and brackets
#' @noRd
parse_condition <- function(text) {
  if (!is_word(text) || !nzchar(trimws(text))) {
    abort_usage("A condition is one string.", "For example \"age >= 18 and centre = 'Mill'\".")
  }
  tryCatch(read_condition(text), unsere_error_input = function(e) {
    abort_input(e$said, "A condition compares: age >= 18 and centre = 'Mill'; also !=, in ('a', 'b'), is missing, or, not.")
  })
}

read_condition <- function(text) {
  reader <- new.env(parent = emptyenv())
  reader$text <- text
  reader$tokens <- split_expression(text, c(
    text = "^('[^']*'|\"[^\"]*\")", mark = "^(<=|>=|!=|[-+*/^(),<>=])"
  ))
  reader$at <- 1L
  tree <- parse_either(reader)
  left <- peek(reader)
  if (!is.null(left)) abort_condition(reader, sprintf("\"%s\" is not expected here", left$text))
  tree
}

abort_condition <- function(reader, what) {
  token <- peek(reader)
  at <- if (is.null(token)) nchar(reader$text) + 1L else token$at
  abort_expression(reader$text, at, what)
}

next_word <- function(reader, word) {
  token <- peek(reader)
  found <- !is.null(token) && token$kind == "name" && identical(tolower(token$text), word)
  if (found) take(reader)
  found
}

parse_either <- function(reader) {
  tree <- parse_both(reader)
  while (next_word(reader, "or")) tree <- list(kind = "or", parts = list(tree, parse_both(reader)))
  tree
}

parse_both <- function(reader) {
  tree <- parse_denied(reader)
  while (next_word(reader, "and")) tree <- list(kind = "and", parts = list(tree, parse_denied(reader)))
  tree
}

parse_denied <- function(reader) {
  if (next_word(reader, "not")) return(list(kind = "not", parts = list(parse_denied(reader))))
  # An opening bracket may hold a condition, or the first part of a sum.
  begun <- reader$at
  if (next_is(reader, "(")) {
    take(reader)
    inner <- tryCatch(parse_either(reader), unsere_error = function(e) NULL)
    if (!is.null(inner) && next_is(reader, ")")) {
      take(reader)
      return(inner)
    }
    reader$at <- begun
  }
  parse_comparison(reader)
}

parse_comparison <- function(reader) {
  left <- parse_side(reader)
  if (next_word(reader, "is")) {
    denied <- next_word(reader, "not")
    if (!next_word(reader, "missing")) abort_condition(reader, "\"missing\" is expected after \"is\"")
    tree <- list(kind = "missing", parts = list(left))
    return(if (denied) list(kind = "not", parts = list(tree)) else tree)
  }
  if (next_word(reader, "in")) {
    expect_mark(reader, "(")
    each <- list()
    repeat {
      each[[length(each) + 1L]] <- list(kind = "compared", name = "=", parts = list(left, parse_side(reader)))
      if (!next_is(reader, ",")) break
      take(reader)
    }
    expect_mark(reader, ")")
    return(Reduce(function(a, b) list(kind = "or", parts = list(a, b)), each))
  }
  if (!next_is(reader, condition_marks)) abort_condition(reader, "a comparison is expected")
  list(kind = "compared", name = take(reader)$text, parts = list(left, parse_side(reader)))
}

parse_side <- function(reader) {
  token <- peek(reader)
  if (!is.null(token) && token$kind == "text") {
    take(reader)
    return(list(kind = "text", value = substr(token$text, 2L, nchar(token$text) - 1L)))
  }
  parse_sum(reader)
}
