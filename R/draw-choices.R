#' Draw a pair under every defensible choice
#'
#' The upper panel shows r under every choice, from the lowest to the highest, with its interval (dark: significant); the
#' lower panel shows which options each of them took.
#'
#' @param choices Choices from [vary_choices()].
#' @param title,subtitle,caption Text; `NA` for none. Default: written from the result.
#' @param plain `TRUE` for a figure without title, subtitle and caption. Default: `FALSE`.
#' @return A ggplot2 object.
#' @section Errors: `unsere_error_usage` if `choices` is something else.
#' @examples
#' draw_choices(vary_choices(
#'   demo_study("learners"), practice_hours, speaking_score,
#'   given = age_years, permutations = 99, seed = 1
#' ))
#' @export
draw_choices <- function(choices, title = NULL, subtitle = NULL, caption = NULL, plain = FALSE) {
  if (!inherits(choices, "unsere_choices")) {
    abort_usage("`choices` must come from vary_choices().", "Compute them first.")
  }
  figure_choices(choices, figure_texts(title, subtitle, caption, plain))
}

#' @rawNamespace S3method(ggplot2::autoplot, unsere_choices)
autoplot.unsere_choices <- function(object, ...) figure_choices(object, ...)

figure_choices <- function(choices, texts = list()) {
  rows <- choices$choices
  rows$place <- seq_len(nrow(rows))
  rows$clear <- (rows$p < 1 - choices$confidence) %in% TRUE
  options <- option_rows(choices, rows)
  title <- function(room = 56L) {
    x <- title_label(choices$variables, choices$x, room)
    y <- title_label(choices$variables, choices$y, room)
    say("%s and %s under every choice", begin(x, choices$variables), y)
  }
  panels <- c(say("r"), say("choices"))
  rows$panel <- factor(panels[1], panels)
  options$panel <- factor(panels[2], panels)
  figure <- ggplot2::ggplot(rows, ggplot2::aes(.data$place, .data$r)) +
    ggplot2::geom_hline(
      ggplot2::aes(yintercept = .data$at), data.frame(at = 0, panel = factor(panels[1], panels)),
      colour = look$ink, linewidth = 0.4
    ) +
    ggplot2::geom_linerange(
      ggplot2::aes(ymin = .data$ci_low, ymax = .data$ci_high),
      colour = look$dots, alpha = 0.35,
      linewidth = if (nrow(rows) > 30) 1.2 else 2
    ) +
    ggplot2::geom_point(ggplot2::aes(colour = .data$clear), size = 2.2) +
    ggplot2::geom_point(ggplot2::aes(y = .data$at, colour = .data$clear), options, shape = 15, size = 1.9) +
    ggplot2::scale_colour_manual(values = c(`TRUE` = look$ink, `FALSE` = look$negative), guide = "none") +
    ggplot2::scale_y_continuous(breaks = breaks_of_choices(options), labels = labels_of_choices(options)) +
    ggplot2::scale_x_continuous(breaks = NULL, expand = ggplot2::expansion(add = 0.7)) +
    ggplot2::facet_grid(rows = ggplot2::vars(.data$panel), scales = "free_y") +
    ggplot2::labs(
      x = NULL, y = NULL, title = text_or(texts$title, title()),
      subtitle = text_or(texts$subtitle, choices_subtitle(choices)),
      caption = text_or(texts$caption, say(
        "Bars: %s%% intervals. Orange: not significant. Joint test: %s permutations.", percent(choices$confidence),
        format_count(choices$permutations)
      ))
    ) +
    figure_look() +
    ggplot2::theme(
      strip.text = ggplot2::element_blank(), panel.grid.minor = ggplot2::element_blank(),
      axis.text.y = ggplot2::element_text(hjust = 1)
    )
  with_title(figure, title)
}

choices_subtitle <- function(choices) {
  say(
    "%s analyses, median r = %s; significant in %s%%; jointly %s", format_count(choices$k), format_r(choices$median),
    percent(round(choices$significant, 2)), format_p_clause(choices$p)
  )
}

# The options of each analysis, one below the other, far from where r can be.
option_rows <- function(choices, rows) {
  varied <- varied_columns(choices)
  row_list <- do.call(rbind, lapply(varied, function(name) {
    data.frame(place = rows$place, clear = rows$clear, name = option_words(choices, name, rows[[name]]))
  }))
  kinds <- unique(unlist(lapply(varied, function(name) {
    own <- unique(rows[[name]])
    option_words(choices, name, own[order(own != "none", nchar(own), own)])
  })))
  row_list$at <- 100 - match(row_list$name, kinds)
  row_list
}

breaks_of_choices <- function(options) {
  function(limits) if (limits[2] > 20) sort(unique(options$at)) else pretty(limits, 4)
}

labels_of_choices <- function(options) {
  function(breaks) {
    if (all(breaks < 20, na.rm = TRUE)) return(ifelse(is.na(breaks), "", format_r(breaks)))
    shorten(options$name[match(breaks, options$at)], 40)
  }
}

drawing_choices <- function() {
  arguments <- question_choices()$arguments[c("given", "x_also", "y_also", "permutations", "seed")]
  new_drawing("choices", 12, 2L, 2L, function(study, names, options, texts) {
    asked_for <- c(list(x = names[1], y = names[2]), options[c(names(arguments), "confidence")])
    figure_choices(answer_choices(study, asked_for), texts)
  }, arguments, height = function(n) 6)
}
