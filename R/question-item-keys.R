# Keys of tests, and what an answer counts: right or wrong by a key, left out, not reached, reversed.

#' The right answers that a file names, an item a row: its columns `item` and `key`, or the first two
#' @noRd
key_of_file <- function(path) {
  if (!file.exists(path)) abort_input(problem("There is no file %s.", path), "Name a CSV file of items and keys.")
  table <- read_delimited(path)$data
  at <- match(c("item", "key"), tolower(names(table)))
  if (anyNA(at)) at <- 1:2
  if (ncol(table) < 2L) {
    abort_input(problem("%s has no column for the keys.", file_name(path)), "It takes two: item and key.")
  }
  stats::setNames(trimws(as.character(table[[at[2]]])), trimws(as.character(table[[at[1]]])))
}

#' "q1=B,q2=D", a named vector, a file, or the answers in the order of the items: "BDAC", "B D A C"
#' @param items Their names, where they are known.
#' @noRd
parse_key <- function(key, items = NULL) {
  if (is.null(key)) return(NULL)
  if (!is.null(names(key))) return(vapply(key, as.character, ""))
  if (is_word(key) && grepl("[.](csv|tsv|txt)$", key, ignore.case = TRUE)) return(key_of_file(key))
  if (is_word(key) && length(items) && grepl("^[[:alnum:],; ]+$", key)) return(key_in_order(key, items))
  parts <- trimws(strsplit(as.character(key), "[,;]")[[1]])
  form <- "^([^=]+?) *= *(.+)$"
  if (!all(grepl(form, parts, perl = TRUE))) {
    abort_usage(
      problem("A key is written ITEM=ANSWER, not \"%s\".", parts[!grepl(form, parts, perl = TRUE)][1]),
      "For example q1=B,q2=D."
    )
  }
  stats::setNames(sub(form, "\\2", parts, perl = TRUE), sub(form, "\\1", parts, perl = TRUE))
}

key_in_order <- function(key, items) {
  answers <- strsplit(trimws(key), "[,; ]+")[[1]]
  if (length(answers) == 1L) answers <- strsplit(answers, "")[[1]]
  if (length(answers) != length(items)) {
    abort_usage(
      problem("The key has %d answers for %d items.", length(answers), length(items)),
      "Give one answer for each item, in their order, or name the items: q1=B,q2=D."
    )
  }
  stats::setNames(answers, items)
}

#' @param options A list: `reverse` (names), `omitted`, `not_reached` (codes).
#' @noRd
item_scores <- function(study, name, key, options) {
  reverse <- options$reverse
  raw <- trimws(as.character(words_of(study_column(study, name))))
  omitted <- raw %in% as.character(options$omitted)
  not_reached <- raw %in% as.character(options$not_reached)
  scores <- answer_scores(study, name, key, reverse, raw, omitted | not_reached)
  scores[omitted] <- 0
  scores[not_reached] <- NA_real_
  scores
}

answer_scores <- function(study, name, key, reverse, words, apart) {
  if (name %in% names(key)) {
    if (!key[[name]] %in% words) {
      kinds <- sort(unique(words[!is.na(words) & nzchar(words)]), method = "radix")
      abort_input(
        problem("Nobody answered \"%s\" to %s, which the key calls right.", key[[name]], name),
        problem("The answers are %s.", some_values(kinds))
      )
    }
    return(ifelse(is.na(words) | !nzchar(words), NA_real_, as.double(words == key[[name]])))
  }
  if (level_of(study, name) == "nominal") {
    abort_input(
      problem("%s contains words without an order.", name),
      "Give its right answer in the key, or the order of its words."
    )
  }
  values <- study_numbers(study, name)$values
  values[apart] <- NA_real_
  if (name %in% reverse) sum(range(values, na.rm = TRUE)) - values else values
}
