# The options of multiple choice: who chose which, and how good the others of their items are.

#' What each option of a multiple choice drew, and whom
#' @noRd
option_table <- function(study, columns, key) {
  rows <- lapply(intersect(names(columns), names(key)), function(name) {
    answers <- answers_to_item(study, columns, name)
    words <- answers$words
    rest <- answers$rest
    kinds <- answers$kinds
    known <- answers$known
    data.frame(
      item = name, option = kinds, right = kinds == key[[name]],
      share = vapply(kinds, function(kind) mean(words[known] == kind), 0),
      rest = vapply(kinds, function(kind) r_or_na(as.double(words[known] == kind), rest[known]), 0), n = sum(known),
      row.names = NULL
    )
  })
  do.call(rbind, rows)
}

# The answers to an item as words, with the mean of the other items.
answers_to_item <- function(study, columns, name) {
  words <- trimws(as.character(words_of(study_column(study, name))))
  rest <- rowMeans(do.call(cbind, columns[setdiff(names(columns), name)]), na.rm = TRUE)
  given <- !is.na(words) & nzchar(words)
  list(words = words, rest = rest, kinds = sort(unique(words[given]), method = "radix"), known = given & is.finite(rest))
}

#' How often each option was chosen by each fifth of the persons, from the weakest to the strongest on the other items
#' @noRd
option_curves <- function(study, columns, key) {
  rows <- lapply(intersect(names(columns), names(key)), function(name) {
    answers <- answers_to_item(study, columns, name)
    rest <- answers$rest[answers$known]
    words <- answers$words[answers$known]
    if (length(rest) < 10L) return(NULL)
    # Equal scores stay together.
    fifth <- pmin(5L, as.integer(ceiling(rank(rest, ties.method = "average") / length(rest) * 5)))
    each <- expand.grid(option = answers$kinds, fifth = sort(unique(fifth)), stringsAsFactors = FALSE)
    each$share <- mapply(function(option, at) mean(words[fifth == at] == option), each$option, each$fifth)
    each$n <- tabulate(fifth, 5L)[each$fifth]
    data.frame(item = name, each, right = each$option == key[[name]], row.names = NULL)
  })
  do.call(rbind, rows)
}
