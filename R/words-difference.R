# Two r compared.

#' @export
format.unsere_difference <- function(x, ..., door = door_r()) {
  names <- compared_pairs(x)
  interval <- if (!is.na(x$ci_low)) paste0(" ", format_interval(x$ci_low, x$ci_high))
  c(
    set_title(paste(names[1], "against", names[2])), "",
    set_entries(list(
      first = sprintf("%s, n = %s", named_r(x$coefficient_a, x$r_a), format_count(x$n_a)),
      second = sprintf("%s, n = %s", named_r(x$coefficient_b, x$r_b), format_count(x$n_b)),
      difference = paste0(format_r(x$difference), interval), evidence = comparison_evidence(x),
      jackknife = jackknife_clause(x), cases = shared_cases(x)
    )),
    "", set_paragraph(in_words(x))
  )
}

compared_pairs <- function(x) {
  vapply(x$relations, function(relation) {
    variables <- relation$sample$variables
    say("%s and %s", label_of(variables, relation$x), inside_of(variables, relation$y))
  }, "")
}

#' @export
markdown_lines.unsere_difference <- function(result) {
  cells <- list(
    pair = compared_pairs(result), r = format_r(c(result$r_a, result$r_b)), n = format_count(c(result$n_a, result$n_b))
  )
  c(markdown_table(cells), "", in_words(result))
}

named_r <- function(coefficient, r) sprintf("%s = %s", coefficient_symbol(coefficient), format_r(r))

jackknife_clause <- function(x) {
  if (is.na(x$jackknife$p)) return(NULL)
  sprintf("%s %s", format_p_clause(x$jackknife$p), format_interval(x$jackknife$ci_low, x$jackknife$ci_high))
}

shared_cases <- function(x) {
  if (x$cases == "different") return(say("different cases"))
  before <- vapply(x$relations, `[[`, 0L, "n")
  if (all(before == x$n_a)) return(say("the same cases"))
  say(
    "the %s that both share (of %s and %s)", format_count(x$n_a), format_count(before[1]),
    format_count(before[2])
  )
}

# Whether the jackknife, which asks for no normal distribution, comes to another answer.
turned_by_jackknife <- function(x) {
  !is.na(x$jackknife$p) && isTRUE(is_below(x$p, x$confidence)) != is_below(x$jackknife$p, x$confidence)
}

comparison_evidence <- function(x) {
  value <- format_decimals(x$value, 2)
  p <- format_p_clause(x$p)
  switch(x$statistic,
    "jackknife t" = say("t(%s) = %s, %s (jackknife)", format_df(x$df), value, p),
    "williams t" = say("Williams' t(%s) = %s, %s", format_df(x$df), value, p),
    "steiger z" = say("Steiger's z = %s, %s", value, p),
    "t by units" = say("t(%s) = %s, %s by the design", format_count(round(x$df)), value, p),
    t = sprintf("t(%s) = %s, %s", format_df(x$df), value, p),
    sprintf("z = %s, %s", value, p)
  )
}

#' @export
in_words.unsere_difference <- function(result, digits = 2, ...) {
  turned <- turned_by_jackknife(result)
  shown <- if (turned) result$jackknife else result
  interval <- if (!is.na(shown$ci_low)) {
    say(", %s%% CI %s", percent(result$confidence), format_interval(shown$ci_low, shown$ci_high))
  }
  evidence <- comparison_evidence(result)
  figures <- paste0(if (turned) say("jackknife %s", format_p_clause(result$jackknife$p)) else evidence, interval)
  text <- if (isTRUE(is_below(shown$p, result$confidence))) {
    way <- if (result$difference > 0) say("higher") else say("lower")
    say("The first r was %s than the second by %s, %s.", way, format_r(abs(result$difference), digits), figures)
  } else {
    say(
      "The two correlations did not differ significantly (difference %s, %s); this does not show that they are equal.",
      format_r(result$difference, digits), figures
    )
  }
  if (turned) {
    text <- paste0(text, say(
      " (%s assumes a normal distribution, which these data do not support; the jackknife was used.)",
      evidence
    ))
  }
  paste(c(text, smallest_difference_sentence(result, digits)), collapse = " ")
}
