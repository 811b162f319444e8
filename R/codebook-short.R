# Short labels: what a sentence, a title or an axis calls a variable whose label is a whole question.
# How questions begin stands in inst/words/questions.yml.

known_questions <- new.env(parent = emptyenv())

known_wording <- function() {
  if (is.null(known_questions$words)) {
    words <- read_word_file(system.file("words", "questions.yml", package = "unsere", mustWork = TRUE))
    words[c("breaks", "ends")] <- strsplit(unlist(words[c("breaks", "ends")]), " ", fixed = TRUE)
    known_questions$words <- words
  }
  known_questions$words
}

#' What a variable is called in prose, on an axis and in a table: its short label where it has one, else its label, else its
#' name
#' @noRd
display_label <- function(book, names) {
  at <- match(names, book$variable)
  label <- book$label[at]
  short <- or_default(book$short, rep(NA_character_, length(book$label)))[at]
  out <- ifelse(is.na(short), label, short)
  ifelse(is.na(out), names, out)
}

#' A name as it is typed in a call: the short label of a name that is a whole question, or begins with its number
#' @noRd
name_to_type <- function(book, names) {
  ifelse(needs_short(names) | is_numbered(names), display_label(book, names), names)
}

# A label up to this width, in characters, is used as it stands.
short_width <- 32L

#' Whether a label is a whole question, tells the codes of its answers, or is too long for a sentence and an axis
#' @noRd
needs_short <- function(labels) {
  asks <- grepl("[?\u061f\uff1f]\\W*$", labels) & lengths(strsplit(labels, " ", fixed = TRUE)) > 2L
  coded <- grepl("[(\\[][^()]*[0-9] ?[=:] ?[^()]*[)\\]]$", labels, perl = TRUE)
  nchar(labels, "width") > short_width | asks | coded
}

# Whether labels begin with the number of their question; most have no number in front, and the words are not read for them.
is_numbered <- function(labels) {
  may <- grepl("^[[:alpha:]]{0,8}[. ]?[0-9]+[a-z]?[ _.:)-]", labels, ignore.case = TRUE)
  if (any(may)) may[may] <- grepl(known_wording()$numbering, labels[may], perl = TRUE, ignore.case = TRUE)
  may
}

#' Short labels for the labels that need one: the part of an item after the question it shares with others, a question
#' without its opening words, at most about thirty characters, each different from every other label
#' @param labels The label of each variable, or its name where it has none.
#' @param given Short labels that were given, `NA` for the others.
#' @return For each variable its short label, `NA` where the label itself is short.
#' @noRd
propose_short <- function(labels, given = rep(NA_character_, length(labels))) {
  need <- needs_short(labels)
  # Where some lose the number of their question, all do.
  numbered <- is_numbered(labels)
  open <- which(is.na(given) & (need | numbered & any(need & numbered)))
  if (!length(open)) return(given)
  texts <- plain_question(labels)
  whole <- vapply(item_part(texts)[open], without_opening, "", USE.NAMES = FALSE)
  whole <- shared_beginning(whole)
  taken <- tolower(c(given[!is.na(given)], labels[-open]))
  given[open] <- told_apart(cut_label(whole), whole, taken)
  # What is no shorter than the label says nothing new.
  same <- open[given[open] == labels[open]]
  given[same] <- NA
  given
}

#' A label without the number of its question, remarks in brackets, marks of a field that must be filled, and with blanks
#' where a program put points or bars
#' @noRd
plain_question <- function(labels) {
  joined <- !grepl(" ", labels, fixed = TRUE) & lengths(regmatches(labels, gregexpr("[._]+", labels))) >= 4L
  labels[joined] <- gsub("[._]+", " ", labels[joined])
  labels <- gsub("\\s+", " ", trimws(labels))
  labels <- sub(known_wording()$numbering, "", labels, perl = TRUE, ignore.case = TRUE)
  labels <- gsub("^[\"'\u201c\u201e\u00ab*]+|[\"'\u201d\u201c\u00bb*]+$", "", trimws(labels))
  coded <- " *\\[[^][]*[0-9] ?[=:][^][]*\\]"
  bare <- trimws(gsub(coded, "", gsub(" *\\([^()]*\\)", "", labels)))
  ifelse(nchar(bare) >= 3L, bare, labels)
}

#' "How far do you agree? - I like the class", "How far do you agree? [I like the class]": what stands behind a stem that at
#' least two labels share, or behind a whole question
#' @noRd
item_part <- function(texts) {
  patterns <- c(
    "^(.{8,}?[^ ]) ?\\[([^]]{2,})\\]$", "^(.{8,}?[?.]) [-\u2013\u2014:/]? ?(\\S.+)$",
    "^(.{8,}?) ?(?: [-\u2013\u2014|/]|:) (\\S.+)$"
  )
  parts <- texts
  stems <- rep(NA_character_, length(texts))
  for (pattern in patterns) {
    matched <- regmatches(texts, regexec(pattern, texts, perl = TRUE))
    at <- which(is.na(stems) & lengths(matched) == 3L)
    stems[at] <- vapply(matched[at], `[`, "", 2L)
    parts[at] <- vapply(matched[at], `[`, "", 3L)
  }
  shared <- stems %in% stems[duplicated(stems) & !is.na(stems)]
  asks <- grepl("[?]$", stems) & !grepl("[?]\\W*$", parts) & nchar(parts) <= 60L & !grepl("^[(]", parts)
  parts <- sub("^[-\u2013\u2014:|/]+ +", "", parts)
  # A first sentence that only leads up to the question goes.
  leads <- !is.na(stems) & grepl("[.?]$", stems) & grepl("[?]\\W*$", parts)
  keep <- !is.na(stems) & (shared | asks | leads)
  # What programs add to a question says nothing of it.
  added <- grepl("^(selected choices?|choices?|(open[- ]ended )?(response|answer)s?|value|auswahl|antwort)$", parts, TRUE)
  ifelse(added, stems, ifelse(keep, parts, texts))
}

#' "The school offers me good books", "The school offers me help": what three labels or more do not share, where they share
#' their first four words or more
#' @noRd
shared_beginning <- function(texts) {
  words <- strsplit(texts, " ", fixed = TRUE)
  first <- vapply(words, function(one) if (length(one) > 4L) paste(tolower(one[1:4]), collapse = " ") else NA_character_, "")
  out <- texts
  for (start in unique(first[duplicated(first) & !is.na(first)])) {
    at <- which(first == start)
    if (length(at) < 3L) next
    most <- min(lengths(words[at])) - 1L
    same <- vapply(seq_len(most), function(k) length(unique(tolower(vapply(words[at], `[`, "", k)))) == 1L, NA)
    shared <- if (all(same)) most else which(!same)[1] - 1L
    out[at] <- vapply(words[at], function(one) first_large(paste(one[-seq_len(shared)], collapse = " ")), "")
  }
  out
}

#' A question without its opening words
#' @noRd
without_opening <- function(text) {
  plain <- sub("[?:.!\u2026\uff1f ]+$", "", sub("^[\u00bf\u00a1 ]+", "", text))
  for (opener in known_wording()$openers) {
    if (!grepl(opener[[1]], plain, perl = TRUE, ignore.case = TRUE)) next
    rest <- trimws(sub(opener[[1]], opener[[2]], plain, perl = TRUE, ignore.case = TRUE))
    if (startsWith(rest, "@")) return(without_opening(substring(rest, 2L)))
    rest <- with_verbs(rest, opener, plain)
    return(first_large(sub(known_wording()$article, "", rest, perl = TRUE, ignore.case = TRUE)))
  }
  # A question that keeps its form keeps its mark.
  if (grepl("[?\uff1f]\\W*$", text)) text else first_large(plain)
}

#' The verbs of a short label: English ones in -ing, German ones at the end
#' @noRd
with_verbs <- function(rest, opener, plain) {
  if (!grepl("<", opener[[2]], fixed = TRUE)) return(rest)
  parts <- regmatches(plain, regexec(opener[[1]], plain, perl = TRUE, ignore.case = TRUE))[[1]][-1]
  if (grepl("<last", opener[[2]], fixed = TRUE)) {
    verb <- if (tolower(parts[1]) == "sind") "sein" else parts[1]
    return(paste(parts[2], tolower(verb)))
  }
  as_gerund(parts[1])
}

#' "come late": "coming late"
#' @noRd
as_gerund <- function(text) {
  words <- strsplit(text, " ", fixed = TRUE)[[1]]
  # An adverb before its verb stays where it is.
  at <- if (length(words) > 1L && grepl("^(\\w{3,}ly|ever|never|also|still)$", words[1])) 2L else 1L
  verb <- words[at]
  words[at] <- if (grepl("ie$", verb)) {
    sub("ie$", "ying", verb)
  } else if (grepl("[^aeoiy]e$", verb)) {
    sub("e$", "ing", verb)
  } else if (grepl("^[^aeiou]*[aeiou][bdgklmnprt]$|[^aeiou]el$", verb)) {
    paste0(verb, substring(verb, nchar(verb)), "ing")
  } else {
    paste0(verb, "ing")
  }
  paste(words, collapse = " ")
}

#' Texts of at most about thirty characters: up to a mark, else up to a word before which one may stop, else with a sign that
#' something was cut
#' @noRd
cut_label <- function(texts, room = short_width) {
  vapply(texts, function(text) {
    known <- known_wording()
    states <- grepl(known$statement, text, perl = TRUE, ignore.case = TRUE)
    if (nchar(text, "width") > room && !states) text <- gsub(known$filler, "\\1 ", text, perl = TRUE)
    if (nchar(text, "width") <= room) return(text)
    words <- strsplit(text, " ", fixed = TRUE)[[1]]
    wide <- cumsum(nchar(words, "width") + 1L) - 1L
    mark <- which(grepl("[,;:]$", words) & wide <= room + 1L & wide >= 12L)
    if (length(mark) && !states) return(sub("[,;:]$", "", paste(words[seq_len(max(mark))], collapse = " ")))
    starts <- which(tolower(words) %in% known$breaks) - 1L
    starts <- starts[starts > 0L]
    # "Party you vote for | in the last election": two such words, and the first belongs to what stands before.
    after <- tolower(words[starts + 1L])
    dangling <- tolower(words[starts]) %in% known$breaks & after %in% c("in", "at", "on", "during", "by")
    starts <- starts[wide[starts] <= room & wide[starts] >= 14L & (dangling | !tolower(words[starts]) %in% known$ends)]
    if (length(starts) && !states) return(paste(words[seq_len(max(starts))], collapse = " "))
    # A word or two beyond the room are better than a label that breaks off.
    if (nchar(text, "width") <= room + 6L) return(text)
    last <- max(c(0L, which(wide <= room - 1L)))
    while (last > 1L && tolower(words[last]) %in% known$ends) last <- last - 1L
    short <- if (last) paste(words[seq_len(last)], collapse = " ") else strtrim(text, room - 1L)
    paste0(sub("[,;:.]+$", "", short), "\u2026")
  }, "", USE.NAMES = FALSE)
}

#' Labels that would be alike get longer, then a number
#' @noRd
told_apart <- function(short, whole, taken) {
  alike <- function() tolower(short) %in% c(taken, tolower(short)[duplicated(tolower(short))])
  for (room in c(44L, 60L)) if (any(alike())) short[alike()] <- cut_label(whole[alike()], room)
  numbered <- make.unique(c(taken, tolower(short)), " ")[length(taken) + seq_along(short)]
  paste0(short, substring(numbered, nchar(short) + 1L))
}
