# A plan as the terminal shows it, and its sentence for a proposal.

#' @export
format.unsere_plan <- function(x, ..., door = door_r()) {
  size <- if (x$asked == "n") {
    say("%s cases", format_count(x$n_to_draw))
  } else if (x$asked == "r") {
    sprintf("%s = %s", coefficient_symbol(x$coefficient), format_r(x$r))
  } else {
    say("power %s", format_share(x$power))
  }
  about <- if (!is.null(x$smallest)) {
    say("%s, the smallest that matters", format_r(x$smallest))
  } else if (is.null(x$other)) {
    say("no correlation")
  } else {
    sprintf("%s = %s", coefficient_symbol(x$coefficient), format_r(x$other))
  }
  c(
    set_title(say(
      "%s's %s of %s against %s", capital(x$coefficient), coefficient_symbol(x$coefficient),
      format_r(x$r), about
    )),
    "", set_heading(bold(size)), "",
    set_entries(list(
      power = say(
        "%s at p < %s, %s", format_share(x$power), marked(sub("^0", "", format(signif(x$alpha, 3)))),
        if (is.null(x$smallest)) side_words(x$expect) else say("two one-sided tests")
      ),
      interval = say("expected half-width %s (%s%%)", format_r(x$half_width), percent(x$confidence)),
      cases = plan_cases(x), range = plan_range(x),
      tests = if (x$tests > 1) say("%d, each at its share of alpha", as.integer(x$tests))
    )),
    "", say("To propose"), set_paragraph(in_words(x)),
    if (x$asked == "power") c(
      "",
      set_paragraph(
        say("This is for planning. After a study, power adds nothing to p; report the interval (Hoenig & Heisey 2001).")
      )
    )
  )
}

side_words <- function(expect) if (expect == "either") say("two-sided") else say("one-sided, %s", expect)

# A share of 1 that is not quite 1 does not read as 1.
format_share <- function(share) if (is.na(share)) undefined_mark() else if (share > 0.9995) "> .999" else format_r(share, 3)

plan_cases <- function(x) {
  clauses <- c(
    if (x$design_effect != 1) say("a design effect of %s", format_number(x$design_effect, 3)),
    if (x$missing > 0) say("%s%% missing", percent(x$missing))
  )
  each <- if (is.null(x$other)) "" else say(" in each group")
  if (!length(clauses) && is.na(x$classes)) return(sprintf("%s%s", format_count(x$n), each))
  drawn <- paste0(format_count(x$n_to_draw), plan_classes(x), each)
  if (!length(clauses)) return(drawn)
  say("%s; effective n %s with %s", drawn, format_count(round(x$n)), paste(clauses, collapse = say(" and ")))
}

plan_classes <- function(x) {
  if (is.na(x$classes)) return("")
  say(" in %s classes of %s on average", format_count(x$classes), format_number(x$class_size, 3))
}

plan_range <- function(x) {
  if (is.null(x$range)) return(NULL)
  paste(vapply(x$range, function(plan) {
    sprintf(
      "r = %s: %s", format_r(plan$r),
      if (plan$asked == "n") paste(format_count(plan$n_to_draw), "cases") else paste("power", format_share(plan$power))
    )
  }, ""), collapse = "; ")
}

#' @export
in_words.unsere_plan <- function(result, digits = 2, ...) {
  symbol <- coefficient_symbol(result$coefficient)
  level <- marked(sub("^0", "", format(signif(result$alpha, 3))))
  what <- if (!is.null(result$smallest)) {
    say(
      "that a correlation is smaller in size than %s (if %s = %s)", format_r(result$smallest, digits), symbol,
      format_r(result$r, digits)
    )
  } else if (is.null(result$other)) {
    say("a correlation of %s = %s", symbol, format_r(result$r, digits))
  } else {
    say("a difference between %s = %s and %s", symbol, format_r(result$r, digits), format_r(result$other, digits))
  }
  each <- paste0(plan_classes(result), if (!is.null(result$other)) say(" in each of the two groups"))
  with <- c(
    if (result$design_effect != 1) say("a design effect of %s", format_number(result$design_effect, 3)),
    if (!is.na(result$df)) say("%s degrees of freedom", format_count(result$df)),
    if (result$missing > 0) say("%s%% missing values", percent(result$missing))
  )
  allowing <- if (length(with)) say(", allowing for %s", paste(with, collapse = say(" and "))) else ""
  side <- if (!is.null(result$smallest)) {
    say("two one-sided tests")
  } else if (result$expect == "either") {
    say("two-sided")
  } else {
    say("one-sided")
  }
  if (result$asked == "n" && result$by == "half_width") {
    return(say(
      "%s cases%s give %s an interval (%s%%) with an expected half-width of %s%s.", format_count(result$n_to_draw),
      each, what,
      percent(result$confidence), format_r(result$half_width, digits), allowing
    ))
  }
  chance <- say("with a power of %s (%s, alpha = %s)", format_share(result$power), side, level)
  if (result$asked == "r") {
    return(say(
      "%s cases%s detect a correlation of %s = %s %s%s.", format_count(result$n_to_draw), each, symbol,
      format_r(result$r, digits), chance, allowing
    ))
  }
  if (!is.null(result$smallest)) {
    return(say("%s cases%s show %s %s%s.", format_count(result$n_to_draw), each, what, chance, allowing))
  }
  say("%s cases%s detect %s %s%s.", format_count(result$n_to_draw), each, what, chance, allowing)
}

#' @export
json_fields.unsere_plan <- function(result, door = door_r()) {
  c(json_head("plan"), unclass(result)[plan_fields], list(
    asked = result$asked, tests = result$tests, missing = result$missing,
    range = lapply(or_default(result$range, list()), function(plan) unclass(plan)[plan_fields]), sentence = in_words(result)
  ), if (!is.null(result$smallest)) list(smallest = result$smallest))
}

#' @export
markdown_lines.unsere_plan <- function(result) c(markdown_table(plan_cells(result)), "", in_words(result))

plan_cells <- function(plan) {
  rows <- as.data.frame(plan)
  cells <- list(
    coefficient = rows$coefficient, r = format_r(rows$r), n = format_count(round(rows$n)),
    power = vapply(rows$power, format_share, ""),
    "half-width" = format_r(rows$half_width), "n to draw" = format_count(rows$n_to_draw)
  )
  if (!anyNA(rows$classes)) cells$classes <- format_count(rows$classes)
  cells
}
