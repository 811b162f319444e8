# Conditions: which cases, in words that a study and a database both understand. R's parser reads them, with R's marks in the
# place of words, and a tree is made of what is allowed.

condition_marks <- c("==" = "=", "!=" = "!=", "<=" = "<=", ">=" = ">=", "<" = "<", ">" = ">")

# Word for mark, outside quotes.
condition_words <- c(
  "\\bis\\s+not\\s+missing\\b" = "!= .missing", "\\bis\\s+missing\\b" = "== .missing", "\\bin\\s*\\(" = "== .any(",
  "\\band\\b" = "&", "\\bor\\b" = "|", "\\bnot\\b" = "!", "(?<![<>!=])=(?!=)" = "=="
)

#' A condition as a tree: comparisons joined by `and`, `or`, `not` and brackets
#' @noRd
parse_condition <- function(text) {
  if (!is_word(text) || !nzchar(trimws(text))) {
    abort_usage("A condition is one string.", "For example \"age >= 18 and centre = 'Mill'\".")
  }
  tryCatch(read_condition(text), unsere_error_input = function(e) {
    abort_input(
      e$problem, "A condition compares: age >= 18 and centre = 'Mill'; also !=, in ('a', 'b'), is missing, or, not."
    )
  })
}

read_condition <- function(text) {
  # What stands in quotes is set aside, so that no word in it counts.
  quotes <- gregexpr("'([^']|'')*'|\"([^\"]|\"\")*\"|`[^`]+`", text)
  texts <- regmatches(text, quotes)[[1]]
  quoted <- sprintf(".quoted%d.", seq_along(texts))
  words <- text
  regmatches(words, quotes) <- list(quoted)
  stray <- regexpr("[#;\\\\$@:%?~{}'\"`&|]|\\[|->|!(?!=)", words, perl = TRUE)
  if (stray > 0) abort_expression(
    text, place_in_text(text, words, stray), problem("\"%s\" is not expected here", substr(words, stray, stray))
  )
  # A date is a text, not a subtraction.
  dates <- gregexpr("(?<![0-9.])[0-9]{4}-[0-9]{2}-[0-9]{2}(T[0-9]{2}:[0-9]{2}(:[0-9]{2})?)?(?![0-9-])", words, perl = TRUE)
  dates_written <- regmatches(words, dates)[[1]]
  if (length(dates_written)) {
    dated <- sprintf(".dated%d.", seq_along(dates_written))
    regmatches(words, dates) <- list(dated)
    texts <- c(texts, sprintf("'%s'", dates_written))
    quoted <- c(quoted, dated)
  }
  for (word in names(condition_words)) {
    words <- gsub(word, condition_words[[word]], words, perl = TRUE, ignore.case = TRUE)
  }
  names(texts) <- quoted
  condition_of_call(parse_as_r(text, words, texts), list(text = text, texts = texts))
}

condition_of_call <- function(call, given) {
  mark <- if (is.call(call) && is.name(call[[1]])) as.character(call[[1]]) else ""
  parts <- as.list(call)[-1]
  if (mark == "(") return(condition_of_call(parts[[1]], given))
  if (mark %in% c("&", "|", "!")) {
    kind <- c("&" = "and", "|" = "or", "!" = "not")[[mark]]
    if (mark != "!") parts <- chain_of_call(call, mark)
    return(list(kind = kind, parts = lapply(parts, condition_of_call, given)))
  }
  if (!mark %in% names(condition_marks)) abort_expression(given$text, 0L, "a comparison is expected")
  first <- side_of_call(parts[[1]], given)
  right <- parts[[2]]
  if (identical(right, quote(.missing))) {
    tree <- list(kind = "missing", parts = list(first))
    return(if (mark == "!=") list(kind = "not", parts = list(tree)) else tree)
  }
  if (is.call(right) && identical(right[[1]], quote(.any))) {
    each <- lapply(as.list(right)[-1], side_of_call, given)
    if (!length(each)) abort_expression(given$text, 0L, "there is nothing in the brackets")
    return(list(kind = "among", parts = c(list(first), each)))
  }
  list(kind = "compared", name = condition_marks[[mark]], parts = list(first, side_of_call(right, given)))
}

# One side of a comparison: a text in quotes, or arithmetic, of which a name may stand in backticks.
side_of_call <- function(call, given) {
  text <- if (is.name(call)) given$texts[as.character(call)] else NA
  if (!is.na(text) && !startsWith(text, "`")) {
    # A quote within quotes is written twice.
    mark <- substr(text, 1L, 1L)
    value <- gsub(strrep(mark, 2L), mark, substr(unname(text), 2L, nchar(text) - 1L), fixed = TRUE)
    return(list(kind = "text", value = value))
  }
  tree_of_call(with_quoted_names(call, given$texts), given$text)
}

with_quoted_names <- function(call, texts) {
  if (is.name(call) && as.character(call) %in% names(texts)) {
    text <- texts[[as.character(call)]]
    return(if (startsWith(text, "`")) as.name(substr(text, 2L, nchar(text) - 1L)) else text)
  }
  if (is.call(call)) call[-1] <- lapply(as.list(call)[-1], with_quoted_names, texts)
  call
}
