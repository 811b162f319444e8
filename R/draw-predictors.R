#' Draw predictors of one outcome side by side
#'
#' Draws a scatter plot for each predictor on a common scale of the outcome, with its line, r, equation and predictions.
#'
#' @param ranking Predictors from [rank_predictors()].
#' @param whole_axes `TRUE` extends each axis to the outermost case. Default: a few cases more than three interquartile
#'   ranges from the box (Tukey 1977) are drawn at the edge of the panel with their names and values.
#' @param title,subtitle,caption Text; `NA` for none. Default: written from the result.
#' @param plain `TRUE` for a figure without title, subtitle and caption. Default: `FALSE`.
#' @return A ggplot2 object.
#' @section Errors: `unsere_error_usage` if `ranking` is something else.
#' @references Tukey, J. W. (1977). *Exploratory data analysis*. Addison-Wesley.
#' @examples
#' learners <- demo_study("learners")
#' draw_predictors(rank_predictors(learners, speaking_score, practice_hours, attendance_pct))
#' @export
draw_predictors <- function(ranking, whole_axes = FALSE, title = NULL, subtitle = NULL, caption = NULL, plain = FALSE) {
  if (!inherits(ranking, "unsere_predictors")) {
    abort_usage(
      "`ranking` must come from rank_predictors().",
      "For example draw_predictors(rank_predictors(study, outcome, x1, x2))."
    )
  }
  figure_predictors(ranking, figure_texts(title, subtitle, caption, plain), isTRUE(whole_axes))
}

#' @rawNamespace S3method(ggplot2::autoplot, unsere_predictors)
autoplot.unsere_predictors <- function(object, ...) figure_predictors(object, ...)

figure_predictors <- function(ranking, texts = list(), whole_axes = FALSE) {
  shown <- utils::head(Filter(Negate(is.null), ranking$lines), 6)
  if (!length(shown)) abort_usage("No predictor has a line to draw.", "Choose predictors that vary.")
  headings <- vapply(names(shown), function(name) predictor_heading(ranking, name), "")
  panel <- function(name) factor(headings[[name]], headings)
  reaches <- lapply(shown, function(line) if (whole_axes) range(line$sample$x) else bulk_ends(line$sample$x))
  dots <- do.call(rbind, lapply(names(shown), function(name) {
    data.frame(dots_in_reach(shown[[name]]$sample, reaches[[name]]), panel = panel(name))
  }))
  beyond <- dots[dots$beyond != 0, ]
  dots <- dots[dots$beyond == 0, ]
  marks <- do.call(rbind, lapply(names(shown), function(name) {
    row <- ranking$predictions[ranking$predictions$x == name, ]
    if (length(row$at)) data.frame(x = row$at, y = row$fit, panel = panel(name))
  }))
  bands <- do.call(rbind, lapply(names(shown), function(name) {
    reach <- range(c(reaches[[name]], marks$x[marks$panel == headings[[name]]]))
    data.frame(line_path(shown[[name]], reach), panel = panel(name))
  }))
  about <- c(
    say("Line: least squares, with the confidence interval of the mean."),
    if (nrow(beyond)) say("Triangles: cases beyond the edge of their panel, with their values.")
  )
  figure <- ggplot2::ggplot(dots, ggplot2::aes(.data$x, .data$y)) +
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
    layer_beyond(beyond) +
    ggplot2::facet_wrap(ggplot2::vars(.data$panel), scales = "free_x", nrow = if (length(shown) <= 3) 1 else 2) +
    ggplot2::scale_x_continuous(labels = axis_numbers) +
    ggplot2::scale_y_continuous(labels = axis_numbers) +
    ggplot2::labs(
      x = NULL, y = axis_heading(ranking$variables, ranking$outcome),
      title = text_or(texts$title, predictors_title(ranking)),
      subtitle = text_or(texts$subtitle, predictors_subtitle(ranking)),
      caption = text_or(texts$caption, paste(c(about, if (!is.null(marks)) say("Ring: predicted.")), collapse = " "))
    ) +
    figure_look(12) +
    ggplot2::theme(
      strip.text = ggplot2::element_text(hjust = 0, colour = look$ink, lineheight = 1.15),
      panel.spacing = ggplot2::unit(18, "pt")
    )
  with_title(figure, function(room) predictors_title(ranking, room))
}

#' The least and the largest value to show: all of them, unless a few far from the box would squeeze the rest
#' @noRd
bulk_ends <- function(values) {
  quarters <- stats::quantile(values, c(.25, .75), names = FALSE)
  inside <- values >= quarters[1] - 3 * diff(quarters) & values <= quarters[2] + 3 * diff(quarters)
  few <- sum(!inside) <= max(3, 0.02 * length(values))
  if (few && diff(range(values)) > 1.6 * diff(range(values[inside]))) range(values[inside]) else range(values)
}

#' The dots of a panel; those beyond it stand at its edge, with name and value
#' @noRd
dots_in_reach <- function(sample, reach) {
  beyond <- (sample$x > reach[2]) - (sample$x < reach[1])
  label <- rep("", length(beyond))
  out <- which(beyond != 0)
  if (length(out)) label[out] <- sprintf("%s: %s", sample_cases(sample, out), format_number(sample$x[out], 4))
  data.frame(x = pmin(pmax(sample$x, reach[1]), reach[2]), y = sample$y, beyond = beyond, label = label)
}

layer_beyond <- function(beyond) {
  if (!nrow(beyond)) return(NULL)
  list(
    ggplot2::geom_point(data = beyond, shape = 17, size = 2.8, colour = look$negative),
    do.call(ggplot2::geom_label, c(list(ggplot2::aes(label = .data$label, hjust = ifelse(.data$beyond > 0, 1, 0)),
      data = beyond, vjust = -0.4, size = 3.2, colour = look$ink, fill = "white", alpha = 0.85
    ), no_frame()))
  )
}

predictor_heading <- function(ranking, name) {
  relation <- ranking$relations[[match(name, vapply(ranking$relations, `[[`, "", "x"))]]
  row <- ranking$predictions[ranking$predictions$x == name, ]
  paste(c(
    axis_heading(ranking$variables, name), r_label(relation),
    strwrap(line_equation(ranking$lines[[name]], "x", "y"), 44),
    if (length(row$at)) say("at %s: %s", format_number(row$at, 5), format_number(row$fit))
  ), collapse = "\n")
}

predictors_title <- function(ranking, room = 56L) {
  first <- title_label(ranking$variables, ranking$predictors$x[1], room)
  say(
    "%s is most strongly correlated with %s", begin(first, ranking$variables),
    title_label(ranking$variables, ranking$outcome, room)
  )
}

# Whether the first is ahead stands where it is not cut.
predictors_subtitle <- function(ranking) {
  p <- ranking$comparisons$p_adjusted[ranking$comparisons$a == ranking$predictors$x[1]]
  ahead <- !anyNA(p) && all(is_below(p, ranking$confidence))
  cases <- count_of(ranking$predictors$n[1], "case")
  if (ahead) cases else say("Not significantly ahead of the next; %s", cases)
}

drawing_predictors <- function() {
  new_drawing("predictors", 3, 3L, 7L, function(study, names, options, texts) {
    figure_predictors(answer_rank(study, list(
      outcome = names[1], names = names[-1], confidence = options$confidence, at = options$at
    )), texts, options$whole_axes)
  }, list(
    at = at_argument(),
    whole_axes = argument("flag", "extend each axis to the outermost case", default = FALSE)
  ), at = "values", width = function(n) 11, height = function(n) if (n > 4) 9 else 5.5)
}
