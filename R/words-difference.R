# Two r compared.

#' @export
format.unsere_difference <- function(x, ..., door = door_r()) {
  names <- vapply(x$relations, function(relation) {
    variables <- relation$sample$variables
    sprintf("%s and %s", label_of(variables, relation$x), inside_of(variables, relation$y))
  }, "")
  interval <- if (!is.na(x$ci_low)) paste0(" ", format_interval(x$ci_low, x$ci_high))
  c(
    set_title(paste(names[1], "against", names[2])), "",
    set_entries(list(
      first = sprintf("r = %s, n = %d", format_r(x$r_a), x$n_a),
      second = sprintf("r = %s, n = %d", format_r(x$r_b), x$n_b),
      difference = paste0(format_r(x$difference), interval), evidence = comparison_evidence(x),
      cases = c(same = "the same cases", different = "different cases")[[x$cases]]
    )),
    "", set_paragraph(in_words(x))
  )
}

comparison_evidence <- function(x) {
  value <- format_decimals(x$value, 2)
  p <- format_p_clause(x$p)
  switch(x$statistic,
    "williams t" = sprintf("Williams' t(%d) = %s, %s", x$df, value, p),
    "steiger z" = sprintf("Steiger's z = %s, %s", value, p),
    sprintf("z = %s, %s", value, p)
  )
}

#' @export
in_words.unsere_difference <- function(result, digits = 2, ...) {
  interval <- if (!is.na(result$ci_low)) {
    sprintf(", %s %% CI %s", percent(result$confidence), format_interval(result$ci_low, result$ci_high))
  }
  figures <- paste0(comparison_evidence(result), interval)
  if (isTRUE(is_below(result$p, result$confidence))) {
    way <- if (result$difference > 0) "higher" else "lower"
    return(sprintf("The first r was %s than the second by %s, %s.", way, format_r(abs(result$difference), digits), figures))
  }
  sprintf(
    "The two r differed by %s, which is not clear of chance, %s; that does not show that they are equal.",
    format_r(result$difference, digits), figures
  )
}
