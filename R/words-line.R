#' @export
format.unsere_line <- function(x, ...) {
  variables <- x$pair$variables
  c(
    set_title(sprintf("%s by %s", heading_of(variables, x$y), heading_of(variables, x$x))),
    "",
    strwrap(bold(x$equation), 80, indent = 2, exdent = 4),
    "",
    set_table(line_term_cells(x)),
    "",
    set_entries(list(
      "r squared" = sprintf(
        "%s of the variance of %s goes with the line (adjusted %s)", format_r(x$r_squared),
        label_of(variables, x$y), format_r(x$adj_r_squared)
      ),
      "residual sd" = sprintf(
        "%s%s: how far the points lie from the line", format_number(x$residual_sd), unit_after(variables, x$y)
      ),
      pairs = pairs_clause(x$n, x$pair)
    )),
    "",
    "Variance",
    set_table(line_variance_cells(x)),
    set_cautions(x$cautions),
    "",
    "To report",
    set_paragraph(in_words(x))
  )
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
    sprintf("[%s, %s]", format_decimals(low, decimals_for(s, 3)), format_decimals(high, decimals_for(s, 3)))
  }, terms$ci_low, terms$ci_high, terms$se)
  cells <- list(
    term = terms$term, estimate = each(terms$estimate, terms$se), se = each(terms$se, terms$se), interval,
    t = format_decimals(terms$t, 2), df = format(terms$df), p = format_p_full(terms$p)
  )
  names(cells)[2:4] <- c("estimate", "std. error", sprintf("%s %% interval", percent(x$confidence)))
  cells
}

line_variance_cells <- function(x) {
  v <- x$variance
  blank <- function(text, value) ifelse(is.na(value), "", text)
  list(
    source = v$source, df = format(v$df), "sum of squares" = format_decimals(v$ss, decimals_for(v$ss, 5)),
    "mean square" = blank(format_decimals(v$ms, decimals_for(v$ms, 5)), v$ms), F = blank(format_decimals(v$f, 2), v$f),
    p = blank(format_p_full(v$p), v$p)
  )
}
