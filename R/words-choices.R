# A pair under every defensible choice, in words.

#' @export
format.unsere_choices <- function(x, ..., door = door_r()) {
  c(
    set_title(choices_heading(x)), "", if (x$k > 8L) say("The three lowest and the three highest"),
    set_table(choices_cells(x, brief = TRUE), left_aligned = length(varied_columns(x))), "",
    set_entries(list(
      median = say("r = %s; lowest %s, highest %s", format_r(x$median), format_r(x$lowest), format_r(x$highest)),
      test = joint_clause(x), influential = influential_clause(x)
    )),
    if (nrow(x$decisions)) c("", say("What each choice changes"), set_table(decision_cells(x), left_aligned = 3L)), "",
    say("To report"), set_paragraph(in_words(x))
  )
}

choices_heading <- function(x) {
  say("%s and %s under %s choices", heading_of(x$variables, x$x), heading_of(x$variables, x$y), format_count(x$k))
}

varied_columns <- function(x) {
  of <- c("x", "y", "coefficient", "cases", "controls", "missing")
  varied <- Filter(function(name) length(unique(x$choices[[name]])) > 1L, of)
  if (length(varied)) varied else "coefficient"
}

#' The options of a choice as a reader has them
#' @noRd
option_words <- function(x, decision, options) {
  if (decision %in% c("x", "y")) return(label_of(x$variables, options))
  if (decision == "controls") {
    return(vapply(strsplit(options, " + ", fixed = TRUE), function(names) {
      if (identical(names, "none")) say("no controls") else paste(label_of(x$variables, names), collapse = " + ")
    }, ""))
  }
  if (decision == "coefficient") {
    return(vapply(options, function(name) {
      if (coefficient_record(name)$resistant) say("ranks (%s)", capital(name)) else say("numbers (%s)", capital(name))
    }, "", USE.NAMES = FALSE))
  }
  if (decision == "cases") return(say(ifelse(options == "all", "all cases", "without influential cases")))
  say(options)
}

choices_cells <- function(x, brief = FALSE) {
  rows <- x$choices
  # On a terminal the lowest and the highest; all of them stand in the rows, the report and the figure.
  shown <- if (brief && nrow(rows) > 8L) c(1:3, nrow(rows) - 2:0) else seq_len(nrow(rows))
  rows <- rows[shown, ]
  varied <- varied_columns(x)
  cells <- lapply(stats::setNames(nm = varied), function(name) {
    words <- option_words(x, name, rows[[name]])
    if (brief) shorten(words, 30) else words
  })
  names(cells) <- say(names(cells))
  more <- list(
    n = format_count(rows$n), r = format_r(rows$r), interval = mapply(format_interval, rows$ci_low, rows$ci_high),
    p = prose_p(rows$p)
  )
  names(more)[3] <- say("%s%% interval", percent(x$confidence))
  c(cells, more)
}

decision_cells <- function(x) {
  rows <- x$decisions
  words <- function(column) {
    vapply(seq_len(nrow(rows)), function(k) option_words(x, rows$decision[k], rows[[column]][k]), "")
  }
  cells <- list(
    say(rows$decision), shorten(words("high"), 34), shorten(words("low"), 34), format_r(rows$r_high), format_r(rows$r_low),
    format_r(rows$difference)
  )
  names(cells) <- c(say("choice"), say("highest"), say("lowest"), say("mean r"), say("mean r "), say("difference"))
  cells
}

joint_clause <- function(x) {
  say(
    "joint test of the median: %s (%s permutations, seed %s)", format_p_clause(x$p), format_count(x$permutations),
    format(x$seed, scientific = FALSE)
  )
}

influential_clause <- function(x) {
  if (!length(x$influential)) return(say("no influential case"))
  names <- paste(utils::head(x$influential, 8), collapse = ", ")
  more <- length(x$influential) - 8L
  say("left out in turn: %s", if (more > 0) say("%s and %s more", names, format_count(more)) else names)
}

#' @export
in_words.unsere_choices <- function(result, digits = 2, ...) {
  names <- inside_of(result$variables, c(result$x, result$y))
  positive <- result$median >= 0
  first <- say(
    "Under %s choices of analysis the correlation of %s and %s ran from %s to %s (median %s).",
    format_count(result$k), names[1], names[2], format_r(result$lowest, digits), format_r(result$highest, digits),
    format_r(result$median, digits)
  )
  share <- if (positive) result$positive else result$negative
  second <- say(
    "It was %s in %s and significantly so in %s; jointly, %s.",
    if (positive) say("positive") else say("negative"), share_of_all(share), share_of_all(result$significant),
    format_p_clause(result$p)
  )
  paste(c(first, second, decision_sentence(result, digits), sets_sentence(result)), collapse = " ")
}

share_of_all <- function(share) {
  if (share == 1) return(say("all choices"))
  if (share == 0) return(say("no choice"))
  say("%s%% of the choices", percent(min(max(round(share, 2), .01), .99)))
}

decision_sentence <- function(x, digits) {
  if (!nrow(x$decisions)) return(NULL)
  most <- x$decisions[1, ]
  say(
    "The choice that mattered most was %s (%s: mean r = %s; %s: mean r = %s).", decision_words(most$decision),
    option_words(x, most$decision, most$high), format_r(most$r_high, digits),
    option_words(x, most$decision, most$low), format_r(most$r_low, digits)
  )
}

decision_words <- function(decision) {
  switch(decision,
    x = say("the version of x"),
    y = say("the version of y"),
    coefficient = say("the coefficient"),
    cases = say("which cases count"),
    controls = say("what is controlled for"),
    missing = say("the handling of missing values")
  )
}

#' @export
as.data.frame.unsere_choices <- function(x, ...) x$choices

#' @export
json_fields.unsere_choices <- function(result, door = door_r()) {
  fields <- unclass(result)[choices_fields]
  fields$influential <- or_default(many(result$influential), list())
  c(json_head("choices"), fields, sets_fields(result), list(sentence = in_words(result)))
}

#' @export
markdown_lines.unsere_choices <- function(result) {
  c(
    markdown_table(choices_cells(result)), "",
    if (nrow(result$decisions)) c(markdown_table(decision_cells(result)), ""), in_words(result)
  )
}
