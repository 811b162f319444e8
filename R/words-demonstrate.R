# The demonstrations in words.

#' @export
format.unsere_demonstration <- function(x, ..., door = door_r()) {
  c(
    set_title(demonstration_question(x)), "", set_table(demonstration_cells(x)), "",
    unlist(lapply(demonstration_text(x), set_paragraph)), "",
    set_paragraph(say("Made-up data, seed %s.", format(x$seed, scientific = FALSE)))
  )
}

demonstration_question <- function(x) {
  switch(x$topic,
    "sample-size" = say("How does p change with n if r stays the same?"),
    "one-case" = say("How far does one case move r?"),
    "restricted-range" = say("What does a restricted range do to r?"),
    groups = say("Can groups reverse a correlation?")
  )
}

# "n = 10" and places stand as they are, words are said.
panel_words <- function(panel) {
  words <- c("all", "upper half", "upper quarter", "upper tenth")
  ifelse(panel %in% words, say(panel), panel)
}

demonstration_cells <- function(x) {
  rows <- x$rows
  cells <- list(
    panel = panel_words(rows$panel), n = format_count(rows$n), r = format_r(rows$r),
    interval = mapply(format_interval, rows$ci_low, rows$ci_high), p = prose_p(rows$p)
  )
  names(cells) <- c(demonstration_column(x), "n", "r", say("%s%% interval", "95"), "p")
  more <- switch(x$topic,
    "one-case" = stats::setNames(
      list(format_r(rows$ranks), prose_p(rows$p_ranks)),
      c(say("r of ranks"), say("p of ranks"))
    ),
    "restricted-range" = stats::setNames(
      list(format_decimals(rows$sd, 2), format_r(rows$corrected)),
      c(say("SD of x"), say("r, corrected"))
    )
  )
  c(cells, more)
}

demonstration_column <- function(x) {
  switch(x$topic,
    "sample-size" = say("sample"),
    "one-case" = say("the case at"),
    "restricted-range" = say("cases"),
    groups = say("group")
  )
}

#' What there is to see, paragraph by paragraph
#' @noRd
demonstration_text <- function(x) {
  rows <- x$rows
  first <- rows[1, ]
  last <- rows[nrow(rows), ]
  switch(x$topic,
    "sample-size" = c(
      say(
        "In every sample r is exactly %s. With %s cases p is %s, with %s cases %s.", format_r(first$r),
        format_count(first$n), prose_p(first$p), format_count(last$n), prose_p(last$p)
      ),
      say(paste(
        "p does not measure the size of a correlation: it says how easily a sample without any correlation in the",
        "population would show one of this size. The interval shows what the data leave open, and narrows with n."
      ))
    ),
    "one-case" = c(
      say(
        "Without the last case r of these %s cases is zero. At %s it makes r %s (p %s), at %s %s (p %s).",
        format_count(first$n - 1), rows$panel[2], format_r(rows$r[2]), format_p_mark(rows$p[2]), last$panel,
        format_r(last$r), format_p_mark(last$p)
      ),
      say(
        paste(
          "The correlation of the ranks stays at %s: ranks do not know how far away a case is. Look at the plot first, and",
          "report r with and without such a case."
        ), format_r(last$ranks)
      )
    ),
    "restricted-range" = c(
      say(
        "Of all %s cases r is %s; of the %s with the highest x it is %s, although nothing about the line has changed.",
        format_count(first$n), format_r(first$r), format_count(last$n), format_r(last$r)
      ),
      say(paste(
        "r compares the line's rise with the scatter about it. With less spread in x the same scatter weighs more. With the",
        "standard deviation of x among all cases, r can be corrected (Thorndike 1949)."
      ))
    ),
    groups = c(
      say(
        "Over all %s cases r is %s; within every one of the four groups it is %s.", format_count(first$n), format_r(first$r),
        format_r(last$r)
      ),
      say(paste(
        "The groups with higher means of x have higher means of y, and that is what r over all cases shows. A",
        "correlation over groups says nothing about the cases in them (Robinson 1950)."
      ))
    )
  )
}

format_p_mark <- function(p) {
  text <- prose_p(p)
  if (startsWith(text, "<")) text else paste("=", text)
}

#' @export
in_words.unsere_demonstration <- function(result, digits = 2, ...) paste(demonstration_text(result), collapse = " ")

#' @export
as.data.frame.unsere_demonstration <- function(x, ...) x$rows

#' @export
json_fields.unsere_demonstration <- function(result, door = door_r()) {
  c(json_head("demonstration"), list(
    topic = result$topic, seed = result$seed, question = demonstration_question(result), rows = result$rows,
    sentence = in_words(result)
  ))
}

#' @export
markdown_lines.unsere_demonstration <- function(result) {
  texts <- unlist(lapply(demonstration_text(result), function(text) c("", text)))
  c(markdown_table(demonstration_cells(result)), texts)
}
