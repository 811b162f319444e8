# Parts of sentences that several cautions share.

doubt_label <- function(doubt, name) inside_of(doubt$variables, name)

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
