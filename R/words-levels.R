# A relation between groups and within them, in words.

#' @export
format.unsere_levels <- function(x, ..., door = door_r()) {
  c(
    set_title(say(
      "%s and %s, by %s", heading_of(x$variables, x$x), heading_of(x$variables, x$y),
      label_of(x$variables, x$group)
    )),
    "", set_table(levels_cells(x)), "", set_table(likeness_cells(x)), "",
    set_entries(
      list(cases = levels_cases(x), intervals = say("jackknife over groups"), read = intake_clause(x))
    ),
    "", say("To report"), set_paragraph(in_words(x))
  )
}

between_words <- c(all = "all cases", between = "between groups", within = "within groups")

levels_cells <- function(x) {
  rows <- x$levels
  list(
    level = say(unname(between_words[rows$level])), r = format_r(rows$r),
    interval = mapply(format_interval, rows$ci_low, rows$ci_high),
    of = sprintf("%s %s", format_count(rows$n), say(ifelse(rows$level == "between", "means", "cases"))), p = prose_p(rows$p)
  )
}

likeness_cells <- function(x) {
  rows <- x$likeness
  list(
    variable = label_of(x$variables, c(x$x, x$y)), ICC = format_r(rows$icc),
    # An interval over nearly all that an ICC can be says nothing.
    interval = ifelse(
      (rows$ci_high - rows$ci_low > 0.95) %in% TRUE, say("too few groups for an interval"),
      mapply(format_interval, rows$ci_low, rows$ci_high)
    )
  )
}

levels_cases <- function(x) {
  excluded <- if (x$n_dropped) say(", %s excluded", format_count(x$n_dropped)) else ""
  say("%s in %s groups%s", format_count(x$n), format_count(x$groups), excluded)
}

#' @export
in_words.unsere_levels <- function(result, digits = 2, ...) {
  names <- inside_of(result$variables, c(result$x, result$y, result$group))
  rows <- result$levels
  clause <- function(kind) {
    row <- rows[rows$level == kind, ]
    if (is.na(row$r)) return(say("no r that is defined"))
    interval <- say("%s%% CI %s", percent(result$confidence), format_interval(row$ci_low, row$ci_high))
    sprintf("r = %s, %s,", format_r(row$r, digits), interval)
  }
  first <- say(
    "%s and %s had %s within groups (%s) and %s between the %s groups' means.", names[1], names[2], clause("within"),
    names[3],
    clause("between"), format_count(result$groups)
  )
  shares <- say(
    "Of the variance of %s, %s%% lay between groups; of that of %s, %s%%.", names[1],
    format_number(100 * result$likeness$icc[1], 2),
    names[2], format_number(100 * result$likeness$icc[2], 2)
  )
  paste(c(begin(first, result$variables), levels_verdict(rows), shares, sets_sentence(result)), collapse = " ")
}

# What the two levels say of one another.
levels_verdict <- function(rows) {
  side <- function(kind) {
    row <- rows[rows$level == kind, ]
    if (anyNA(row[c("ci_low", "ci_high")]) || row$ci_low <= 0 && row$ci_high >= 0) 0 else sign(row$r)
  }
  between <- side("between")
  within <- side("within")
  if (between * within < 0) {
    return(say("The two have opposite signs: a correlation between groups says nothing about the cases in them."))
  }
  undefined <- rows$level[is.na(rows$r) & rows$level != "all"]
  if (length(undefined)) {
    return(if (undefined[1] == "between") say("The means of the groups do not vary in one of the two.") else {
      say("Within the groups one of the two does not vary.")
    })
  }
  if (between != 0 && within == 0) {
    return(say("Only the correlation between groups is significant; it says nothing about the cases in a group."))
  }
  if (between == 0 && within != 0) return(say("Only the correlation within groups is significant."))
  if (between == 0) return(say("Neither is statistically significant."))
  say("Both have the same sign.")
}

#' @export
json_fields.unsere_levels <- function(result, door = door_r()) {
  fields <- unclass(result)[levels_fields]
  c(json_head("levels"), fields, sets_fields(result), list(sentence = in_words(result)), intake_fields(result))
}

#' @export
markdown_lines.unsere_levels <- function(result) {
  c(markdown_table(levels_cells(result)), "", markdown_table(likeness_cells(result)), "", in_words(result))
}
