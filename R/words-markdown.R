# Results as Markdown.

#' @noRd
as_markdown <- function(result) inert_markdown(markdown_lines(result))

markdown_lines <- function(result) UseMethod("markdown_lines")

# Names and labels stay text: no tag, no code and no link of theirs is one.
inert_markdown <- function(lines) {
  lines <- gsub("<(?=[[:alpha:]/!?])", "&lt;", lines, perl = TRUE)
  gsub("](", "]\\(", gsub("`", "&#96;", lines, fixed = TRUE), fixed = TRUE)
}

#' @export
markdown_lines.unsere_relation <- function(result) {
  c(markdown_table(relation_cells(result), left_aligned = 2L), "", in_words(result))
}

#' @export
markdown_lines.unsere_line <- function(result) {
  c(line_equation(result), "", markdown_table(line_term_cells(result), left_aligned = 1L), "", in_words(result))
}

markdown_table <- function(cells, left_aligned = 1L) {
  cells <- with_said_names(cells)
  escaped <- lapply(cells, function(column) gsub("|", "\\|", column, fixed = TRUE))
  row <- function(texts) paste0("| ", paste(texts, collapse = " | "), " |")
  c(
    row(names(cells)), row(ifelse(seq_along(cells) <= left_aligned, "---", "---:")),
    vapply(seq_along(escaped[[1]]), function(i) row(vapply(escaped, `[`, "", i)), "")
  )
}

#' @export
markdown_lines.unsere_matrix <- function(result) {
  c(markdown_table(matrix_cells(result), left_aligned = 3L), "", in_words(result), "", matrix_notes(result))
}

#' @export
markdown_lines.unsere_overview <- function(result) {
  rows <- result$variables
  cells <- lapply(rows[setdiff(names(rows), c("role", "distinct", "q1", "q3"))], function(column) {
    if (is.double(column)) format_number(column, 4) else ifelse(is.na(column), undefined_mark(), as.character(column))
  })
  markdown_table(cells, left_aligned = 4L)
}

#' @export
markdown_lines.unsere_matrices <- function(result) {
  data <- as.data.frame(result)
  variables <- result$pooled$variables
  cells <- list(
    ifelse(is.na(data[[1]]), "all", data[[1]]), label_of(variables, data$x), label_of(variables, data$y),
    format_r(data$r), mapply(format_interval, data$ci_low, data$ci_high), format(data$n), prose_p(data$p_adjusted)
  )
  names(cells) <- c(matrices_by_label(result), "x", "y", "r", "interval", "n", "adjusted p")
  c(markdown_table(cells, left_aligned = 3L), "", in_words(result))
}

#' @export
markdown_lines.unsere_table <- function(result) {
  plain <- function(text) gsub("*", "\\*", text, fixed = TRUE)
  c(paste0("**", result$title, "**"), "", markdown_table(lapply(result$cells, plain)), "", plain(result$note))
}

#' @export
markdown_lines.unsere_pair_list <- function(result) {
  variables <- attr(result, "matrix")$variables
  markdown_table(list(
    x = label_of(variables, result$x), y = label_of(variables, result$y), r = format_r(result$r),
    df = format_df(result$df), statistic = result$statistic, value = format_decimals(result$value, 2),
    p = format_p_full(result$p), strength = result$strength, sentence = result$sentence
  ), left_aligned = 2L)
}

#' @export
markdown_lines.unsere_predictors <- function(result) {
  rows <- result$predictors
  cells <- list(
    rank = format(rows$rank), predictor = label_of(result$variables, rows$x), r = format_r(rows$r),
    interval = mapply(format_interval, rows$ci_low, rows$ci_high), n = format(rows$n)
  )
  c(
    markdown_table(cells, left_aligned = 2L), "",
    markdown_table(comparison_cells(result), left_aligned = 2L), "", in_words(result)
  )
}

#' @export
markdown_lines.unsere_lines <- function(result) {
  rows <- result$lines
  cells <- list(
    line = rows$line, n = format(rows$n), "R squared" = format_r(rows$r_squared),
    "residual sd" = format_number(rows$residual_sd), AICc = format_decimals(rows$aicc, 1), equation = lines_equations(result)
  )
  c(markdown_table(cells), "", in_words(result))
}

#' @export
markdown_lines.unsere_residuals <- function(result) {
  cells <- list(
    case = result$largest$case, residual = format_number(result$largest$residual),
    SDs = format_decimals(result$largest$standardised, 2)
  )
  c(markdown_table(cells), "", in_words(result))
}
