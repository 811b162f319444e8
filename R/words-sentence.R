#' Describe a result in a sentence
#'
#' Returns the sentence that reports a result in a paper. It states direction, size and significance separately, and never
#' implies causation.
#'
#' @param result A relation or a line.
#' @param digits Decimal places of r. Default: 2.
#' @param ... Not used.
#' @return One string.
#' @section Errors: `unsere_error_usage` if there are no words for such a result.
#' @examples
#' learners <- demo_study("learners")
#' in_words(relate(learners, practice_hours, speaking_score))
#' in_words(fit_line(learners, practice_hours, speaking_score))
#' @export
in_words <- function(result, digits = 2, ...) UseMethod("in_words")

#' @export
in_words.default <- function(result, digits = 2, ...) {
  abort_usage(problem("There is no sentence for %s.", class(result)[1]), "Give a relation or a line.")
}

#' @export
in_words.unsere_relation <- function(result, digits = 2, ...) {
  x <- named_with_code(result, "x")
  y <- named_with_code(result, "y")
  if (abs(result$r) == 1 && coefficient_record(result$coefficient)$linear) {
    return(begin(say(
      "%s and %s lay exactly on a %s line, r = %s, n = %s; without scatter there is no test.", x, y,
      if (result$r > 0) say("rising") else say("falling"), format_r(result$r), format_count(result$n)
    ), result$sample$variables))
  }
  figures <- c(
    r_clause(result, digits), interval_clause(result, digits), statistic_clause(result), p_clause(result),
    dependence_clause(result)
  )
  sentence <- sprintf("%s%s, %s.", claim_of(result, x, y), held_words(result), paste(figures, collapse = ", "))
  sentence <- begin(sentence, result$sample$variables)
  paste(c(
    sentence, smallest_sentence(result, digits), corrected_sentence(result, digits),
    unrestricted_sentence(result, digits), unmeasured_of_relation(result, digits),
    relation_clauses(result, digits, is_clear(result) || isTRUE(is_below(result$textbook$p, result$tested_at)))
  ), collapse = " ")
}

corrected_sentence <- function(result, digits) {
  if (is.null(result$corrected)) return(NULL)
  say(
    "Corrected for attenuation (%s) it was %s, %s%% CI %s.",
    paste(say("%s of %s", format_r(result$reliability), inside_of(result$sample$variables, names(result$reliability))),
      collapse = ", "
    ), format_r(result$corrected, digits), percent(result$confidence),
    format_interval(result$corrected_low, result$corrected_high)
  )
}

# " with age and centre controlled for", or nothing.
held_words <- function(result) {
  if (is.null(result$given)) return("")
  if (is.null(result$part)) return(say(" controlling for %s", inside_several(result$given_labels, result$given)))
  say(
    " with %s removed from %s only (semipartial)", inside_several(result$given_labels, result$given),
    inside_of(result$sample$variables, result$part)
  )
}

# "age and centre", small inside a sentence but for those that are names.
inside_several <- function(labels, names) {
  small <- small_inside(labels, labels %in% names)
  in_series(small, say(" and "))
}

# "a, b and c"
in_series <- function(words, between) {
  if (length(words) == 1L) return(words)
  paste(paste(utils::head(words, -1), collapse = ", "), utils::tail(words, 1), sep = between)
}

#' What cautions say against a result stands with it, wherever the sentence goes
#' @param clear Whether the result is clear; of a trend that is shared nothing is said beside one that is not.
#' @noRd
clause_sentences <- function(cautions, variables, digits, clear = TRUE) {
  grave <- which(stands_in_sentence(cautions) & (clear | cautions$code != "shared_trend"))
  clauses <- vapply(grave, function(k) {
    figures <- cautions$figures[[k]]
    sentence <- find_caution(cautions$code[k])$clause(figures, digits)
    if (is.null(sentence)) return("")
    fill_template(sentence, with_others(variables, attr(figures, "labels")))
  }, "")
  clauses[nzchar(clauses)]
}

relation_clauses <- function(result, digits, clear = is_clear(result)) {
  clause_sentences(unmet_cautions(result), result$sample$variables, digits, clear)
}

unmet_cautions <- function(result) pick_cautions(result$cautions, !result$cautions$code %in% met_cautions(result))

# The cautions that the reported interval meets already.
met_cautions <- function(result) {
  switch(or_default(result$ci_method, ""),
    jackknife = "interval_too_narrow",
    clusters = "clustered_cases",
    "effective size" = c("alike_neighbours", "serial_dependence"),
    ""
  )
}

stands_in_sentence <- function(cautions) {
  vapply(seq_len(nrow(cautions)), function(k) {
    record <- find_caution(cautions$code[k])
    !is.null(record$clause) && match(cautions$severity[k], severities) <= match(record$clause_from, severities)
  }, NA)
}

#' "has a study partner (yes)": a binary variable with the value that counts as 1
#' @noRd
named_with_code <- function(result, side) {
  inside <- inside_of(result$sample$variables, result[[side]])
  one <- result$sample$coding[[side]]$one
  if (is.null(one)) inside else sprintf("%s (%s)", inside, one)
}

r_clause <- function(result, digits) {
  symbol <- coefficient_symbol(result$coefficient)
  if (isTRUE(coefficient_record(result$coefficient)$words$counts)) {
    return(sprintf("%s = %s, n = %s", symbol, format_r(result$r, digits_for(result, digits)), format_count(result$n)))
  }
  df <- if (or_default(result$scheme, "simple") == "simple") result$n - 2 else or_default(result$df_of_r, result$df)
  sprintf("%s(%s) = %s", symbol, format_df(df), format_r(result$r, digits_for(result, digits)))
}

#' "r = .53 [.43, .62]"
#' @noRd
r_label <- function(relation) {
  text <- sprintf("%s = %s", coefficient_symbol(relation$coefficient), format_r(relation$r, digits_for(relation)))
  if (is.na(relation$ci_low)) text else paste(text, format_interval(relation$ci_low, relation$ci_high, digits_for(relation)))
}

statistic_clause <- function(result) {
  if (result$statistic == "z") return(sprintf("z = %s", format_statistic(result$value)))
  if (result$statistic != "chi-squared") return(NULL)
  sprintf("%s(1) = %s", glyphs()$chi_squared, format_statistic(result$value))
}

# What may be said: a direction only where the test is statistically significant.
claim_of <- function(result, x, y) {
  if (is_against(result)) {
    return(say(
      paste(
        "%s and %s were not correlated in the direction specified in advance (%s); the correlation had the",
        "opposite sign"
      ), x, y, say(result$expect)
    ))
  }
  if (!is_clear(result)) return(say("%s and %s were not significantly correlated", x, y))
  if (!is.null(result$groups)) return(group_claim(result))
  say("%s and %s were %sly correlated", x, y, say(result$direction))
}

#' The claim of a point-biserial r: which group was higher, with both means
#' @noRd
group_claim <- function(result) {
  sides <- if (is.null(result$sample$coding$x$one)) c(binary = "y", other = "x") else c(binary = "x", other = "y")
  variables <- result$sample$variables
  groups <- result$groups
  decimals <- decimals_for(groups$sd, 3)
  one <- function(row) {
    say(
      "(M = %s, SD = %s, n = %s)", format_decimals(groups$mean[row], decimals),
      format_decimals(groups$sd[row], decimals),
      format_count(groups$n[row])
    )
  }
  say(
    "%s was %s with \"%s\" on \"%s\" %s than with \"%s\" %s", inside_of(variables, result[[sides[["other"]]]]),
    if (result$r > 0) {
      say("higher")
    } else {
      say("lower")
    },
    groups$value[2], label_of(variables, result[[sides[["binary"]]]]), one(2), groups$value[1], one(1)
  )
}

# A direction was predicted, and r has the other sign.
is_against <- function(result) result$expect != "either" && !result$direction %in% c("none", result$expect)

is_clear <- function(result) {
  if (is.na(result$p)) abs(result$r) == 1 else is_below(result$p, or_default(result$tested_at, result$confidence))
}

interval_clause <- function(result, digits) {
  if (is.na(result$ci_low)) return(NULL)
  if (is_uninformative(result$ci_low, result$ci_high)) return(say("too few cases or groups for an interval"))
  limits <- format_interval(result$ci_low, result$ci_high, digits_for(result, digits))
  route <- if (is.null(dependence_clause(result))) route_words(result$ci_method)
  paste0(say("%s%% CI %s", percent(result$confidence), limits), route)
}

# " (jackknife)" after an interval that is not the textbook's.
route_words <- function(method) {
  switch(or_default(method, ""),
    jackknife = say(" (jackknife)"), "effective size" = say(" (effective sample size)"),
    "bca bootstrap" = say(" (bootstrap)"),
    "unit jackknife" = say(" (jackknife over sampled units)"),
    "replicate weights" = say(" (replicate weights)"),
    "plausible values" = say(" (plausible values)"),
    "imputed data" = say(" (imputed data)"),
    ""
  )
}

p_clause <- function(result) {
  if (is.na(result$p)) return(say("no test, as there is no scatter"))
  how <- c(
    if (result$p_method == "exact") say("exact"), if (result$p_method == "permutation") say("permutation test"),
    if (result$expect != "either") say("one-sided, %s direction specified in advance", say(result$expect))
  )
  clause <- format_p_clause(result$p)
  if (length(how)) sprintf("%s (%s)", clause, paste(how, collapse = ", ")) else clause
}
