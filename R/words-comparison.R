#' @export
format.unsere_lines <- function(x, ...) {
  rows <- x$lines
  cells <- list(line = rows$line, n = format(rows$n), r2 = format_r(rows$r_squared),
    adjusted = format_r(rows$adj_r_squared),
    sd = format_number(rows$residual_sd), aicc = format_decimals(rows$aicc, 1), weight = format_decimals(rows$weight,
      2))
  names(cells)[3:5] <- c(paste0("r", glyphs()$squared), "adjusted", "residual sd")
  names(cells)[6] <- "AICc"
  if (!x$same_y) cells <- cells[1:5]
  c(set_title(comparison_title(x)), "", set_table(cells), "", unlist(lapply(paste0(rows$line, ": ", rows$equation),
    set_paragraph)),
    "", set_paragraph(in_words(x)))
}

comparison_title <- function(x) {
  first <- x$originals[[1]]
  sprintf("Lines of %s by %s", inside_of(first$pair$variables, first$y), inside_of(first$pair$variables, first$x))
}

#' @export
in_words.unsere_lines <- function(result, digits = 2, ...) {
  if (!result$same_y) return(levels_words(result))
  rows <- result$lines
  best <- which.min(rows$aicc)
  against <- rows$aicc - rows$aicc[best]
  near <- setdiff(which(against < 2), best)
  paste(c(
    if (!is.null(result$curve)) sprintf("The curve term is %s of chance, t(%d) = %s, %s.",
      if (result$curve$p < 0.05) "clear" else "not clear", result$curve$df, format_decimals(result$curve$t, 2),
      format_p_clause(result$curve$p)),
    sprintf("By Akaike's criterion the %s line reads best (weight %s),", rows$line[best],
      format_decimals(rows$weight[best], 2)),
    if (length(near)) sprintf("but not by much: %s %s within 2 of it; take the one that is easier to explain.",
      paste(rows$line[near], collapse = " and "), if (length(near) == 1) "is" else "are")
    else sprintf("the next is %s behind.", format_decimals(min(against[-best]), 1))
  ), collapse = " ")
}

#' Levels and changes explain different values, so no criterion compares them; the slopes do
#' @noRd
levels_words <- function(result) {
  told <- vapply(names(result$originals), function(name) {
    line <- result$originals[[name]]
    slope <- line$terms[2, ]
    sprintf("%s: slope %s, %s, %s", name, format_number(slope$estimate), format_p_clause(slope$p),
      if (slope$p < 1 - line$confidence) "clear of zero" else "not clear of zero")
  }, "")
  paste0("These lines explain different values, so their fit cannot be ranked; compare what they say. ",
    paste(told, collapse = ". "), ".")
}

#' @export
format.unsere_difference <- function(x, ...) {
  variables <- lapply(x$relations, function(relation) relation$pair$variables)
  name <- function(k) {
    sprintf("%s and %s", label_of(variables[[k]], x$relations[[k]]$x), inside_of(variables[[k]],
    x$relations[[k]]$y))
  }
  c(
    set_title(paste(name(1), "against", name(2))), "",
    set_entries(list(
      first = sprintf("r = %s, n = %d", format_r(x$r_a), x$n_a), second = sprintf("r = %s, n = %d", format_r(x$r_b),
        x$n_b),
      difference = paste0(format_r(x$difference), if (!is.na(x$ci_low)) paste0(" ", format_interval(x$ci_low,
        x$ci_high))),
      evidence = comparison_evidence(x), cases = c(same = "the same cases", different = "different cases")[[x$cases]]
    )), "", set_paragraph(in_words(x))
  )
}

comparison_evidence <- function(x) {
  switch(x$statistic,
    "williams t" = sprintf("Williams' t(%d) = %s, %s", x$df, format_decimals(x$value, 2), format_p_clause(x$p)),
    "steiger z" = sprintf("Steiger's z = %s, %s", format_decimals(x$value, 2), format_p_clause(x$p)),
    sprintf("z = %s, %s", format_decimals(x$value, 2), format_p_clause(x$p))
  )
}

#' @export
in_words.unsere_difference <- function(result, digits = 2, ...) {
  figures <- paste0(comparison_evidence(result), if (!is.na(result$ci_low)) sprintf(", %s %% CI %s",
    percent(result$confidence),
    format_interval(result$ci_low, result$ci_high)))
  if (result$p < 1 - result$confidence) {
    return(sprintf("The first r was %s than the second by %s, %s.", if (result$difference > 0) "higher" else "lower",
      format_r(abs(result$difference), digits), figures))
  }
  sprintf("The two r differed by %s, which is not clear of chance, %s; that does not show that they are equal.",
    format_r(result$difference, digits), figures)
}

#' @export
format.unsere_predictors <- function(x, ...) {
  variables <- x$variables
  rows <- x$predictors
  table <- list(rank = format(rows$rank), x = shorten(label_of(variables, rows$x), 26),
    symbol = vapply(rows$coefficient, coefficient_symbol, ""), r = format_r(rows$r), interval = mapply(format_interval,
      rows$ci_low, rows$ci_high), strip = vapply(seq_len(nrow(rows)), function(k) {
      format_strip(rows$r[k], rows$ci_low[k], rows$ci_high[k], 25L)
    }, ""))
  names(table) <- c("", "predictor", "", "r", sprintf("%s %% interval", percent(x$confidence)), "")
  c(
    set_title(sprintf("What goes best with %s", inside_of(variables, x$outcome))), "",
    set_table(table, left = 3L), "",
    "Differences", set_table(comparison_cells(x), left = 2L), "",
    if (!is.null(x$predictions)) c("Predictions", unlist(lapply(seq_len(nrow(x$predictions)), function(k) {
      set_paragraph(prediction_sentence(x, x$predictions[k, ]))
    })), ""),
    set_paragraph(sprintf("All on the same %s%s.", count_of(rows$n[1], "case"), if (x$n_dropped) sprintf(
      ", %d left out that lack one of these variables", x$n_dropped) else "")),
    set_cautions(x$cautions), "", "To report", set_paragraph(in_words(x))
  )
}

comparison_cells <- function(x) {
  rows <- x$comparisons
  cells <- list(shorten(label_of(x$variables, rows$a), 20), shorten(label_of(x$variables, rows$b), 20),
    format_r(rows$difference), mapply(format_interval, rows$ci_low, rows$ci_high), format_decimals(rows$value, 2),
    prose_p(rows$p_adjusted))
  names(cells) <- c("larger", "smaller", "by", "interval", sprintf("t(%d)", rows$df[1]), "p adj.")
  cells
}

prediction_sentence <- function(x, row) {
  line <- x$lines[[row$x]]
  variables <- line$pair$variables
  decimals <- decimals_for(line$residual_sd, 3)
  sprintf("At %s = %s%s: %s %s%s, a single case %s%s.", inside_of(variables, row$x), format_number(row$at, 6),
    unit_after(variables, row$x), inside_of(variables, x$outcome), format_decimals(row$fit, decimals),
    unit_after(variables, x$outcome), format_interval(row$case_low, row$case_high, decimals, format_decimals),
    if (row$outside_data) ", outside the data" else "")
}

#' @export
in_words.unsere_predictors <- function(result, digits = 2, ...) {
  rows <- result$predictors
  variables <- result$variables
  first <- result$comparisons[result$comparisons$a == rows$x[1] | result$comparisons$b == rows$x[1], ]
  ahead <- !is.na(first$p_adjusted) & first$p_adjusted < 1 - result$confidence
  clause <- function(row) {
    sprintf("%s (%s = %s, %s)", inside_of(variables, row$x), coefficient_symbol(row$coefficient),
    format_r(row$r, digits), format_interval(row$ci_low, row$ci_high))
  }
  told <- sprintf("%s went best with %s", capital(clause(rows[1, ])), inside_of(variables, result$outcome))
  verdict <- if (all(ahead)) {
    sprintf("clearly ahead of %s", if (nrow(rows) == 2) clause(rows[2, ]) else "all others")
  } else if (!any(ahead)) {
    sprintf("but not clearly ahead of %s", if (nrow(rows) == 2) clause(rows[2, ]) else "any other")
  } else {
    behind <- setdiff(unique(c(first$a, first$b)), rows$x[1])
    open <- vapply(behind, function(name) !ahead[first$a == name | first$b == name], NA)
    sprintf("clearly ahead of some, but not of %s", paste(vapply(behind[open], inside_of, "", variables = variables),
      collapse = " or "))
  }
  how <- sprintf("Williams' t%s, n = %d", if (nrow(rows) > 2) ", p adjusted by Holm" else sprintf("(%d) = %s, %s",
    first$df[1],
    format_decimals(first$value[1], 2), format_p_clause(first$p[1])), rows$n[1])
  paste0(told, ", ", verdict, " (", how, ").", if (any(rows$coefficient != "pearson"))
    " Williams' t is made for Pearson's r and is approximate here." else "")
}
