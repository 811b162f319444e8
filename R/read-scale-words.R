# The words of a scale against what is known of a language: fixed steps, or a stem with its strength and its denial.

known_words <- new.env(parent = emptyenv())

scale_words <- function() {
  if (is.null(known_words$languages)) {
    path <- system.file("words", "scales.json", package = "unsere", mustWork = TRUE)
    known_words$languages <- jsonlite::fromJSON(path, simplifyVector = FALSE)$languages
  }
  known_words$languages
}

#' All orders of some words in one language
#' @noRd
readings_in <- function(words, plain, language) {
  known <- scale_words()[[language]]
  readings <- function(score, family) {
    if (is.null(score) || anyNA(score) || anyDuplicated(score)) return(NULL)
    list(order = words[order(score)], family = family, language = language)
  }
  short <- without_fillers(plain, known)
  neutral <- matches_phrase(plain, known$neutral)
  fixed <- lapply(names(known$fixed), function(family) readings(score_fixed(plain, short, known$fixed[[family]]), family))
  poles <- lapply(names(known$poles), function(family) {
    poles <- known$poles[[family]]
    # Most families are none of them spoken of, which is seen at once.
    if (all(neutral | grepl(heads_of(unlist(poles)), plain, perl = TRUE))) readings(score_poles(plain, poles, known), family)
  })
  Filter(Negate(is.null), c(fixed, poles))
}

#' The step of each word among steps in a fixed order
#' @param short The words without fillers.
#' @noRd
score_fixed <- function(plain, short, steps) {
  phrases <- unlist(steps)
  place <- rep(seq_along(steps), lengths(steps))
  at <- match(plain, phrases)
  at <- ifelse(is.na(at), match(short, phrases), at)
  if (anyNA(at)) NULL else place[at]
}

without_fillers <- function(text, known) {
  fillers <- paste0("\\b(", paste(unlist(known$fillers), collapse = "|"), ")\\b")
  trimws(gsub("\\s+", " ", gsub(fillers, " ", text)))
}

#' The score of each word as a stem of two poles with strength and denial
#' @noRd
score_poles <- function(plain, poles, known) {
  parts <- lapply(plain, parse_word, poles = poles, known = known)
  if (any(vapply(parts, is.null, NA))) return(NULL)
  pole <- vapply(parts, `[[`, 0, "pole")
  strength <- vapply(parts, `[[`, 0, "strength")
  denied <- vapply(parts, `[[`, NA, "denied")
  if (!any(pole != 0)) return(NULL)
  two_sided <- any(pole < 0)
  score <- ifelse(pole == 0, if (two_sided) 0 else 1, pole * strength)
  # Denied, the upper pole lies under it; with a lower pole beside it, under the middle: "not very" just so, "not" and "not
  # at all" on either side of "rather dissatisfied" and of "dissatisfied".
  score[denied] <- if (two_sided) denied_places[as.character(strength[denied])] else strength[denied]
  score
}

denied_places <- c("0" = -3.5, "0.3" = -2.5, "0.6" = -0.5)

#' @return A list: `pole` (1, -1, 0 for the middle), `strength`, `denied`; or `NULL`.
#' @noRd
parse_word <- function(text, poles, known) {
  if (matches_phrase(text, known$neutral)) return(list(pole = 0, strength = 0, denied = FALSE))
  for (side in c("down", "up")) {
    phrases <- unlist(poles[[side]])
    for (phrase in phrases[order(-nchar(phrases))]) {
      rest <- rest_of(text, phrase)
      if (is.null(rest)) next
      read <- read_strength(rest, known, side)
      if (!is.null(read)) return(read)
    }
  }
  NULL
}

as_pattern <- function(phrase) gsub(" \\* ", " (.* )?", gsub("\\* *$", "(.*)", phrase))

matches_phrase <- function(texts, phrases) {
  phrases <- unlist(phrases)
  open <- grepl("*", phrases, fixed = TRUE)
  matches <- texts %in% phrases[!open]
  if (!any(open)) return(matches)
  matches | grepl(paste0("^(?:", paste(as_pattern(phrases[open]), collapse = "|"), ")$"), texts, perl = TRUE)
}

# What of each phrase stands there as it is: up to its star.
heads_of <- function(phrases) paste(unique(sub(" ?\\*.*$", "", phrases)), collapse = "|")

# What stands around, and within, a phrase; nothing where it is not there.
rest_of <- function(text, phrase) {
  # Most phrases are not there at all, which is seen at once.
  if (!grepl(heads_of(phrase), text, fixed = TRUE)) return(NULL)
  pattern <- paste0("^(.*\\b)?", as_pattern(phrase), "(\\b.*)?$")
  parts <- regmatches(text, regexec(pattern, text, perl = TRUE))[[1]]
  if (length(parts)) trimws(gsub("\\s+", " ", paste(parts[-1], collapse = " ")))
}

read_strength <- function(rest, known, side) {
  pole <- if (side == "up") 1 else -1
  if (!nzchar(rest)) return(list(pole = pole, strength = 3, denied = FALSE))
  for (form in unique(c(rest, without_fillers(rest, known)))) {
    if (!nzchar(form)) return(list(pole = pole, strength = 3, denied = FALSE))
    for (value in names(known$negation)) {
      if (side == "up" && matches_phrase(form, known$negation[[value]])) {
        return(list(pole = pole, strength = as.numeric(value), denied = TRUE))
      }
    }
    for (value in names(known$intensity)) {
      if (form %in% unlist(known$intensity[[value]])) return(list(pole = pole, strength = as.numeric(value), denied = FALSE))
    }
  }
  NULL
}
