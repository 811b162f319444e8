# Answers in words that a reader without statistics follows.

#' Cautions worth a place beside the answer; a bend that the line has met is none
#' @param answer A list: `relation`, `line` (or `NULL`).
#' @noRd
grave_cautions <- function(answer) {
  cautions <- answer$relation$cautions
  bent <- !is.null(answer$line) && answer$line$shape != "linear"
  cautions[cautions$severity != "note" & !(bent & cautions$code == "curved"), ]
}

#' Direction, size in units, certainty, and what to keep in mind
#' @noRd
plain_answer <- function(answer) {
  relation <- answer$relation
  if (takes_groups(relation)) return(plain_groups(answer))
  variables <- relation$sample$variables
  x <- inside_of(variables, relation$x)
  y <- inside_of(variables, relation$y)
  controls <- held_words(relation)
  grave <- grave_cautions(answer)
  curve <- grave$figures[grave$code == "curved" & grave$severity == "serious"]
  if (length(curve)) {
    return(say(
      "%s and %s have a curvilinear relationship: the curve explains %s%% of the variance of %s%s.", begin(x, variables), y,
      percent(round(curve[[1]]$explained, 2)), y, controls
    ))
  }
  if (!is_clear(relation)) {
    none <- begin(say("%s and %s were not significantly correlated%s", x, y, controls), variables)
    most <- max(abs(c(relation$ci_low, relation$ci_high)))
    if (is.na(most) || most >= relation$scale$cuts[1]) {
      return(paste0(none, "; ", room_left(relation)))
    }
    return(say("%s; the interval excludes correlations larger than %s.", none, format_r(most, digits_for(relation))))
  }
  if (any(grave$code == "shared_trend" & grave$severity == "serious")) return(shared_trend_answer(relation, x, y))
  met <- grave$code %in% met_cautions(relation)
  other <- grave[!met, ]
  keep <- c(if (any(met)) dependence_clause(relation, whole = TRUE), if (nrow(other)) paste(
    say("Caution:"),
    words_of_cautions(other[1, ], variables, door_page())$evidence
  ))
  size <- say("The correlation is %s by %s and statistically significant.", strength_told(relation), relation$scale$source)
  paste(c(plain_direction(answer, x, y), size, keep), collapse = " ")
}

#' Of groups: whether they differ, how far, and what to keep in mind
#' @noRd
plain_groups <- function(answer) {
  relation <- answer$relation
  grave <- grave_cautions(answer)
  size <- say("The association is %s by %s.", strength_told(relation), relation$scale$source)
  paste(c(
    paste0(begin(claim_of_groups(relation), relation$sample$variables), "."), if (is_clear(relation)) size,
    if (nrow(grave)) c(
      say("Caution:"), words_of_cautions(grave[1, ], relation$sample$variables, door_page())$evidence
    )
  ), collapse = " ")
}

plain_direction <- function(answer, x, y) {
  relation <- answer$relation
  if (!is.null(relation$groups)) return(paste0(begin(group_claim(relation), relation$sample$variables), "."))
  say(
    if (relation$r > 0) {
      "Higher values of %s were associated with higher values of %s%s%s."
    } else {
      "Higher values of %s were associated with lower values of %s%s%s."
    },
    x, y, held_words(relation), size_in_units(answer$line)
  )
}

shared_trend_answer <- function(relation, x, y) {
  way <- if (relation$r > 0) say("in the same direction") else say("in opposite directions")
  say(
    paste(
      "%s and %s moved %s over time, but a trend in each is enough to explain that, and beyond it there is too",
      "little evidence of a correlation. Do not interpret r = %s as a relationship."
    ),
    begin(x, relation$sample$variables), y, way, format_r(relation$r)
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
    holds = say("%s and %s are correlated from period to period, beyond their trends."),
    weakened = say("Whether %s and %s are correlated beyond their trends is uncertain."),
    "cannot tell" = say("%s and %s share a trend; whether they are correlated beyond it cannot be told."),
    "trend only" = say("%s and %s share a trend; there is too little evidence of a correlation beyond it."),
    "between units" = say("%s and %s are correlated between units, but not significantly over time within units."),
    "no relation" = say("%s and %s are not significantly correlated over time."),
    "too little data" = say("%s and %s cover too few periods.")
  )
  begin(say(text[[flags$verdict]], inside_of(variables, flags$x), inside_of(variables, flags$y)), variables)
}

strength_told <- function(relation) say(strength_word(relation$r, relation$scale, digits_for(relation)))

# What the interval leaves open, by the words for size; one side alone where the other is next to nothing.
room_left <- function(relation) {
  if (is.na(relation$ci_low)) return(say("a small correlation in either direction cannot be ruled out."))
  digits <- digits_for(relation)
  size <- function(r) say(vapply(r, strength_word, "", relation$scale, digits))
  ends <- c(relation$ci_low, relation$ci_high)
  open <- vapply(ends, strength_word, "", relation$scale, digits) != relation$scale$below
  if (all(open) && size(ends[1]) == size(ends[2])) {
    return(say("a %s correlation in either direction cannot be ruled out.", size(ends[1])))
  }
  words <- say("a %s %s correlation", size(ends), say(c("negative", "positive")))[open]
  say("%s cannot be ruled out.", paste(words, collapse = say(" or ")))
}
