#' Draw a pair over waves
#'
#' Draws every correlation of the waves with its interval on one scale: within waves, stability, cross-lagged, changes,
#' between and within persons.
#'
#' @param waves Waves from [relate_waves()].
#' @param title,subtitle,caption Text; `NA` for none. Default: written from the result.
#' @param plain `TRUE` for a figure without title, subtitle and caption. Default: `FALSE`.
#' @return A ggplot2 object.
#' @section Errors: `unsere_error_usage` if `waves` is something else.
#' @examples
#' draw_waves(relate_waves(demo_study("three_terms"), practice_hours, speaking_score, case = learner, time = term))
#' @export
draw_waves <- function(waves, title = NULL, subtitle = NULL, caption = NULL, plain = FALSE) {
  if (!inherits(waves, "unsere_waves")) abort_usage("`waves` must come from relate_waves().", "Compute them first.")
  figure_waves(waves, figure_texts(title, subtitle, caption, plain))
}

#' @rawNamespace S3method(ggplot2::autoplot, unsere_waves)
autoplot.unsere_waves <- function(object, ...) figure_waves(object, ...)

figure_waves <- function(waves, texts = list()) {
  rows <- ladder_of_waves(waves)
  title <- function(room = 56L) say("%s and %s over waves", capital(waves$labels[1]), small_inside(waves$labels[2]))
  figure <- ggplot2::ggplot(rows, ggplot2::aes(.data$r, .data$at)) +
    ggplot2::geom_blank() +
    ggplot2::geom_vline(xintercept = 0, colour = look$ink, linewidth = 0.4) +
    ggplot2::geom_segment(
      ggplot2::aes(x = .data$ci_low, xend = .data$ci_high, yend = .data$at),
      data = rows[!is.na(rows$ci_low), ],
      colour = look$dots, linewidth = if (nrow(rows) > 25) 1 else 1.7, lineend = "round"
    ) +
    ggplot2::geom_point(data = rows[!is.na(rows$r), ], size = if (nrow(rows) > 25) 1.8 else 2.6, colour = look$ink) +
    ggplot2::scale_y_continuous(breaks = rows$at, labels = rows$name, expand = ggplot2::expansion(add = 0.7)) +
    ggplot2::scale_x_continuous(labels = function(v) format_r(v)) +
    ggplot2::labs(
      x = say("%s, %s%% interval", coefficient_symbol(waves$coefficient), percent(waves$confidence)), y = NULL,
      title = text_or(texts$title, title()), subtitle = text_or(texts$subtitle, attrition_clause(waves)),
      caption = text_or(texts$caption, say("A cross-lagged difference does not show which of the two comes first."))
    ) +
    figure_look() +
    ggplot2::theme(
      axis.text.y = ggplot2::element_text(colour = look$ink, hjust = 1), panel.grid.major.y = ggplot2::element_blank(),
      panel.grid.minor.y = ggplot2::element_blank()
    )
  with_title(figure, title)
}

#' The rows of the figure: each kind under a line of its own with its name, those that are alone with it
#' @noRd
ladder_of_waves <- function(waves) {
  rows <- waves$relations[!is.na(waves$relations$r), ]
  waves$labels <- shorten(waves$labels, 24)
  rows$name <- wave_row_words(waves, rows)
  parts <- lapply(intersect(names(kind_words), rows$kind), function(kind) {
    own <- rows[rows$kind == kind, c("name", "r", "ci_low", "ci_high")]
    word <- say(kind_words[[kind]])
    if (nrow(own) == 1L) {
      own$name <- word
      return(own)
    }
    rbind(data.frame(name = paste0(capital(word), ":"), r = NA, ci_low = NA, ci_high = NA), own)
  })
  rows <- do.call(rbind, parts)
  rows$at <- -seq_len(nrow(rows))
  rows
}

drawing_waves <- function() {
  arguments <- question_waves()$arguments[c("case", "time", "coefficient")]
  new_drawing("waves", 13, 2L, 2L, function(study, names, options, texts) {
    figure_waves(answer_waves(study, c(list(x = names[1], y = names[2]), options[c(names(arguments), "confidence")])), texts)
  }, arguments, height = function(n) 7)
}
