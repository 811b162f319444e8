# Columns of words that have an order: as declared, or as their words tell.

#' The order that an entry declares: `Never < Rarely < Often`, `1 = Never < 2 = Rarely`, and after a semicolon the words that
#' stand apart as no answer
#'
#' @return A list: `order`, `codes` (or `NULL`), `apart`.
#' @section Errors: `unsere_error_input` where a word stands twice, or only some have codes.
#' @noRd
parse_order <- function(text, name) {
  parts <- split_order(text)
  words <- parts$words
  coded <- "^(-?[0-9]+([.][0-9]+)?) *(?:= *(.+))?$"
  codes <- NULL
  if (any(grepl("^-?[0-9.]+ *=", words))) {
    if (!all(grepl(coded, words, perl = TRUE))) abort_values(name, text, "some of its words have a code and some have none")
    codes <- as.numeric(sub(coded, "\\1", words, perl = TRUE))
    labels <- sub(coded, "\\3", words, perl = TRUE)
    words <- ifelse(nzchar(labels), labels, format_code(codes))
  }
  if (length(words) < 2L || any(!nzchar(words))) abort_values(name, text, "an order takes two words or more")
  if (anyDuplicated(words) || anyDuplicated(codes)) abort_values(name, text, "a word or a code stands in it twice")
  if (is.unsorted(codes)) abort_values(name, text, "its codes do not rise")
  list(order = words, codes = codes, apart = parts$apart)
}

#' The words of an order, and those after a semicolon; a word that holds such a mark itself stands in quotes
#' @noRd
split_order <- function(text) {
  quotes <- gregexpr("(?<![^ <;=])\"[^\"]*\"(?![^ <;])", text, perl = TRUE)
  quoted <- regmatches(text, quotes)[[1]]
  marks <- sprintf("\001%d\001", seq_along(quoted))
  regmatches(text, quotes) <- list(marks)
  back <- function(words) {
    words <- trimws(words)
    for (k in seq_along(marks)) words <- sub(marks[k], substr(quoted[k], 2L, nchar(quoted[k]) - 1L), words, fixed = TRUE)
    words
  }
  parts <- strsplit(text, ";", fixed = TRUE)[[1]]
  words <- strsplit(parts[1], "<", fixed = TRUE)[[1]]
  # Answers such as "<1 year": the marks between words are those with blanks on both sides.
  if (any(!nzchar(trimws(words)))) words <- strsplit(parts[1], "[ ]+<[ ]+")[[1]]
  list(words = back(words), apart = back(parts[-1]))
}

#' Words as they stand in an order
#' @noRd
spell_words <- function(words) ifelse(grepl("[<;]|^-?[0-9.]+ *=", words), sprintf("\"%s\"", words), words)

abort_values <- function(name, text, why) {
  abort_input(
    problem("The order of %s, \"%s\", cannot be used: %s.", name, text, why),
    "Write the categories lowest first: Never < Rarely < Often; non-answers after a semicolon."
  )
}

spell_values <- function(order) {
  words <- spell_words(order$order)
  if (!is.null(order$codes)) {
    words <- paste0(format_code(order$codes), ifelse(nzchar(order$labels), paste(" =", spell_words(order$labels)), ""))
  }
  paste(c(paste(words, collapse = " < "), spell_words(order$apart)), collapse = "; ")
}

format_code <- function(codes) format(codes, trim = TRUE, digits = 15)

#' A column in a declared order
#' @section Errors: `unsere_error_input` where it holds words outside the order.
#' @noRd
declared_order <- function(column, text, name) {
  order <- parse_order(text, name)
  plain <- if (is.numeric(column)) format_code(column) else trimws(as.character(column))
  plain[is.na(column)] <- NA
  known <- c(order$order, if (!is.null(order$codes)) format_code(order$codes))
  place <- (match(plain, known) - 1L) %% length(order$order) + 1L
  if (all(is.na(place))) place <- match(bare_words(plain), bare_words(order$order))
  apart <- plain %in% order$apart
  outside <- unique(plain[!is.na(plain) & is.na(place) & !apart])
  if (length(outside)) {
    abort_input(
      problem("%s holds %s, which its order leaves out.", name, some_values(outside)),
      "Add it to the order, or after a semicolon as no answer."
    )
  }
  values <- if (is.null(order$codes)) factor(order$order[place], order$order, ordered = TRUE) else order$codes[place]
  list(values = values, apart = sum(apart))
}

#' The columns whose words tell their order
#'
#' @param kinds The different words of each column that may be put in order, `NULL` where they are many.
#' @return A named list, an entry a column: as from `order_scale()`.
#' @noRd
find_orders <- function(kinds) {
  kinds <- Filter(Negate(is.null), kinds)
  of_batteries(Filter(Negate(is.null), lapply(kinds, order_known)), kinds)
}

# Different words of a column where they are few and short: names and free answers have no order.
few_words <- function(column) {
  if (length(unique(utils::head(column, 500L))) > 25L) return(NULL)
  words <- unique(column)
  words <- words[!is.na(words) & nzchar(trimws(words))]
  # What comes once only names a case.
  if (sum(!is.na(column)) <= length(words)) return(NULL)
  if (length(words) >= 2L && length(words) <= 15L && max(nchar(words)) <= 80L) words
}

#' Columns of one battery share its words: what one of them lacks, another has
#' @noRd
of_batteries <- function(orders, kinds) {
  sound <- Filter(function(one) !is.null(one$order) && is.null(one$codes), orders)
  for (name in names(sound)) {
    like <- names(Filter(function(one) {
      one$family == sound[[name]]$family && mean(sound[[name]]$order %in% one$order) >= 0.5
    }, sound))
    if (length(like) < 2L) next
    together <- order_known(unique(unlist(kinds[like])))
    if (is.null(together$order) || !is.null(together$codes)) next
    orders[[name]]$order <- together$order
  }
  # Two or three words of a known set take its order.
  for (name in setdiff(names(kinds), names(orders))) {
    answers <- kinds[[name]][!stand_apart(kinds[[name]])]
    whole <- Find(function(one) length(answers) >= 2L && all(answers %in% one$order), orders[names(sound)])
    if (!is.null(whole)) orders[[name]] <- whole
  }
  orders
}

#' A column of words as found: an ordered factor, or the numbers that its words carry
#' @noRd
found_order <- function(column, order) {
  if (!is.null(order$codes)) return(order$codes[match(column, order$order)])
  # As factor() would make it, in one pass: what is no answer is not in the order.
  structure(match(column, order$order), levels = order$order, class = c("ordered", "factor"))
}

#' What is said of an order that was found, ready to be changed
#' @noRd
order_sentence <- function(names, order) {
  more <- if (length(names) > 6L) template(" and %d more", length(names) - 5L)
  who <- joined(toString(if (is.null(more)) names else names[1:5]), more)
  stem <- unique(question_of(names))
  if (length(names) > 2L && length(stem) == 1L && nchar(stem) > 8L) who <- template("%s (%d items)", stem, length(names))
  if (is.null(order$order)) {
    both <- vapply(order$readings, paste, "", collapse = " < ")
    return(template(
      "%s: words with more than one possible order (%s); choose one: values: \"%s\"", who, paste(both,
        collapse = "; or "
      ), both[1]
    ))
  }
  template(
    "%s: in the order %s%s%s", who, spell_values(order[names(order) != "apart"]),
    if (length(order$apart)) template("; no answer: %s", paste(order$apart, collapse = ", ")) else "",
    if (isTRUE(order$either_way)) template("; the reverse order is as likely") else ""
  )
}

#' The columns of words in their order
#'
#' @param known The entries of a codebook; `orders_given` orders given beside it, by variable.
#' @return A list: `columns`, `values` (the orders as text, by variable), `apart` (words that are no answer in columns
#'   without an order), `decisions`.
#' @noRd
order_words <- function(columns, known, orders_given = NULL) {
  declared <- stats::setNames(known$values, known$variable)
  declared <- declared[!is.na(declared)]
  declared[names(orders_given)] <- orders_given
  decisions <- values <- NULL
  for (name in intersect(names(declared), names(columns))) {
    orders <- declared_order(columns[[name]], declared[[name]], name)
    columns[[name]] <- with_words(orders$values, columns[[name]])
    values[name] <- declared[[name]]
    if (orders$apart) decisions <- c(decisions,
      order = about(template("%s: %s no answer", name, counted(orders$apart, "cell")), name)
    )
  }
  settled <- known$variable[known$level %in% c("nominal", "binary") | known$role %in% c("case", "group", "time")]
  open <- setdiff(names(columns)[vapply(columns, is.character, NA)], c(names(declared), settled))
  kinds <- lapply(columns[open], few_words)
  two <- yes_or_no(kinds)
  orders <- find_orders(kinds[setdiff(open, names(two))])
  apart <- c(two, words_refused(kinds[setdiff(open, c(names(two), names(orders)))]))
  for (name in names(apart)) {
    columns[[name]][columns[[name]] %in% apart[[name]]] <- NA
    notes <- template("%s: no answer: %s", name, paste(apart[[name]], collapse = ", "))
    decisions <- c(decisions, order = about(notes, name))
  }
  for (name in names(orders)) {
    if (is.null(orders[[name]]$order)) next
    columns[[name]] <- with_words(found_order(columns[[name]], orders[[name]]), columns[[name]])
    values[name] <- spell_values(orders[[name]])
  }
  same <- vapply(orders, function(order) in_english(order_sentence("%s", order)), "")
  for (one in unique(same)) {
    decisions <- c(decisions, order = order_sentence(names(orders)[same == one], orders[[match(one, same)]]))
  }
  list(columns = columns, values = values, apart = apart, decisions = decisions)
}

# Groups without an order, beside which stand words that say that the person did not answer: those words, by column.
words_refused <- function(kinds) {
  kinds <- Filter(function(words) length(words) > 2L, kinds)
  if (!length(kinds)) return(NULL) # the words of scales are not read for nothing
  refusals <- unlist(lapply(scale_words(), `[[`, "refused"))
  Filter(length, lapply(kinds, function(words) {
    out <- words[bare_words(words) %in% refusals]
    if (length(words) - length(out) >= 2L) out
  }))
}

# Columns of a yes and a no, beside which stand words that are no answer: those words, by column.
yes_or_no <- function(kinds) {
  Filter(Negate(is.null), lapply(kinds, function(words) {
    apart <- if (length(words) > 2L) words[stand_apart(words)]
    if (length(apart) && length(words) - length(apart) == 2L && !is.null(order_of_answers(setdiff(words, apart)))) apart
  }))
}

# The words as they came stay with the column, so that another order can still be given.
with_words <- function(values, words) {
  if (is.ordered(values)) attr(values, "words") <- as.character(words)
  values
}

words_of <- function(column) {
  words <- attr(column, "words", exact = TRUE)
  if (length(words) == length(column)) words else if (is.factor(column)) as.character(column) else column
}

#' Orders given beside a file: `q1=Never < Rarely | q2=...` as text, or a named vector
#' @section Errors: `unsere_error_usage` where a part names no variable.
#' @noRd
parse_orders <- function(values) {
  if (is.null(values)) return(NULL)
  if (!is.null(names(values))) return(unlist(values))
  parts <- trimws(unlist(strsplit(as.character(values), "|", fixed = TRUE)))
  form <- "^([^=<]+?) *= *(.*<.*)$"
  if (!all(grepl(form, parts, perl = TRUE))) {
    abort_usage(
      problem("An order is written VARIABLE=low<...<high, not \"%s\".", parts[!grepl(form, parts, perl = TRUE)][1]),
      "For example --values \"q1=Never<Rarely<Often\"; several are separated by |."
    )
  }
  stats::setNames(sub(form, "\\2", parts, perl = TRUE), sub(form, "\\1", parts, perl = TRUE))
}

range_text <- function(ends) paste(format_code(ends), collapse = " to ")

# The least and the largest value as a codebook's range; of one end alone nothing is known.
ends_of <- function(low, high) {
  ends <- suppressWarnings(as.numeric(c(or_default(low, NA), or_default(high, NA))))
  if (length(ends) == 2L && !anyNA(ends) && ends[1] < ends[2]) range_text(ends) else NA_character_
}
