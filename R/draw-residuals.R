#' Draw the residuals of a line
#'
#' Draws the residuals against x with their running mean, which shows curvature, and running spread; or their quantiles
#' against those of a normal distribution.
#'
#' @param line A line from [fit_line()].
#' @param kind `"path"` or `"quantiles"`. Default: `"path"`.
#' @param name_cases The number of largest residuals to label.
#' @param title,subtitle,caption Text; `NA` for none. Default: written from the result.
#' @param plain `TRUE` for a figure without title, subtitle and caption. Default: `FALSE`.
#' @return A ggplot2 object.
#' @section Errors: As for [check_residuals()].
#' @examples
#' fitted <- fit_line(demo_study("learners"), practice_hours, speaking_score)
#' draw_residuals(fitted)
#' draw_residuals(fitted, kind = "quantiles")
#' @export
draw_residuals <- function(
  line, kind = "path", name_cases = 3, title = NULL, subtitle = NULL, caption = NULL,
  plain = FALSE
) {
  if (!inherits(line, "unsere_line")) {
    abort_usage("`line` must come from fit_line().", "For example draw_residuals(fit_line(study, x, y)).")
  }
  one_of(kind, c("path", "quantiles"), "kind")
  texts <- figure_texts(title, subtitle, caption, plain)
  figure_residuals(check_residuals(line, max(name_cases, 1)), kind, name_cases, texts)
}

#' @rawNamespace S3method(ggplot2::autoplot, unsere_residuals)
autoplot.unsere_residuals <- function(object, ...) figure_residuals(object, "path", 3)

figure_residuals <- function(check, kind, name_cases = 3, texts = list()) {
  figure <- if (kind == "path") path_figure(check, name_cases) else residual_quantiles(check)
  alpha <- alpha_of(check$line$confidence)
  caption <- if (kind == "path") {
    say("Path: running mean of the residuals; band: their running standard deviation about it.")
  } else {
    say("Line: normal distribution. Band: 95 of 100 points of normal data lie within it, each by itself.")
  }
  checks_text <- say("Curvature: %s. Spread: %s.", bend_words(check, alpha), spread_words(check, alpha))
  figure + ggplot2::labs(
    title = text_or(texts$title, residuals_title(check, kind, alpha)),
    subtitle = text_or(texts$subtitle, checks_text),
    caption = text_or(texts$caption, caption)
  ) + figure_look()
}

residuals_title <- function(check, kind, alpha) {
  if (kind == "quantiles") return(say("Residuals against a normal distribution"))
  bent <- isTRUE(check$bend$p < alpha)
  uneven <- isTRUE(check$spread$p < alpha)
  if (bent && uneven) return(say("The residuals are curvilinear and unequally spread"))
  if (bent) return(say("Curvilinear residuals: a straight line does not fit"))
  if (uneven) return(say("The spread of the residuals changes with x (heteroscedastic)"))
  say("No pattern is apparent in the residuals")
}

path_figure <- function(check, name_cases) {
  line <- check$line
  dots <- data.frame(x = line$sample$x, y = line$residuals, case = sample_cases(line$sample))
  path <- running_path(dots$x, dots$y)
  named <- utils::head(check$largest, name_cases)
  unit <- unit_of(line$sample$variables, line$y)
  ggplot2::ggplot(dots, ggplot2::aes(.data$x, .data$y)) +
    (if (nrow(path)) {
      ggplot2::geom_ribbon(
        ggplot2::aes(.data$x, .data$mean, ymin = .data$mean - .data$sd, ymax = .data$mean + .data$sd),
        data = path, fill = look$band, alpha = 0.1
      )
    }) +
    ggplot2::geom_hline(yintercept = 0, colour = look$soft, linewidth = 0.7) +
    layer_dots(dots, NULL) +
    (if (nrow(path)) {
      ggplot2::geom_line(ggplot2::aes(.data$x, .data$mean), data = path, colour = look$ink, linewidth = 1)
    }) +
    (if (name_cases > 0) {
      ggplot2::geom_text(
        ggplot2::aes(.data$x, .data$residual, label = .data$case),
        data = named, size = 3.6, hjust = ifelse(named$x > mean(range(dots$x)), 1.2, -0.2), colour = look$ink
      )
    }) +
    ggplot2::scale_x_continuous(labels = axis_numbers) +
    ggplot2::scale_y_continuous(labels = axis_numbers) +
    ggplot2::labs(
      x = axis_heading(line$sample$variables, line$x),
      y = if (is.na(unit)) "residual" else say("residual (%s)", unit)
    )
}

#' Running means and spreads over a fifth of the cases, in order of x; cases of one x are taken together
#' @noRd
running_path <- function(x, y, share = 0.2) {
  n <- length(x)
  order <- order(x)
  window <- max(5L, round(share * n))
  if (n < 15L) return(data.frame(x = numeric(), mean = numeric(), sd = numeric()))
  starts <- unique(round(seq(1, n - window + 1, length.out = min(60, n - window + 1))))
  rows <- lapply(starts, function(start) {
    taken <- order[start:(start + window - 1)]
    data.frame(x = mean(x[taken]), mean = mean(y[taken]), sd = sqrt(mean((y[taken] - mean(y[taken]))^2)))
  })
  path <- do.call(rbind, rows)
  stats::aggregate(path[c("mean", "sd")], path["x"], mean)
}

residual_quantiles <- function(check) {
  values <- data.frame(panel = factor("residual"), name = say("The line"), value = check$line$residuals)
  points <- panel_quantiles(values)
  ggplot2::ggplot(points, ggplot2::aes(.data$normal, .data$value)) +
    ggplot2::geom_ribbon(ggplot2::aes(ymin = .data$low, ymax = .data$high), fill = look$band, alpha = 0.1) +
    ggplot2::geom_line(ggplot2::aes(y = .data$line), colour = look$ink, linewidth = 0.8) +
    ggplot2::geom_point(colour = look$dots, size = 2, alpha = 0.75, stroke = 0) +
    ggplot2::scale_x_continuous(labels = axis_numbers) +
    ggplot2::scale_y_continuous(labels = axis_numbers) +
    ggplot2::labs(x = say("standard normal quantile"), y = "residual")
}

drawing_residuals <- function() {
  new_drawing("residuals", 2, 2L, 2L, function(study, names, options, texts) {
    line <- answer_line(study, c(list(x = names[1], y = names[2]), options[c("shape", "confidence")]))
    figure_residuals(check_residuals(line), "path", texts = texts)
  }, list(shape = shape_argument()))
}
