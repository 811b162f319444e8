#' Where the strip of a coefficient begins: at -1, or at 0 where it has no direction
#' @noRd
strip_start <- function(coefficient) if (coefficient_record(coefficient)$signed) -1 else 0

#' The r strip as a line of text: from its start to 1 with zero marked, the interval as a bar, r as a dot
#' @noRd
format_strip <- function(r, low, high, width = strip_width(), start = -1) {
  if (is.na(r)) return("")
  marks <- glyphs()
  place <- function(value) 1L + as.integer(round((value - start) / (1 - start) * (width - 1L)))
  rail <- rep(marks$rail, width)
  if (start < 0) rail[place(0)] <- "0"
  if (!is.na(low)) {
    rail[place(low):place(high)] <- marks$bar
    rail[place(low)] <- marks$left
    rail[place(high)] <- marks$right
  }
  rail[place(r)] <- marks$dot
  paste(if (start < 0) paste0(marks$minus, "1") else "0", paste(rail, collapse = ""), "1")
}

# An odd number of places, so that zero has the one in the middle.
strip_width <- function() (min(text_width(), 120L) - 20L) %/% 2L * 2L + 1L

# The strip in words, for those who do not see it.
strip_alt <- function(relation) {
  if (takes_groups(relation)) return(say("%s on a scale from 0 to 1", r_label(relation)))
  if (is.na(relation$ci_low)) return(say("r = %s on a scale from -1 to 1", format_r(relation$r)))
  say(
    "r = %s, interval from %s to %s, on a scale from -1 to 1", format_r(relation$r, digits_for(relation)),
    format_r(relation$ci_low, digits_for(relation)), format_r(relation$ci_high, digits_for(relation))
  )
}
