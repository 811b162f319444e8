#' The sentence for a paper
#'
#' Direction, size and evidence are said apart; nothing is "accepted", and nothing is called a cause.
#'
#' @param result A relation or a line.
#' @param digits Digits of r after the point.
#' @param ... Not used.
#' @return One string.
#' @section Errors: `unsere_error_usage` when there are no words for such a result.
#' @examples
#' learners <- demo_study("learners")
#' in_words(relate(learners, practice_hours, speaking_score))
#' in_words(fit_line(learners, practice_hours, speaking_score))
#' @export
in_words <- function(result, digits = 2, ...) UseMethod("in_words")

#' @export
in_words.default <- function(result, digits = 2, ...) {
  abort_usage(sprintf("There are no words for %s.", class(result)[1]), "Give a relation or a line.")
}

#' @export
in_words.unsere_relation <- function(result, digits = 2, ...) {
  x <- inside_of(result$pair$variables, result$x)
  y <- inside_of(result$pair$variables, result$y)
  if (abs(result$r) == 1) {
    return(capital(sprintf(
      "%s and %s lay exactly on a %s line, r = %s, n = %d; there is no scatter to test against.", x, y,
      if (result$r > 0) "rising" else "falling", format_r(result$r), result$n
    )))
  }
  figures <- c(
    sprintf("r(%d) = %s", result$df, format_r(result$r, digits)), interval_clause(result, digits), p_clause(result)
  )
  capital(sprintf("%s, %s.", claim_of(result, x, y), paste(figures, collapse = ", ")))
}

# What may be said: a direction only where the interval or the test is clear of zero.
claim_of <- function(result, x, y) {
  if (is_clear(result)) return(sprintf("%s and %s were %sly correlated", x, y, result$direction))
  sprintf("no clear correlation of %s and %s was found", x, y)
}

is_clear <- function(result) !is.na(result$p) && result$p < 1 - result$confidence

interval_clause <- function(result, digits) {
  if (is.na(result$ci_low)) return(NULL)
  sprintf("%s %% CI %s", percent(result$confidence), format_interval(result$ci_low, result$ci_high, digits))
}

p_clause <- function(result) {
  clause <- format_p_clause(result$p)
  if (result$expect == "either") clause else sprintf("%s (one-tailed, %s direction predicted)", clause, result$expect)
}

#' @export
in_words.unsere_line <- function(result, digits = 2, ...) {
  variables <- result$pair$variables
  slope <- result$terms[result$terms$term == "slope", ]
  if (result$residual_sd == 0) {
    return(sprintf("%s lay exactly on the line %s.", label_of(variables, result$y), result$equation))
  }
  change <- sprintf(
    "%s%s %s", format_number(abs(slope$estimate)), unit_after(variables, result$y),
    if (slope$estimate < 0) "lower" else "higher"
  )
  decimals <- decimals_for(slope$estimate, 3)
  figures <- sprintf(
    "b = %s, %s %% CI %s, t(%d) = %s, %s, r%s = %s", format_decimals(slope$estimate, decimals),
      percent(result$confidence),
    format_interval(slope$ci_low, slope$ci_high, decimals, format_decimals), slope$df, format_decimals(slope$t, 2),
    format_p_clause(slope$p), glyphs()$squared, format_r(result$r_squared, digits)
  )
  if (slope$p >= 1 - result$confidence) {
    return(sprintf("No clear slope of %s in %s was found, %s.", inside_of(variables, result$y),
      inside_of(variables, result$x), figures
    ))
  }
  sprintf(
    "%s was on average %s for each additional %s of %s, %s.", capital(inside_of(variables, result$y)), change,
    unit_or_one(variables, result$x), inside_of(variables, result$x), figures
  )
}

unit_or_one <- function(variables, name) {
  unit <- unit_of(variables, name)
  if (is.na(unit)) return("unit")
  # "for each additional year", though the axis reads "(years)"
  if (grepl("^[a-z]{3,}s$", unit)) sub("s$", "", unit) else unit
}

unit_after <- function(variables, name) {
  unit <- unit_of(variables, name)
  if (is.na(unit)) "" else paste0(" ", unit)
}
