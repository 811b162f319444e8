# Answers in words that a reader without statistics follows.

#' Cautions worth a place beside the answer; a bend that the line has met is none
#' @param answer A list: `relation`, `line` (or `NULL`).
#' @noRd
grave_cautions <- function(answer) {
  told <- answer$relation$cautions
  bent <- !is.null(answer$line) && answer$line$shape != "linear"
  told[told$severity != "note" & !(bent & told$code == "curved"), ]
}

#' Direction, size in units, certainty, and what to keep in mind
#' @noRd
plain_answer <- function(answer) {
  relation <- answer$relation
  if (takes_groups(relation)) return(plain_groups(answer))
  variables <- relation$sample$variables
  x <- inside_of(variables, relation$x)
  y <- inside_of(variables, relation$y)
  held <- held_words(relation)
  grave <- grave_cautions(answer)
  curve <- grave$figures[grave$code == "curved" & grave$severity == "serious"]
  if (length(curve)) {
    return(say(
      "%s and %s go together in a curve, not in a line: it explains %s %% of the variance of %s%s.", capital(x), y,
      percent(round(curve[[1]]$explained, 2)), y, held
    ))
  }
  if (!is_clear(relation)) {
    none <- say("These data show no clear tie between %s and %s%s", x, y, held)
    most <- max(abs(c(relation$ci_low, relation$ci_high)))
    if (is.na(most) || most >= relation$scale$cuts[1]) {
      return(paste0(none, "; ", room_left(relation)))
    }
    return(say("%s, and leave room for r of %s at most.", none, format_r(most, digits_for(relation))))
  }
  if (any(grave$code == "shared_trend" & grave$severity == "serious")) return(shared_trend_answer(relation, x, y))
  keep <- if (nrow(grave)) paste(
    say("Keep in mind:"),
    words_of_cautions(grave[1, ], variables, door_page())$evidence
  ) else ""
  size <- say("The tie is %s by %s and clear of chance.", strength_told(relation), relation$scale$source)
  trimws(paste(plain_direction(answer, x, y), size, keep))
}

#' Of groups: whether they differ, how far, and what to keep in mind
#' @noRd
plain_groups <- function(answer) {
  relation <- answer$relation
  grave <- grave_cautions(answer)
  size <- say("The association is %s by %s.", strength_told(relation), relation$scale$source)
  paste(c(
    paste0(capital(claim_of_groups(relation)), "."), if (is_clear(relation)) size,
    if (nrow(grave)) c(
      say("Keep in mind:"), words_of_cautions(grave[1, ], relation$sample$variables, door_page())$evidence
    )
  ), collapse = " ")
}

plain_direction <- function(answer, x, y) {
  relation <- answer$relation
  if (!is.null(relation$groups)) return(paste0(capital(group_claim(relation)), "."))
  way <- if (relation$r > 0) say("higher") else say("lower")
  say("Higher %s went with %s %s%s%s.", x, way, y, held_words(relation), size_in_units(answer$line))
}

shared_trend_answer <- function(relation, x, y) {
  way <- if (relation$r > 0) say("the same way") else say("opposite ways")
  say(
    paste(
      "%s and %s went %s over time, but a trend in each is enough for that: what is left when the trends are taken out",
      "does not go together. Do not read r = %s as a tie between them."
    ),
    capital(x), y, way, format_r(relation$r)
  )
}

size_in_units <- function(line) {
  if (is.null(line) || line$shape == "quadratic") return("")
  variables <- line$sample$variables
  linear <- line$shape == "linear"
  step <- line$terms$estimate[2] * if (linear) 1 else log(2)
  size <- paste0(format_number(abs(step)), unit_after(variables, line$y), if (step > 0) say(" more") else say(" less"))
  each <- if (linear) say("for each additional %s", unit_or_one(variables, line$x)) else say("with each doubling")
  say(": on average %s %s", size, each)
}

plain_verdict <- function(flags) {
  if (is.na(flags$verdict)) return(NULL)
  variables <- flags$relation$sample$variables
  text <- c(
    holds = say("%s and %s move together from period to period, not only because both drift."),
    weakened = say("Whether %s and %s go together beyond their drift is uncertain."),
    "cannot tell" = say("%s and %s drift together; whether more ties them cannot be told."),
    "trend only" = say("%s and %s both drift over time; nothing more ties them here."),
    "between units" = say("%s and %s go together between units, not clearly from period to period within one."),
    "no relation" = say("%s and %s show no clear tie over time."),
    "too little data" = say("%s and %s cover too few periods to tell.")
  )
  capital(say(text[[flags$verdict]], inside_of(variables, flags$x), inside_of(variables, flags$y)))
}

strength_told <- function(relation) say(strength_word(relation$r, relation$scale, digits_for(relation)))

# What the interval leaves open, by the words for size; one side alone where the other is next to nothing.
room_left <- function(relation) {
  if (is.na(relation$ci_low)) return(say("a small one in either direction cannot be ruled out."))
  digits <- digits_for(relation)
  size <- function(r) say(vapply(r, strength_word, "", relation$scale, digits))
  ends <- c(relation$ci_low, relation$ci_high)
  open <- vapply(ends, strength_word, "", relation$scale, digits) != relation$scale$below
  if (all(open) && size(ends[1]) == size(ends[2])) {
    return(say("a %s one in either direction cannot be ruled out.", size(ends[1])))
  }
  words <- say("a %s %s one", size(ends), say(c("negative", "positive")))[open]
  say("%s cannot be ruled out.", paste(words, collapse = say(" or ")))
}
