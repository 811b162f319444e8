#' Draw predictors of one outcome side by side
#'
#' A scatter plot for each predictor, all at the outcome's scale, with its line, r, the equation, and what it predicts.
#'
#' @param ranking Predictors from [rank_predictors()].
#' @param title,subtitle,caption Texts; written from the result when `NULL`, absent when `NA`.
#' @param plain `TRUE` for a figure without title, subtitle and caption.
#' @return A ggplot2 object.
#' @section Errors: `unsere_error_usage` when `ranking` is something else.
#' @examples
#' learners <- demo_study("learners")
#' draw_predictors(rank_predictors(learners, speaking_score, practice_hours, attendance_pct))
#' @export
draw_predictors <- function(ranking, title = NULL, subtitle = NULL, caption = NULL, plain = FALSE) {
  if (!inherits(ranking, "unsere_predictors")) {
    abort_usage(
      "`ranking` must come from rank_predictors().",
      "For example draw_predictors(rank_predictors(study, outcome, x1, x2))."
    )
  }
  figure_predictors(ranking, figure_texts(title, subtitle, caption, plain))
}

#' @rawNamespace S3method(ggplot2::autoplot, unsere_predictors)
autoplot.unsere_predictors <- function(object, ...) figure_predictors(object, ...)

figure_predictors <- function(ranking, texts = list()) {
  shown <- utils::head(Filter(Negate(is.null), ranking$lines), 6)
  if (!length(shown)) abort_usage("No predictor has a line to draw.", "Choose predictors that vary.")
  headings <- vapply(names(shown), function(name) predictor_heading(ranking, name), "")
  panel <- function(name) factor(headings[[name]], headings)
  dots <- do.call(rbind, lapply(names(shown), function(name) {
    data.frame(x = shown[[name]]$sample$x, y = shown[[name]]$sample$y, panel = panel(name))
  }))
  marks <- do.call(rbind, lapply(names(shown), function(name) {
    row <- ranking$predictions[ranking$predictions$x == name, ]
    if (length(row$at)) data.frame(x = row$at, y = row$fit, panel = panel(name))
  }))
  bands <- do.call(rbind, lapply(names(shown), function(name) {
    reach <- range(c(shown[[name]]$sample$x, marks$x[marks$panel == headings[[name]]]))
    data.frame(line_path(shown[[name]], reach), panel = panel(name))
  }))
  cases <- count_of(ranking$predictors$n[1], "case")
  about <- say("Line: least squares, with the confidence interval of the mean.")
  ggplot2::ggplot(dots, ggplot2::aes(.data$x, .data$y)) +
    ggplot2::geom_ribbon(ggplot2::aes(ymin = .data$low, ymax = .data$high),
      data = bands, fill = look$band,
      alpha = 0.12
    ) +
    ggplot2::geom_point(colour = look$dots, size = 2.2, alpha = if (nrow(dots) > 200) 0.55 else 0.85, stroke = 0) +
    ggplot2::geom_line(ggplot2::aes(group = .data$part, linetype = .data$part != "within"),
      data = bands,
      colour = look$ink,
      linewidth = 1
    ) +
    ggplot2::scale_linetype_manual(values = c("solid", "42"), guide = "none") +
    (if (!is.null(marks)) {
      ggplot2::geom_point(data = marks, shape = 21, size = 4, stroke = 1.2, fill = "white", colour = look$ink)
    }) +
    ggplot2::facet_wrap(ggplot2::vars(.data$panel), scales = "free_x", nrow = if (length(shown) <= 3) 1 else 2) +
    ggplot2::scale_x_continuous(labels = axis_numbers) +
    ggplot2::scale_y_continuous(labels = axis_numbers) +
    ggplot2::labs(
      x = NULL, y = axis_heading(ranking$variables, ranking$outcome),
      title = text_or(texts$title, predictors_title(ranking)),
      subtitle = text_or(texts$subtitle, say("The same variable, %s, in every panel", cases)),
      caption = text_or(texts$caption, paste(c(about, if (!is.null(marks)) say("Ring: predicted.")), collapse = " "))
    ) +
    theme_unsere(12) +
    ggplot2::theme(
      strip.text = ggplot2::element_text(hjust = 0, colour = look$ink, lineheight = 1.15),
      panel.spacing = ggplot2::unit(18, "pt")
    )
}

predictor_heading <- function(ranking, name) {
  relation <- ranking$relations[[match(name, vapply(ranking$relations, `[[`, "", "x"))]]
  row <- ranking$predictions[ranking$predictions$x == name, ]
  paste(c(
    axis_heading(ranking$variables, name), r_label(relation), strwrap(line_equation(ranking$lines[[name]], "x", "y"), 44),
    if (length(row$at)) say("at %s: %s", format_number(row$at, 5), format_number(row$fit))
  ), collapse = "\n")
}

predictors_title <- function(ranking) {
  first <- inside_of(ranking$variables, ranking$predictors$x[1])
  p <- ranking$comparisons$p_adjusted[ranking$comparisons$a == ranking$predictors$x[1]]
  ahead <- !anyNA(p) && all(is_below(p, ranking$confidence))
  text <- say(
    "%s is most strongly correlated with %s%s", begin(first, ranking$variables), inside_of(ranking$variables, ranking$outcome),
    if (ahead) "" else say(", not significantly ahead of the next")
  )
  wrap_lines(text, 58)
}

drawing_predictors <- function() {
  new_drawing("predictors", 3, 3L, 7L, function(study, names, options, texts) {
    figure_predictors(answer_rank(study, list(
      outcome = names[1], names = names[-1], confidence = options$confidence, at = options$at
    )), texts)
  }, list(at = at_argument()), at = "values", width = function(n) 11, height = function(n) if (n > 4) 9 else 5.5)
}
