# The sentences that report a line.

#' @export
in_words.unsere_line <- function(result, digits = 2, ...) {
  clear <- isTRUE(is_below(utils::tail(result$terms$p, 1), result$confidence))
  clauses <- clause_sentences(unmet_cautions(result), result$sample$variables, digits, clear)
  paste(c(line_sentence(result, digits), clauses), collapse = " ")
}

line_sentence <- function(result, digits) {
  variables <- result$sample$variables
  slope <- result$terms[result$terms$term == "slope", ]
  if (result$residual_sd == 0) {
    return(say("%s lay exactly on the line %s.", label_of(variables, result$y), line_equation(result)))
  }
  if (result$shape == "quadratic") return(curve_sentence(result))
  if (result$shape == "log") return(log_sentence(result, digits))
  change <- sprintf(
    "%s%s %s", format_number(abs(slope$estimate)), unit_after(variables, result$y),
    if (slope$estimate < 0) say("lower") else say("higher")
  )
  figures <- slope_figures(result, slope, digits)
  if (!is_below(slope$p, result$confidence)) {
    return(say(
      "The slope of %s on %s was not significant, %s.", inside_of(variables, result$y),
      inside_of(variables, result$x), figures
    ))
  }
  coding <- result$sample$coding$x
  step <- if (is.null(coding$one)) {
    say("for each additional %s of %s", unit_or_one(variables, result$x), inside_of(variables, result$x))
  } else {
    say("with \"%s\" on %s than with \"%s\"", coding$one, inside_of(variables, result$x), coding$zero)
  }
  say("%s was on average %s %s, %s.", begin(inside_of(variables, result$y), variables), change, step, figures)
}

slope_figures <- function(result, slope, digits, name = "b") {
  decimals <- decimals_for(slope$estimate, 3)
  dependence <- dependence_clause(result)
  route <- if (is.null(dependence)) route_words(result$ci_method)
  figures <- say(
    "%s = %s, %s%% CI %s, t(%s) = %s, %s, r%s = %s", name, format_decimals(slope$estimate, decimals),
    percent(result$confidence),
    paste0(format_interval(slope$ci_low, slope$ci_high, decimals, format_decimals), route),
    format_df(slope$df), format_statistic(slope$t),
    format_p_clause(slope$p), glyphs()$squared, format_r(result$r_squared, digits)
  )
  paste(c(figures, dependence), collapse = ", ")
}

log_sentence <- function(result, digits) {
  variables <- result$sample$variables
  slope <- result$terms[2, ]
  figures <- slope_figures(result, slope, digits, say("b of the logarithm"))
  if (!is_below(slope$p, result$confidence)) {
    return(say(
      "The slope of %s on the logarithm of %s was not significant, %s.", inside_of(variables, result$y),
      inside_of(variables, result$x), figures
    ))
  }
  doubling <- slope$estimate * log(2)
  say(
    "%s was on average %s%s %s with each doubling of %s, %s.", begin(inside_of(variables, result$y), variables),
    format_number(abs(doubling)), unit_after(variables, result$y), if (doubling < 0) say("lower") else say("higher"),
    inside_of(variables, result$x), figures
  )
}

curve_sentence <- function(result) {
  variables <- result$sample$variables
  curve <- result$terms[3, ]
  figures <- say(
    "quadratic term %s, t(%s) = %s, %s; both terms together r%s = %s", format_number(curve$estimate),
    format_df(curve$df),
    format_statistic(curve$t), format_p_clause(curve$p), glyphs()$squared, format_r(result$r_squared)
  )
  y <- begin(inside_of(variables, result$y), variables)
  x <- inside_of(variables, result$x)
  if (!is_below(curve$p, result$confidence)) {
    return(say("The quadratic term of %s on %s was not significant, %s.", inside_of(variables, result$y), x, figures))
  }
  turn <- turning_point(result)
  ends <- range(result$sample$x)
  if (turn <= ends[1] || turn >= ends[2]) {
    rising <- result$basis$centred[2] > 0
    slower <- (curve$estimate < 0) == rising
    return(say(
      "%s %s with %s, %s at higher values, %s.", y, if (rising) say("rose") else say("fell"), x,
      if (slower) say("less") else say("more"), figures
    ))
  }
  say(
    "%s %s with %s up to about %s%s and %s beyond, %s.", y, if (curve$estimate < 0) say("rose") else say("fell"), x,
    format_number(turn, 2), unit_after(variables, result$x), if (curve$estimate < 0) say("fell") else say("rose"), figures
  )
}
