# Several lines of one pair side by side.

#' @export
format.unsere_lines <- function(x, ..., door = door_r()) {
  rows <- x$lines
  cells <- list(
    rows$line, format(rows$n), format_r(rows$r_squared), format_r(rows$adj_r_squared), format_number(rows$residual_sd),
    format_decimals(rows$aicc, 1), format_decimals(rows$weight, 2)
  )
  names(cells) <- c("line", "n", paste0("r", glyphs()$squared), "adjusted", "residual sd", "AICc", "weight")
  if (!x$same_y) cells <- cells[1:5]
  equations <- unlist(lapply(paste0(rows$line, ": ", lines_equations(x)), set_paragraph))
  c(set_title(comparison_title(x)), "", set_table(cells), "", equations, "", set_paragraph(in_words(x)))
}

lines_equations <- function(x) vapply(x$originals, line_equation, "", USE.NAMES = FALSE)

comparison_title <- function(x) {
  first <- x$originals[[1]]
  variables <- first$sample$variables
  say("Lines of %s by %s", inside_of(variables, first$y), inside_of(variables, first$x))
}

#' @export
in_words.unsere_lines <- function(result, digits = 2, ...) {
  if (!result$same_y) return(levels_words(result))
  paste(c(curve_words(result$curve), ranking_words(result$lines)), collapse = " ")
}

curve_words <- function(curve) {
  if (is.null(curve)) return(NULL)
  clear <- if (isTRUE(curve$p < 0.05)) say("significant") else say("not significant")
  t <- format_decimals(curve$t, 2)
  say("The quadratic term is %s, t(%s) = %s, %s.", clear, format_df(curve$df), t, format_p_clause(curve$p))
}

#' Which line reads best
#' @noRd
ranking_words <- function(rows) {
  best <- which.min(rows$aicc)
  against <- rows$aicc - rows$aicc[best]
  near <- setdiff(which(against < 2), best)
  first <- say(
    "By Akaike's criterion the %s line fits best (weight %s),", rows$line[best], format_decimals(rows$weight[best], 2)
  )
  if (!length(near)) return(paste(first, say("the next is %s behind.", format_decimals(min(against[-best]), 1))))
  others <- paste(rows$line[near], collapse = say(" and "))
  verb <- if (length(near) == 1) say("is") else say("are")
  paste(first, say("but not by much: %s %s within 2 of it; prefer the one that is easier to explain.", others, verb))
}

levels_words <- function(result) {
  clauses <- vapply(names(result$originals), function(name) {
    line <- result$originals[[name]]
    slope <- line$terms[2, ]
    clear <- if (isTRUE(is_below(
      slope$p,
      line$confidence
    ))) say("statistically significant") else say("not significantly different from zero")
    say("%s: slope %s, %s, %s", name, format_number(slope$estimate), format_p_clause(slope$p), clear)
  }, "")
  first <- say("These lines explain different outcomes, so their fit cannot be compared.")
  paste0(first, " ", paste(clauses, collapse = ". "), ".")
}
