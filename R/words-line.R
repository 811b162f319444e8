#' @export
format.unsere_line <- function(x, ..., door = door_r()) {
  variables <- x$sample$variables
  c(
    set_title(say("%s by %s", heading_of(variables, x$y), heading_of(variables, x$x))),
    "",
    strwrap(bold(line_equation(x)), text_width() + 1L, indent = 2, exdent = 4),
    "",
    set_table(line_term_cells(x)),
    "",
    set_entries(line_entries(x)),
    "",
    say("Variance"),
    set_table(line_variance_cells(x)),
    if (nrow(x$predictions)) c("", say("Predictions"), prediction_lines(x$predictions, x)),
    if (nrow(x$solutions)) c("", say("Inverse prediction (x from y)"), solution_lines(x$solutions, x)),
    set_cautions(x$cautions, variables, door),
    "",
    say("To report"),
    set_paragraph(in_words(x))
  )
}

line_entries <- function(x) {
  variables <- x$sample$variables
  list(
    slope = if (x$shape == "linear") slope_clause(x), percent = if (x$shape == "log") percent_clause(x),
    "quadratic term" = if (x$shape == "quadratic") curve_clause(x), intercept = intercept_clause(x),
    "R squared" = say(
      "%s of the variance of %s is explained (adjusted %s)", format_r(x$r_squared),
      label_of(variables, x$y), format_r(x$adj_r_squared)
    ),
    "residual sd" = say(
      "%s%s: typical distance of the points from the line", format_number(x$residual_sd), unit_after(variables, x$y)
    ),
    pairs = pairs_clause(x$n, x$sample), design = design_clause(x), coding = coding_clause(x, variables),
    read = intake_clause(x)
  )
}

#' Sign, significance and size, each said
#' @noRd
slope_clause <- function(x) {
  slope <- x$terms[2, ]
  variables <- x$sample$variables
  way <- if (slope$estimate > 0) say("rising") else say("falling")
  if (is.na(slope$p)) return(say("%s; the points lie on the line", way))
  coding <- x$sample$coding$x
  each <- if (is.null(coding$one)) paste(say("for each"), unit_or_one(variables, x$x)) else
    say("from \"%s\" (0) to \"%s\" (1)", coding$zero, coding$one)
  say(
    "%s and %s, t(%s) = %s, %s; %s%s %s, or %s SD per SD",
    if (slope$estimate < 0) say("negative") else say("positive"),
    if (is_below(slope$p, x$confidence)) say("significant") else say("not significant"),
    format_df(slope$df),
    format_statistic(slope$t), format_p_clause(slope$p), format_number(slope$estimate), unit_after(variables, x$y),
    each, format_r(x$r)
  )
}

percent_clause <- function(x) {
  b <- x$terms$estimate[2]
  unit <- unit_after(x$sample$variables, x$y)
  say(
    "A 1%% increase in %s is associated with %s%s, a doubling with %s%s (%s, t(%s) = %s, %s)",
    inside_of(x$sample$variables, x$x), signed_number(b * log(1.01)), unit, signed_number(b * log(2)), unit,
    if (is.na(x$terms$p[2]) || is_below(
      x$terms$p[2],
      x$confidence
    )) say("significant") else say("not significant"), format_df(x$terms$df[2]),
    format_decimals(x$terms$t[2], 2), format_p_clause(x$terms$p[2])
  )
}

signed_number <- function(value) paste0(if (value > 0) "+", format_number(value))

#' Where a curve turns, and whether that is inside the data
#' @noRd
curve_clause <- function(x) {
  curve <- x$terms[3, ]
  turn <- turning_point(x)
  ends <- range(x$sample$x)
  variables <- x$sample$variables
  inside <- turn > ends[1] && turn < ends[2]
  where <- sprintf("%s = %s%s", label_of(variables, x$x), format_number(turn), unit_after(variables, x$x))
  clear <- if (is.na(curve$p) || is_below(curve$p, x$confidence)) say("significant") else say("not significant")
  outside <- say(
    "outside the data (%s to %s), so no turning point was observed", format_number(ends[1]),
    format_number(ends[2])
  )
  say(
    "%s, t(%s) = %s, %s; the curve %s at %s, %s", clear, format_df(curve$df),
    format_statistic(curve$t), format_p_clause(curve$p),
    if (curve$estimate < 0) say("has its maximum") else say("has its minimum"), where,
    if (inside) say("inside the data") else outside
  )
}

turning_point <- function(x) (x$basis$centre - x$basis$centred[2] / (2 * x$basis$centred[3])) * x$basis$unit[["x"]]

#' Is the intercept zero, and is there anything at x = 0 at all?
#' @noRd
intercept_clause <- function(x) {
  first <- x$terms[1, ]
  variables <- x$sample$variables
  zero <- if (x$shape == "log") 1 else 0
  ends <- range(x$sample$x)
  room <- 0.05 * diff(ends)
  seen <- ends[1] - room <= zero && zero <= ends[2] + room
  place <- sprintf("%s = %d", label_of(variables, x$x), zero)
  reach <- reach_words(ends)
  clause <- if (seen) {
    say("predicted value at %s, within the data (%s)", place, reach)
  } else {
    say("predicted value at %s, outside the data (%s), so not interpretable by itself", place, reach)
  }
  if (is.na(first$p)) return(sprintf("%s: %s", format_number(first$estimate), clause))
  clear <- if (is_below(
    first$p,
    x$confidence
  )) say("significantly different from zero") else say("not significantly different from zero")
  sprintf("%s, t(%s) = %s, %s; %s", clear, format_df(first$df), format_statistic(first$t), format_p_clause(first$p), clause)
}

#' The terms as a reader's cells, for the terminal and the page
#' @noRd
line_term_cells <- function(x) {
  terms <- x$terms
  each <- function(value, spread) {
    mapply(function(v, s) format_decimals(v, if (is.na(s)) decimals_for(v) else decimals_for(s, 3)), value, spread)
  }
  interval <- mapply(function(low, high, s) {
    if (is.na(low)) return(undefined_mark())
    format_interval(low, high, decimals_for(s, 3), format_decimals)
  }, terms$ci_low, terms$ci_high, terms$se)
  cells <- list(
    term = say(terms$term), estimate = each(terms$estimate, terms$se), se = each(terms$se, terms$se), interval,
    t = format_statistic(terms$t), df = format_df(terms$df), p = format_p_full(terms$p, terms$log10_p)
  )
  names(cells)[2:4] <- c("estimate", "std. error", say("%s%% interval", percent(x$confidence)))
  cells
}

line_variance_cells <- function(x) {
  v <- x$variance
  blank <- function(text, value) ifelse(is.na(value), "", text)
  cells <- list(
    source = say(v$source), df = format_df(v$df), "sum of squares" = square_figures(v$ss),
    "mean square" = blank(square_figures(v$ms), v$ms), F = blank(format_statistic(v$f), v$f),
    p = blank(format_p_full(v$p, v$log10_p), v$p)
  )
  if (all(is.na(v$ms))) cells[names(cells) != "mean square"] else cells
}

# Five digits of the largest count, and three of the smallest.
square_figures <- function(squares) {
  some <- squares[is.finite(squares) & squares != 0]
  format_decimals(squares, if (length(some)) max(decimals_for(some, 5), decimals_for(min(some), 3)) else 2)
}
