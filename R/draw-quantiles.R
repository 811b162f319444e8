#' Draw normal quantile plots of variables
#'
#' Points near the line indicate an approximately normal distribution. The band contains each point with a probability of
#' 95 % if the distribution is normal.
#'
#' @inheritParams draw_distribution
#' @return A ggplot2 object.
#' @section Errors: As for [draw_distribution()]; `unsere_error_undefined` also for a constant variable or fewer than
#'   four values.
#' @references Wilk, M. B., & Gnanadesikan, R. (1968). Probability plotting methods for the analysis of data.
#'   *Biometrika*, 55, 1-17. The band: order statistics of uniform numbers follow beta distributions (David, H. A.
#'   (1981). *Order statistics*. Wiley).
#' @examples
#' draw_quantiles(demo_study("learners"), speaking_score)
#' draw_quantiles(demo_study("learners"), practice_hours, compare_log = TRUE)
#' @export
draw_quantiles <- function(
  study, ..., compare_log = FALSE, title = NULL, subtitle = NULL, caption = NULL,
  plain = FALSE
) {
  study <- check_study(study)
  figure_quantiles(
    study, chosen_variables(study, rlang::enquos(...)), compare_log,
    figure_texts(title, subtitle, caption, plain)
  )
}

figure_quantiles <- function(study, names, compare_log = FALSE, texts = list()) {
  values <- panel_values(study, names, compare_log)
  points <- do.call(rbind, lapply(split(values, values$panel), panel_quantiles))
  figure <- ggplot2::ggplot(points, ggplot2::aes(.data$normal, .data$value)) +
    ggplot2::geom_ribbon(ggplot2::aes(ymin = .data$low, ymax = .data$high), fill = look$band, alpha = 0.1) +
    ggplot2::geom_line(ggplot2::aes(y = .data$line), colour = look$ink, linewidth = 0.8) +
    ggplot2::geom_point(colour = look$dots, size = 2, alpha = 0.75, stroke = 0) +
    ggplot2::scale_x_continuous(labels = axis_numbers) +
    ggplot2::scale_y_continuous(labels = axis_numbers) +
    panels_apart(values) +
    figure_look() +
    panel_type()
  figure <- single_texts(figure, values, study, texts, single_title(study, names, "Quantiles"), paste(
    "Line: normal distribution with the same mean and standard deviation. Band: 95 of 100 points of normal data",
    "lie within it, each by itself."
  ))
  one <- nlevels(values$panel) == 1L
  figure + ggplot2::labs(x = say("standard normal quantile"), y = if (one) levels(values$panel) else NULL)
}

panel_quantiles <- function(values) {
  n <- nrow(values)
  if (n < 4L || min(values$value) == max(values$value)) {
    abort_undefined(
      problem("%s has no quantile plot: it needs four values that are not all equal.", values$name[1]),
      "Choose another variable."
    )
  }
  data.frame(panel = values$panel[1], normal_quantiles(values$value))
}

drawing_quantiles <- function() {
  new_drawing("quantiles", 8, 1L, 12L, function(study, names, options, texts) {
    figure_quantiles(study, names, options$compare_log, texts)
  }, compare_log_argument())
}
