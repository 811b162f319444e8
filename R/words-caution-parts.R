# Parts of sentences that several cautions share.

doubt_label <- function(doubt, name) inside_of(doubt$variables, name)

# Entries of a codebook, and those of other variables that are spoken of.
with_others <- function(variables, labels) {
  labels <- labels[setdiff(names(labels), variables$variable)]
  further <- variables[rep(NA_integer_, length(labels)), ]
  further$variable <- names(labels)
  further$label <- unname(labels)
  rbind(variables, further)
}

#' What a further variable is called inside a sentence
#' @noRd
other_inside <- function(figures, name) {
  label <- attr(figures, "labels")[name]
  if (is.null(label) || is.na(label)) name else small_inside(unname(label))
}

# A case that has a mere number for its name.
case_inside <- function(names) ifelse(grepl("^[0-9]+$", names), sprintf(say("case %s"), names), names)

list_some <- function(names, of, most = 4L) {
  if (length(names) == of) return(say("all %d of them", of))
  more <- length(names) - most
  paste0(paste(utils::head(names, most), collapse = ", "), if (more > 0) say(" and %d more", more))
}

# What stands in a difference goes with it, or against it, by itself.
gain_words <- function(f, d, part) {
  other <- if (is.na(f$other)) say("another measurement") else doubt_label(d, f$other)
  c(
    say(
      if (f$against) {
        "%s is %s; a difference goes against what it is taken from by itself."
      } else {
        "%s is %s; a difference goes with what it is taken from by itself."
      },
      capital(doubt_label(d, f$whole)),
      if (f$named) {
        say("by its name a difference that %s is in", part)
      } else {
        say("the difference of %s and %s", part, other)
      }
    ),
    if (is.na(f$other)) {
      say("Next: relate the two measurements themselves.")
    } else {
      say("Next: relate the two measurements themselves: relate %s %s.", f$part, f$other)
    }
  )
}

ratio_words <- function(f, d) {
  top <- doubt_label(d, f$top)
  base <- doubt_label(d, f$base)
  made <- if (isTRUE(f$change)) {
    say("the change from %s to %s as a share of the first", base, top)
  } else if (f$power == 1) {
    say("%s divided by %s", top, base)
  } else if (f$power == 2) {
    say("%s divided by the square of %s", top, base)
  } else {
    say("%s times %s", top, base)
  }
  c(
    say("%s is %s; what it is made of goes with it, or against it, by itself.", capital(doubt_label(d, f$whole)), made),
    say("Next: relate the two measurements themselves: relate %s %s.", f$top, f$base)
  )
}

share_words <- function(f, d) {
  others <- if (length(f$with) == 1L) doubt_label(d, f$with) else say("%d others", length(f$with))
  c(
    say(
      "%s, %s and %s add up to %s in every case: where one is more, the others are less by themselves.",
      capital(doubt_label(d, f$whole)), doubt_label(d, f$part), others, format_number(f$sum, 6)
    ),
    say("Next: relate ratios of them, which the sum does not bind: derive(ratio = \"%s / %s\").", f$whole, f$part)
  )
}

base_words <- function(f, d) {
  base <- doubt_label(d, f$base)
  say(
    if (f$stands) {
      "Both are divided by %s. The counts, with it held constant, have r = %s (%s): it alone does not make them go together."
    } else {
      "Both are divided by %s, which makes them go together by itself: the counts, with it held constant, have r = %s (%s)."
    },
    base, format_r(f$held), format_p_clause(f$p)
  )
}

place_words <- function(f) {
  c(
    say(
      paste(
        "Places near each other (%s, %s) are alike in both (r with the nearest %s and %s): %d cases say as much as %d drawn",
        "one by one."
      ),
      f$places[1], f$places[2], format_r(f$near_x), format_r(f$near_y), as.integer(f$n),
      as.integer(max(2, round(f$effective)))
    ),
    say("p and interval are too good: what is near each other may be alike for one reason.")
  )
}

edge_words <- function(f, d) {
  if (f$bound) {
    below <- f$weights[1] > 0
    return(c(
      say(
        "%s is never above %s, and cases crowd up to where both are equal.",
        capital(doubt_label(d, if (below) d$y else d$x)), doubt_label(d, if (below) d$x else d$y)
      ),
      say("A bound makes two go together by itself. Next: relate the one to the share that the other is of it.")
    ))
  }
  c(
    say("No case lies where %s, and cases crowd up to there: were they chosen by both together?", edge_sum(f, d)),
    say(
      paste(
        "If so they are %s %% of all, in whom r is about %s (%s): r of the chosen is another. Ask how cases came into the",
        "file."
      ),
      percent(round(f$share, 2)), format_r(f$r), format_p_clause(f$p)
    )
  )
}

# Beyond which sum no case lies: "entrance test + 0.48 x interview is below 115".
edge_sum <- function(f, d) {
  weights <- f$weights * sign(f$weights[1])
  term <- function(weight, name) {
    label <- doubt_label(d, name)
    if (abs(weight) == 1) label else paste(format_number(abs(weight), 2), glyphs()$times, label)
  }
  say(
    if (f$weights[1] > 0) "%s %s %s is below %s" else "%s %s %s is above %s", term(weights[1], d$x),
    if (weights[2] > 0) "+" else glyphs()$minus, term(weights[2], d$y), format_number(f$at * sign(f$weights[1]), 3)
  )
}

third_words <- function(f, d) {
  c(
    say(
      "%s goes with both; with it held constant nothing clear is left, r = %s (%s).", capital(doubt_label(d, f$third)),
      format_r(f$partial), format_p_clause(f$p)
    ),
    say("It may lie behind both, or between them: no file tells which.")
  )
}

bent_words <- function(f, d) {
  other <- if (f$made == d$x) d$y else d$x
  c(
    say("%s is the %s of %s, or a linear copy of that.", capital(doubt_label(d, f$made)), say(f$by), doubt_label(d, other)),
    say("This r says nothing about the world. Next: leave one of them out.")
  )
}
