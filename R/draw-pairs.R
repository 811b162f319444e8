#' Draw scatter plots of the pairs of a matrix
#'
#' Draws small scatter plots with both variables in standard deviations from their mean, so that the slope of each line
#' equals r and the panels are comparable.
#'
#' @param study A study, or a data frame.
#' @param matrix A matrix from [correlation_matrix()] of this study.
#' @param pairs The pairs: a data frame with `x` and `y`, such as from [above()]. Default: the strongest.
#' @param most The maximum number of panels.
#' @param title,subtitle,caption Text; `NA` for none. Default: written from the result.
#' @param plain `TRUE` for a figure without title, subtitle and caption. Default: `FALSE`.
#' @return A ggplot2 object.
#' @section Errors: `unsere_error_usage` if `matrix` is not a matrix or no pair is left.
#' @examples
#' learners <- demo_study("learners")
#' found <- correlation_matrix(learners, practice_hours, speaking_score, attendance_pct)
#' draw_pairs(learners, found)
#' @export
draw_pairs <- function(study, matrix, pairs = NULL, most = 12, title = NULL, subtitle = NULL, caption = NULL,
                       plain = FALSE) {
  check_matrix(matrix)
  figure_pairs(check_study(study), matrix, pairs, most, figure_texts(title, subtitle, caption, plain))
}

figure_pairs <- function(study, matrix, pairs = NULL, most = 12, texts = list()) {
  if (is.null(pairs)) pairs <- matrix$pairs
  pairs <- above_zero(merge_pairs(pairs, matrix), most)
  if (!nrow(pairs)) abort_usage("There is no pair to draw.", "Choose pairs of this matrix.")
  dots <- do.call(rbind, lapply(seq_len(nrow(pairs)), function(k) data.frame(k = k, panel_dots(study, pairs[k, ]))))
  lines <- data.frame(panel = factor(panel_heading(matrix, pairs), panel_heading(matrix, pairs)), slope = pairs$r)
  dots$panel <- lines$panel[dots$k]
  reach <- max(2.5, ceiling(max(abs(c(dots$x, dots$y))) * 2) / 2)
  figure <- ggplot2::ggplot(dots, ggplot2::aes(.data$x, .data$y)) +
    ggplot2::geom_point(colour = look$dots, size = 1.5, alpha = 0.5, stroke = 0) +
    ggplot2::geom_segment(ggplot2::aes(x = -reach, xend = reach, y = -reach * .data$slope, yend = reach * .data$slope),
      data = lines, colour = look$ink, linewidth = 0.8
    ) +
    ggplot2::facet_wrap(ggplot2::vars(.data$panel)) +
    ggplot2::coord_cartesian(xlim = c(-reach, reach), ylim = c(-reach, reach), expand = FALSE) +
    ggplot2::scale_x_continuous(breaks = c(-2, 0, 2), labels = axis_numbers) +
    ggplot2::scale_y_continuous(breaks = c(-2, 0, 2), labels = axis_numbers) +
    ggplot2::labs(
      title = text_or(texts$title, matrix_title(matrix)), subtitle = text_or(texts$subtitle, matrix_subtitle(matrix)),
      caption = text_or(
        texts$caption,
        say("Each variable in standard deviations from its mean; the slope of each line is r.")
      ),
      x = say("First variable (SD from its mean)"), y = say("Second variable (SD from its mean)")
    ) +
    figure_look(12) +
    ggplot2::theme(
      strip.text = ggplot2::element_text(colour = look$ink, hjust = 0, size = ggplot2::rel(0.85)),
      panel.spacing = ggplot2::unit(14, "pt")
    )
  with_title(figure, function(room) matrix_title(matrix, room))
}

merge_pairs <- function(pairs, matrix) {
  matrix$pairs[pair_key(matrix$pairs$x, matrix$pairs$y) %in% pair_key(pairs$x, pairs$y), ]
}

#' The dots of one panel, standardised; by rank where the coefficient is Spearman's
#' @noRd
panel_dots <- function(study, pair) {
  sample <- sample_pair(study, pair$x, pair$y)
  scores <- coefficient_record(pair$coefficient)$scores
  data.frame(x = standard_scores(scores(sample$x)), y = standard_scores(scores(sample$y)))
}

panel_heading <- function(matrix, pairs) {
  one <- function(k) {
    paste0(
      shorten(label_of(matrix$variables, pairs$x[k]), 30), "\n", shorten(
        label_of(matrix$variables, pairs$y[k]),
        30
      ),
      "\n", coefficient_symbol(pairs$coefficient[k]), " = ", format_r(pairs$r[k]), " ",
      format_interval(pairs$ci_low[k], pairs$ci_high[k])
    )
  }
  vapply(seq_len(nrow(pairs)), one, "")
}

drawing_pairs <- function() {
  new_drawing("pairs", 5, 2L, 30L, function(study, names, options, texts) {
    figure_pairs(study, answer_matrix(study, list(names = names)), texts = texts)
  }, width = function(n) 11, height = function(n) if (n > 4) 9 else if (n > 2) 7 else 5)
}
