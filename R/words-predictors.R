# The predictors of one outcome.

#' @export
format.unsere_predictors <- function(x, ..., door = door_r()) {
  variables <- x$variables
  rows <- x$predictors
  strips <- mapply(format_strip, rows$r, rows$ci_low, rows$ci_high, 25L)
  table <- list(
    format(rows$rank), shorten(label_of(variables, rows$x), 26), coefficient_symbol(rows$coefficient), format_r(rows$r),
    mapply(format_interval, rows$ci_low, rows$ci_high), strips
  )
  names(table) <- c("", "predictor", "", "r", say("%s%% interval", percent(x$confidence)), "")
  lacking <- if (x$n_dropped) say(", %s with missing values excluded", format_count(x$n_dropped)) else ""
  c(
    set_title(say("Correlations with %s", inside_of(variables, x$outcome))), "",
    set_table(table, left_aligned = 3L), "",
    say("Differences"), set_table(comparison_cells(x), left_aligned = 2L), "",
    if (!is.null(x$predictions)) c(say("Predictions"), unlist(lapply(prediction_sentences(x), set_paragraph)), ""),
    set_paragraph(say("All based on the same %s%s.", count_of(rows$n[1], "case"), lacking)), set_intake(x, variables),
    set_named_cautions(x$cautions, variables, door), "", say("To report"), set_paragraph(in_words(x))
  )
}

#' Cautions of several pairs, each under the name of its first variable
#' @noRd
set_named_cautions <- function(cautions, variables, door) {
  if (!nrow(cautions)) return(NULL)
  caution_texts <- words_of_cautions(cautions, variables, door)
  texts <- sprintf("%s: %s %s", label_of(variables, cautions$x), caution_texts$evidence, caution_texts$advice)
  c("", say("Cautions"), set_entries(stats::setNames(as.list(trimws(texts)), say(caution_texts$severity))))
}

comparison_cells <- function(x) {
  rows <- x$comparisons
  cells <- list(
    shorten(label_of(x$variables, rows$a), 20), shorten(label_of(x$variables, rows$b), 20), format_r(rows$difference),
    mapply(format_interval, rows$ci_low, rows$ci_high), format_decimals(rows$value, 2), prose_p(rows$p_adjusted)
  )
  statistic <- if (anyNA(rows$df) || length(unique(rows$df)) > 1L) "t" else sprintf("t(%s)", format_df(rows$df[1]))
  names(cells) <- c(say("larger"), say("smaller"), "by", "interval", statistic, "adjusted p")
  cells
}

prediction_sentences <- function(x) {
  vapply(seq_len(nrow(x$predictions)), function(k) prediction_sentence(x, x$predictions[k, ]), "")
}

prediction_sentence <- function(x, row) {
  line <- x$lines[[row$x]]
  variables <- line$sample$variables
  decimals <- decimals_for(line$residual_sd, 3)
  unit <- unit_after(variables, x$outcome)
  at <- sprintf("%s = %s%s", inside_of(variables, row$x), format_number(row$at, 6), unit_after(variables, row$x))
  fit <- sprintf("%s %s%s", inside_of(variables, x$outcome), format_decimals(row$fit, decimals), unit)
  case <- format_interval(row$case_low, row$case_high, decimals, format_decimals)
  say(
    "At %s: %s, prediction interval for a new case %s%s.", at, fit, case,
    if (row$outside_data) say(", outside the data (extrapolation)") else ""
  )
}

#' @export
in_words.unsere_predictors <- function(result, digits = 2, ...) {
  paste(c(predictors_sentence(result, digits), predictor_clauses(result, digits)), collapse = " ")
}

# What the cautions say against each predictor's r.
predictor_clauses <- function(result, digits) {
  unlist(lapply(seq_len(nrow(result$predictors)), function(k) {
    x <- result$predictors$x[k]
    relation <- result$relations[[k]]
    against <- result$cautions$x %in% x & result$cautions$y %in% result$outcome
    of_x <- pick_cautions(result$cautions, against & !result$cautions$code %in% met_cautions(relation))
    clauses <- c(dependence_clause(relation, whole = TRUE), clause_sentences(of_x, result$variables, digits))
    if (length(clauses)) say("For %s: %s", inside_of(result$variables, x), paste(clauses, collapse = " "))
  }))
}

predictors_sentence <- function(result, digits) {
  rows <- result$predictors
  variables <- result$variables
  clause <- function(row) {
    interval <- say("%s%% CI %s", percent(result$confidence), format_interval(row$ci_low, row$ci_high))
    symbol <- coefficient_symbol(row$coefficient)
    sprintf("%s (%s = %s, %s)", inside_of(variables, row$x), symbol, format_r(row$r, digits), interval)
  }
  first <- begin(clause(rows[1, ]), variables)
  first <- say("%s was most strongly correlated with %s", first, inside_of(variables, result$outcome))
  if (!all(vapply(rows$coefficient, function(name) coefficient_record(name)$products, NA))) {
    untested <- say("%s; differences are not tested for this coefficient (n = %s).")
    return(say(untested, first, format_count(rows$n[1])))
  }
  straight <- all(vapply(rows$coefficient, function(name) coefficient_record(name)$linear, NA))
  approximate <- if (straight) "" else say(" Williams' t assumes Pearson's r and is approximate here.")
  sprintf(
    "%s, %s (%s, n = %s).%s", first, lead_words(result, clause), williams_words(result), format_count(rows$n[1]),
    approximate
  )
}

#' Whether the first is clearly ahead
#' @noRd
lead_words <- function(result, clause) {
  rows <- result$predictors
  leader <- rows$x[1]
  against <- result$comparisons[result$comparisons$a == leader | result$comparisons$b == leader, ]
  ahead <- !is.na(against$p_adjusted) & is_below(against$p_adjusted, result$confidence)
  two <- nrow(rows) == 2L
  if (all(ahead)) return(say("significantly ahead of %s", if (two) clause(rows[2, ]) else say("all others")))
  if (!any(ahead)) return(say("but not significantly ahead of %s", if (two) clause(rows[2, ]) else say("any other")))
  behind <- ifelse(against$a == leader, against$b, against$a)[!ahead]
  names <- in_series(inside_of(result$variables, behind), say(" or "))
  say("significantly ahead of some, but not of %s", names)
}

williams_words <- function(result) {
  only <- result$comparisons[1, ]
  name <- switch(only$statistic,
    "t by units" = say("by the design t"),
    t = "t",
    "jackknife t" = say("jackknife t"),
    say("Williams' t")
  )
  if (nrow(result$predictors) > 2L) return(paste0(name, say(", p adjusted (Holm)")))
  sprintf("%s(%s) = %s, %s", name, format_df(only$df), format_decimals(only$value, 2), format_p_clause(only$p))
}
