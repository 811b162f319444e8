# The items of a scale as the terminal shows them, and what to report.

#' @export
format.unsere_items <- function(x, ..., door = door_r()) {
  rows <- x$items
  flagged <- rows[nzchar(rows$flags), ]
  ends <- advised_ends(x)
  c(
    set_title(items_title(x, nrow(rows))), "",
    set_heading(paste0(
      bold(say("alpha = %s %s", format_alpha(x$alpha), alpha_interval(ends[1], ends[2]))),
      soft(say(
        "   omega = %s%s; %s%% interval %s", format_r(x$omega),
        if (is.na(x$omega_low)) "" else paste0(" ", format_interval(x$omega_low, x$omega_high)), percent(x$confidence),
        switch(x$advised,
          Feldt = say("by Feldt"),
          jackknife = say("by the jackknife over persons"),
          design = say("by the design")
        )
      ))
    )), "",
    set_table(item_cells(x, 24)), "",
    set_entries(list(
      "between items" = say("mean r %s, from %s to %s", format_r(x$mean_r), format_r(x$least_r), format_r(x$most_r)),
      "of the sum" = say("standard error of measurement %s points", format_number(x$sem, 3)),
      "other interval" = switch(x$advised,
        Feldt = say(
          "alpha %s by the jackknife over persons", alpha_interval(x$alpha_jackknife[1], x$alpha_jackknife[2])
        ),
        jackknife = say(
          "alpha %s by Feldt, which assumes normal answers", alpha_interval(x$alpha_low, x$alpha_high)
        )
      ),
      # Of a sum whose items hang together less than not at all no length makes a scale.
      length = if (x$alpha > 0) say(
        "half as long %s, twice as long %s (Spearman-Brown)", format_r(at_other_length(x$alpha, 0.5)),
        format_r(at_other_length(x$alpha, 2))
      ),
      turned = if (length(x$reverse)) paste(label_of(x$variables, x$reverse), collapse = ", "),
      groups = if (!is.null(x$groups)) paste(sprintf(
        "%s %s %s (n = %d)", x$groups$group, format_alpha(x$groups$alpha),
        mapply(alpha_interval, x$groups$alpha_low, x$groups$alpha_high), x$groups$n
      ), collapse = "; ")
    )),
    if (nrow(flagged)) {
      c("", say("Flagged items"), set_entries(stats::setNames(as.list(flag_words(flagged, x$variables)), flagged$item)))
    },
    option_lines(x$options), "", say("To report"), set_paragraph(in_words(x))
  )
}

items_title <- function(x, items) {
  if (identical(x$missing, "listwise")) {
    return(say("%d items, %s answered all; the others are excluded", items, count_of(x$n, "person")))
  }
  if (x$n == x$n_complete) return(say("%d items, %s answered all", items, count_of(x$n, "person")))
  say("%d items, %s, of whom %s answered all", items, count_of(x$n, "person"), format_count(x$n_complete))
}

# Alpha ends at 1, not at -1.
format_alpha <- function(alpha, digits = 2, one = format_r) {
  ifelse(is.na(alpha) | alpha > -1 + 0.5 * 10^-digits, one(alpha, digits), format_decimals(alpha, digits))
}

alpha_interval <- function(low, high, digits = 2) {
  format_interval(low, high, digits, one = function(alpha, digits) format_alpha(alpha, digits, format_limit))
}

# The interval of alpha that is told.
advised_ends <- function(items) {
  if (identical(items$advised, "jackknife")) items$alpha_jackknife else c(items$alpha_low, items$alpha_high)
}

option_lines <- function(options) {
  if (!is.null(options)) c("", say("Options (* right)"), set_table(option_cells(options), left_aligned = 2L))
}

#' @export
in_words.unsere_items <- function(result, digits = 2, ...) {
  ends <- advised_ends(result)
  sentences <- say(
    paste(
      "The sum of the %d items had alpha = %s, %s%% CI %s%s, and omega = %s (n = %s); items correlated r = %s on",
      "average and %s to %s with the rest."
    ),
    nrow(result$items), format_alpha(result$alpha, digits), percent(result$confidence),
    alpha_interval(ends[1], ends[2], digits),
    if (identical(result$advised, "jackknife")) say(" (jackknife over persons)") else "",
    format_r(result$omega, digits), format_count(result$n),
    format_r(result$mean_r, digits), format_r(min(result$items$item_rest, na.rm = TRUE), digits),
    format_r(max(result$items$item_rest, na.rm = TRUE), digits)
  )
  sentences <- paste(c(sentences, sets_sentence(result)), collapse = " ")
  against <- result$items$item[has_flag(result$items$flags, "negative")]
  if (!length(against)) return(sentences)
  labels <- inside_of(result$variables, against)
  last <- length(labels)
  if (last > 1L) labels <- c(paste(labels[-last], collapse = ", "), labels[last])
  if (last == 1L) {
    return(paste(sentences, say("%s was negatively related to the other items.", begin(labels, result$variables))))
  }
  first <- begin(labels[1], result$variables)
  paste(sentences, say("%s and %s were negatively related to the other items.", first, labels[2]))
}

#' @export
json_fields.unsere_items <- function(result, door = door_r()) {
  c(json_head("items"), list(
    items = result$items, alpha = result$alpha, alpha_low = result$alpha_low, alpha_high = result$alpha_high,
    alpha_jackknife = result$alpha_jackknife, advised = result$advised, missing = result$missing, omega = result$omega,
    omega_low = result$omega_low, omega_high = result$omega_high, mean_r = result$mean_r, sem = result$sem, n = result$n,
    n_complete = result$n_complete,
    confidence = result$confidence, options = or_default(result$options, list()),
    curves = or_default(result$curves, list()), groups = or_default(result$groups, list()),
    sentence = in_words(result)
  ), sets_fields(result))
}

#' The items side by side, and the options
#' @noRd
item_cells <- function(items, room = Inf) {
  rows <- items$items
  labels <- label_of(items$variables, rows$item)
  cells <- list(
    if (is.finite(room)) shorten(labels, room) else labels, format_count(rows$n), format_decimals(rows$mean, 2),
    format_decimals(rows$sd, 2), format_r(rows$item_rest), mapply(format_interval, rows$ci_low, rows$ci_high),
    format_alpha(rows$alpha_without)
  )
  names(cells) <- c(
    "item", "n", if (length(items$keyed)) "right" else "mean", "sd", "item-rest r", "interval",
    "alpha if removed"
  )
  cells
}

option_cells <- function(options) {
  cells <- list(
    options$item, paste0(options$option, ifelse(options$right, " *", "")),
    sprintf("%s %%", format_decimals(100 * options$share, 0)), format_r(options$rest)
  )
  stats::setNames(cells, c("item", "option", "chosen", "item-rest r"))
}

#' @export
markdown_lines.unsere_items <- function(result) {
  c(
    markdown_table(c(item_cells(result), list("flagged" = flag_words(result$items, result$variables)))),
    "", in_words(result)
  )
}

has_flag <- function(flags, code) vapply(strsplit(flags, ";", fixed = TRUE), function(codes) code %in% codes, NA)

#' What is worth a look in each item, in words
#' @param rows Items, with their `flags` (codes separated by semicolons) and `redundant_with`.
#' @noRd
flag_words <- function(rows, variables) {
  vapply(seq_len(nrow(rows)), function(k) {
    codes <- strsplit(rows$flags[k], ";", fixed = TRUE)[[1]]
    paste(vapply(codes, function(code) {
      switch(code,
        too_easy = say("too easy"),
        too_hard = say("too hard"),
        negative = say("negatively related to the other items; reverse-scored?"),
        adds_nothing = say("unrelated to the other items"),
        redundant = say("redundant with %s", inside_of(variables, rows$redundant_with[k])),
        distractor = say("distractor chosen by high scorers"),
        constant = say("constant")
      )
    }, ""), collapse = "; ")
  }, "")
}
