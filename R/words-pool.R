# Correlations pooled over groups, in words.

#' @export
format.unsere_pooled <- function(x, ..., door = door_r()) {
  c(
    set_title(pooled_heading(x)), "", set_table(pooled_cells(x, strips = TRUE)), "", set_entries(pooled_entries(x)),
    if (!is.null(x$moderator)) c("", say("Moderator"), set_table(moderator_cells(x))),
    "", say("To report"), set_paragraph(in_words(x)),
    unlist(lapply(pooled_notes(x), set_paragraph))
  )
}

pooled_heading <- function(x) {
  if (x$of_table) return(say("Published correlations, pooled"))
  say(
    "%s and %s, by %s", heading_of(x$variables, x$x), heading_of(x$variables, x$y), inside_of(x$variables, x$by)
  )
}

pooled_cells <- function(x, strips = FALSE) {
  rows <- x$groups
  names <- c(shorten(rows$name, if (strips) 28 else 60), say("Mean"), if (!is.na(x$prediction_low)) say("A new group"))
  add <- function(values, mean, new) c(values, mean, if (!is.na(x$prediction_low)) new)
  low <- add(rows$ci_low, x$ci_low, x$prediction_low)
  high <- add(rows$ci_high, x$ci_high, x$prediction_high)
  r <- add(rows$r, x$r, NA)
  cells <- list(
    group = names, n = add(format_count(rows$n), format_count(x$n), ""), r = ifelse(is.na(r), "", format_r(r)),
    interval = mapply(format_interval, low, high),
    weight = add(say("%s%%", format_decimals(100 * rows$weight, 0)), "", ""),
    without = add(ifelse(is.na(rows$r_without), "", format_r(rows$r_without)), "", "")
  )
  names(cells) <- c(
    say("group"), "n", coefficient_symbol(x$coefficient), say("%s%% interval", percent(x$confidence)), say("weight"),
    say("mean without")
  )
  if (strips) c(cells, list(" " = mapply(format_strip, ifelse(is.na(r), x$r, r), low, high, 21L))) else cells
}

moderator_cells <- function(x) {
  rows <- x$moderator$shown
  cells <- list(
    at = if (x$moderator$kind == "slope") format_number(as.numeric(rows$at), 4) else rows$at, r = format_r(rows$r),
    interval = mapply(format_interval, rows$ci_low, rows$ci_high)
  )
  names(cells) <- c(moderator_label(x), say("mean r"), say("%s%% interval", percent(x$confidence)))
  cells
}

moderator_label <- function(x) {
  if (x$moderator$name %in% x$variables$variable) label_of(x$variables, x$moderator$name) else x$moderator$name
}

pooled_entries <- function(x) {
  entries <- list(
    cases = say("%s in %s groups%s", format_count(x$n), format_count(x$k), excluded_words(x)),
    spread = paste(spread_clause(x), collapse = ", "),
    method = pooled_method(x)
  )
  if (nrow(x$excluded)) {
    reasons <- sprintf("%s (%s)", x$excluded$name, say(x$excluded$reason))
    entries$excluded <- paste(utils::head(reasons, 8), collapse = ", ")
  }
  if (!is.null(x$intake)) entries <- c(entries, list(coding = coding_clause(x, x$variables), read = intake_clause(x)))
  entries
}

excluded_words <- function(x) if (x$n_dropped > 0) say(", %s excluded", format_count(x$n_dropped)) else ""

pooled_method <- function(x) {
  clauses <- c(
    say("random effects on Fisher's z (REML), Hartung-Knapp interval"),
    if (abs(x$variance_factor - 1) > 0.005) say("variances of z times %s", format_decimals(x$variance_factor, 2)),
    if (x$shared_cases) say("errors correlated, as the groups share cases"),
    if (length(x$given)) say("controlling for %s", paste(x$given, collapse = ", ")),
    if (length(x$reliability)) say(
      "corrected for attenuation (%s)", paste(names(x$reliability), format_r(x$reliability), collapse = ", ")
    )
  )
  paste(clauses, collapse = "; ")
}

# "Q(4) = 12.10", "p = .017", "tau = .15, 95% CI [.04, .40]", "I2 = 67%".
spread_clause <- function(x) {
  marks <- if (writes_utf8()) c("\u03c4", "I\u00b2") else c("tau", "I^2")
  c(
    sprintf("Q(%s) = %s", format_df(x$q_df), format_statistic(x$q)), format_p_clause(x$q_p),
    say(
      "%s = %s, %s%% CI %s", marks[1], format_r(x$tau), percent(x$confidence), format_interval(x$tau_low, x$tau_high)
    ),
    paste(marks[2], "=", say("%s%%", format_decimals(100 * x$i_squared, 0)))
  )
}

#' @export
in_words.unsere_pooled <- function(result, digits = 2, ...) {
  paste(c(
    pooled_claim(result, digits), spread_sentence(result), prediction_words(result, digits),
    moderator_sentence(result, digits)
  ), collapse = " ")
}

pooled_claim <- function(x, digits) {
  figures <- paste(c(
    sprintf("%s = %s", coefficient_symbol(x$coefficient), format_r(x$r, digits)),
    say("%s%% CI %s", percent(x$confidence), format_interval(x$ci_low, x$ci_high, digits)),
    sprintf("t(%s) = %s", format_df(x$df), format_statistic(x$value)), format_p_clause(x$p)
  ), collapse = ", ")
  if (x$of_table) {
    return(say(
      "The mean of %s published correlations (n = %s) was %s%s (random effects).", format_count(x$k), format_count(x$n),
      figures, attenuation_clause(x)
    ))
  }
  names <- inside_of(x$variables, c(x$x, x$y))
  begin(say(
    "%s and %s had a mean correlation of %s%s over %s groups (%s; n = %s; random effects).", names[1], names[2], figures,
    attenuation_clause(x), format_count(x$k), inside_of(x$variables, x$by), format_count(x$n)
  ), x$variables)
}

attenuation_clause <- function(x) if (length(x$reliability)) say(", corrected for attenuation") else ""

# Few groups cannot show that they are alike.
spread_sentence <- function(x) {
  figures <- paste(spread_clause(x), collapse = ", ")
  if (isTRUE(x$q_p < 1 - x$confidence)) return(say("The correlations differed between the groups, %s.", figures))
  if (x$k < 5L) {
    return(say(
      "With %s groups little is known about how much the correlations differ, %s.", format_count(x$k), figures
    ))
  }
  say("The correlations did not differ significantly between the groups, %s.", figures)
}

prediction_words <- function(x, digits) {
  if (is.na(x$prediction_low)) return(say("From two groups the correlation in a new group cannot be predicted."))
  limits <- format_interval(x$prediction_low, x$prediction_high, digits)
  first <- say(
    "In a new group the correlation is expected within %s (%s%% prediction interval)", limits, percent(x$confidence)
  )
  holds_zero <- x$prediction_low <= 0 && x$prediction_high >= 0
  clear <- isTRUE(x$p < 1 - x$confidence)
  if (!holds_zero) return(paste0(first, say(": of the same sign.")))
  if (!clear) return(paste0(first, "."))
  paste0(first, say(": the mean differs from zero, but a group may have no correlation or one of the opposite sign."))
}

moderator_sentence <- function(x, digits = 2) {
  moderator <- x$moderator
  if (is.null(moderator)) return(NULL)
  name <- if (moderator$name %in% x$variables$variable) inside_of(x$variables, moderator$name) else moderator$name
  df <- paste(c(format_df(moderator$df), if (!is.na(moderator$df2)) format_df(moderator$df2)), collapse = ", ")
  test <- sprintf(
    "%s(%s) = %s, %s", moderator$statistic, df, format_statistic(moderator$value), format_p_clause(moderator$p)
  )
  clear <- isTRUE(moderator$p < 1 - x$confidence)
  if (moderator$k < x$k) name <- say("%s (known of %s groups)", name, format_count(moderator$k))
  ends <- paste(sprintf("%s: %s", moderator_cells(x)[[1]], format_r(moderator$shown$r, digits)), collapse = "; ")
  if (clear) {
    return(say("The correlation depended on %s, %s (mean r at %s).", name, test, ends))
  }
  say("The correlation did not depend significantly on %s, %s (mean r at %s).", name, test, ends)
}

#' What else has to be said of pooled correlations
#' @noRd
pooled_notes <- function(x) {
  cautions <- or_default(x$cautions, list(code = character(), groups = list()))
  c(
    if (!is.null(x$withheld)) say("Groups of fewer than %d cases are pooled, but not shown.", as.integer(x$withheld)),
    influence_note(x),
    if (!is.null(x$asymmetry)) asymmetry_note(x),
    unlist(Map(function(code, groups) {
      say("Caution in %s: %s", paste(utils::head(groups, 6), collapse = ", "), small_inside(meaning_of(code)))
    }, cautions$code, cautions$groups), use.names = FALSE)
  )
}

# A group without which the mean is no longer significant, or the only one that makes it so.
influence_note <- function(x) {
  clear <- x$p < 1 - x$confidence
  turned <- which((x$p_without < 1 - x$confidence) != clear)
  if (!length(turned)) return(NULL)
  if (length(turned) == x$k && clear) return(say("Without any one of the groups the mean is no longer significant."))
  names <- paste(utils::head(x$groups$name[turned], 6), collapse = say(" or "))
  if (clear) return(say("Without %s the mean is no longer significant.", names))
  say("Without %s the mean is significant.", names)
}

asymmetry_note <- function(x) {
  asymmetry <- x$asymmetry
  test <- sprintf("t(%s) = %s, %s", format_df(asymmetry$df), format_statistic(asymmetry$value), format_p_clause(asymmetry$p))
  if (isTRUE(x$asymmetry$p < 0.1)) {
    return(say(
      "Small groups show other correlations than large ones (%s): small studies may be missing, or differ otherwise.", test
    ))
  }
  say("Small groups show no other correlations than large ones (%s), which does not exclude missing studies.", test)
}

#' @export
as.data.frame.unsere_pooled <- function(x, ...) x$groups

#' @export
json_fields.unsere_pooled <- function(result, door = door_r()) {
  fields <- unclass(result)[pooled_fields]
  fields["reliability"] <- list(if (length(result$reliability)) as.list(result$reliability))
  cautions <- result$cautions
  c(
    json_head("pooled"), fields, list(
      given = many(or_default(result$given, character())), notes = or_default(many(pooled_notes(result)), list()),
      cautions = lapply(seq_along(cautions$code), function(k) {
        list(code = cautions$code[k], groups = as.list(cautions$groups[[k]]))
      }), sentence = in_words(result)
    ), if (!is.null(result$intake)) intake_fields(result)
  )
}

#' @export
markdown_lines.unsere_pooled <- function(result) {
  c(
    markdown_table(pooled_cells(result)), if (!is.null(result$moderator)) c("", markdown_table(moderator_cells(result))), "",
    in_words(result), unlist(lapply(pooled_notes(result), function(note) c("", note)))
  )
}
