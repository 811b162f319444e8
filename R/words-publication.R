#' Make a correlation table for publication
#'
#' Arranges a correlation matrix as journals expect it: numbered variables with means, standard deviations and the lower
#' triangle of r; or rows by columns for a rectangular matrix. A note names the coefficients, n, and the meaning of any
#' marks.
#'
#' @param matrix A matrix from [correlation_matrix()].
#' @param stars Whether to mark p (after the matrix's adjustment) below .05, .01 and .001 with one, two and three stars.
#'   Default: `FALSE`.
#' @param intervals Whether to add the interval below each r. Default: `FALSE`.
#' @param digits Decimal places of r. Default: 2.
#' @param title The table's title; one string.
#' @return A table (class `unsere_table`), a list of `cells` (a data frame of text, as it is to be read), `numbers` (the
#'   same with real numbers, for a spreadsheet), `title`, `note`. It prints as text; see [write_tables()] for the forms
#'   it can be written in, and `flextable::as_flextable()` for one to put into a document of your own.
#' @section Errors: `unsere_error_usage` if `matrix` is not a matrix.
#' @references American Psychological Association (2020). *Publication manual* (7th ed.), chapter 7.
#' @examples
#' learners <- demo_study("learners")
#' found <- correlation_matrix(learners, practice_hours, speaking_score, confidence)
#' publication_table(found)
#' publication_table(found, stars = TRUE, intervals = TRUE)
#' @export
publication_table <- function(matrix, stars = FALSE, intervals = FALSE, digits = 2, title = NULL) {
  check_matrix(matrix)
  across <- if (is.null(matrix$columns)) utils::head(matrix$variables$variable, -1) else matrix$columns
  down <- if (is.null(matrix$rows)) matrix$variables$variable else matrix$rows
  entries <- matrix$variables[match(down, matrix$variables$variable), ]
  places <- pair_cells(matrix, down, across)
  texts <- publication_texts(matrix$pairs, places, stars, digits)
  marks <- publication_frame(entries, across, matrix, texts, format_column)
  if (intervals) marks <- with_intervals(marks, matrix$pairs, places, digits)
  r <- matrix(NA_real_, nrow(places), ncol(places))
  r[] <- matrix$pairs$r[places]
  structure(list(
    cells = marks, numbers = publication_frame(entries, across, matrix, r, identity),
    title = if (is.null(title)) say("Means, standard deviations and correlations") else title,
    note = publication_note(matrix, stars, intervals)
  ), class = c("unsere_table", "unsere_result"))
}

publication_texts <- function(pairs, places, stars, digits) {
  text <- format_r(pairs$r, digits)
  if (stars) text <- paste0(text, stars_of(pairs$p_adjusted))
  out <- matrix("", nrow(places), ncol(places))
  out[!is.na(places)] <- text[places[!is.na(places)]]
  out
}

stars_of <- function(p) ifelse(is.na(p), "", c("***", "**", "*", "")[findInterval(p, c(.001, .01, .05)) + 1L])

#' Number and label, M, SD, n where it varies, and the cells
#' @noRd
publication_frame <- function(entries, across, matrix, cells, figure) {
  numbered <- is.null(matrix$rows)
  labels <- heading_of(entries, entries$variable)
  if (numbered) labels <- sprintf("%d. %s", seq_along(labels), labels)
  if (numbered) {
    own <- cbind(seq_len(nrow(cells)), seq_len(nrow(cells)))
    if (is.character(cells)) cells[own[seq_len(ncol(cells)), , drop = FALSE]] <- undefined_mark()
  }
  frame <- data.frame(
    Variable = labels, M = figure(entries$mean), SD = figure(entries$sd),
    check.names = FALSE
  )
  if (length(unique(matrix$pairs$n)) > 1L) frame$n <- if (is.character(frame$M)) format(entries$n) else entries$n
  heads <- if (numbered) as.character(seq_along(across)) else heading_of(matrix$variables, across)
  cbind(frame, stats::setNames(as.data.frame(cells), heads))
}

#' A row under each variable with the intervals of its r
#' @noRd
with_intervals <- function(frame, pairs, places, digits) {
  first <- ncol(frame) - ncol(places)
  text <- mapply(format_interval, pairs$ci_low, pairs$ci_high, MoreArgs = list(digits = digits))
  rows <- lapply(seq_len(nrow(frame)), function(i) {
    shown <- !is.na(places[i, ])
    if (!any(shown)) return(frame[i, ])
    under <- frame[i, ]
    under[] <- ""
    under[first + which(shown)] <- text[places[i, shown]]
    rbind(frame[i, ], under)
  })
  frame <- do.call(rbind, rows)
  rownames(frame) <- NULL
  frame
}

publication_note <- function(matrix, stars, intervals) {
  n <- format_count(range(matrix$pairs$n))
  used <- unique(matrix$pairs$coefficient)
  adjusted <- c(
    holm = say("Holm's method"),
    "benjamini-hochberg" = say("Benjamini and Hochberg's method")
  )[matrix$multiplicity]
  ones <- matrix$variables[!is.na(matrix$variables$one), ]
  coded <- say("\"%s\" of %s", ones$one, inside_of(matrix$variables, ones$variable))
  tests <- say(", adjusted for %s (%s)", count_of(sum(!is.na(matrix$pairs$p)), "test"), adjusted)
  paste(c(
    say(
      "Note. n = %s%s.", if (n[1] == n[2]) n[1] else say("%s to %s", n[1], n[2]),
      if (n[1] == n[2]) "" else if (matrix$missing == "pairwise") say(" (pairwise deletion)") else ""
    ),
    say("M and SD: mean and standard deviation."),
    if (length(used) > 1L) mixture_words(matrix) else say("All r are %s.", say(coefficient_record(used)$adjective)),
    if (nrow(ones)) say("Counting as 1: %s.", toString(coded)),
    if (intervals) say("In brackets: %s%% confidence intervals.", percent(interval_confidence(matrix))),
    if (stars || intervals) dependence_notes(matrix$pairs),
    if (stars) sprintf("* p < .05, ** p < .01, *** p < .001%s.", if (is.na(adjusted)) "" else tests)
  ), collapse = " ")
}

#' @export
format.unsere_table <- function(x, ...) {
  cells <- as.list(x$cells)
  cells[[1]] <- shorten(cells[[1]], 28)
  widths <- vapply(seq_along(cells), function(k) max(nchar(c(names(cells)[k], cells[[k]]), "width")) + 2L, 0L)
  fixed <- sum(!grepl("^[0-9]+$", names(cells)) & seq_along(cells) <= 4L)
  blocks <- blocks_that_fit(widths, fixed)
  lines <- unlist(lapply(blocks, function(block) c(set_table(cells[c(seq_len(fixed), block)]), "")))
  c(set_title(x$title), "", lines, set_paragraph(x$note))
}

#' @export
as.data.frame.unsere_table <- function(x, ...) x$cells
