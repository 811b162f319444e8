#' Draw two series over time with their changes
#'
#' Draws the levels above and the period-to-period changes below on one time axis, both series in standard deviations from
#' their mean, with the verdict as the subtitle. Alternatively, two small scatter plots show levels and changes. For panel
#' data each variable has a panel with a thin line per unit and their mean as a thick line, and the scatter plots show the
#' levels and the deviations within units and times.
#'
#' @param flags Flags from [flag_spurious()] of one pair with a time variable.
#' @param kind `"time"` or `"scatter"`. Default: `"time"`.
#' @param title,subtitle,caption Text; `NA` for none. Default: written from the result.
#' @param plain `TRUE` for a figure without title, subtitle and caption. Default: `FALSE`.
#' @return A ggplot2 object.
#' @section Errors: `unsere_error_usage` if `flags` is something else or has no time.
#' @examples
#' years <- demo_study("town_years")
#' draw_over_time(flag_spurious(years, ebook_loans, cycle_path_km))
#' draw_over_time(flag_spurious(years, warm_days, pool_visits), kind = "scatter")
#' @export
draw_over_time <- function(flags, kind = "time", title = NULL, subtitle = NULL, caption = NULL, plain = FALSE) {
  if (!inherits(flags, "unsere_flags") || is.null(flags$series)) {
    abort_usage(
      "`flags` must come from flag_spurious() of one pair with a time.",
      "For example draw_over_time(flag_spurious(study, x, y))."
    )
  }
  one_of(kind, c("time", "scatter"), "kind")
  figure_over_time(flags, kind, figure_texts(title, subtitle, caption, plain))
}

#' @rawNamespace S3method(ggplot2::autoplot, unsere_flags)
autoplot.unsere_flags <- function(object, ...) {
  if (is.null(object$series)) figure_scatter(object$relation, NULL) else figure_over_time(object, "time", ...)
}

time_title <- function(flags, room = 56L) {
  variables <- flags$relation$sample$variables
  title <- c(
    holds = "%s and %s are correlated beyond their trends", weakened = "%s and %s: mixed evidence beyond their trends",
    "cannot tell" = "%s and %s: trends, inconclusive beyond them",
    "trend only" = "%s and %s: shared trend only",
    "between units" = "%s and %s are correlated between units only",
    "no relation" = "No significant correlation between %s and %s over time",
    "too little data" = "%s and %s: too few periods"
  )[[flags$verdict]]
  if (flags$verdict == "trend only" && has_season(flags)) title <- "%s and %s: shared trend or seasonal pattern only"
  x <- title_label(variables, flags$x, room)
  y <- title_label(variables, flags$y, room)
  begin(say(title, x, y), variables)
}

figure_over_time <- function(flags, kind, texts = list()) {
  panel <- !is.null(flags$units)
  figure <- if (kind == "scatter") change_scatter(flags) else if (panel) unit_panels(flags) else time_panels(flags)
  verdict <- say("Verdict: %s. %s", say(verdict_labels[[flags$verdict]]), three_r(flags))
  about <- c(
    if (panel && kind == "time") say("Thin lines: units; thick lines: their mean."),
    if (!panel || kind == "scatter") say("Both series in standard deviations from their mean."),
    utils::head(flag_notes(flags), 2)
  )
  figure <- figure + ggplot2::labs(
    title = text_or(texts$title, time_title(flags)), subtitle = text_or(texts$subtitle, verdict),
    caption = text_or(texts$caption, paste(about, collapse = " "))
  ) + figure_look() + ggplot2::theme(
    strip.text = ggplot2::element_text(hjust = 0, colour = look$ink),
    legend.title = ggplot2::element_blank()
  )
  with_title(figure, function(room) time_title(flags, room))
}

# "r of levels .81, of changes -.20, without the trend -.15"
three_r <- function(flags) {
  text <- if (is.null(flags$units)) {
    "r of levels %s, of changes %s, without the trend %s"
  } else {
    "r of levels %s, of changes %s, within units and times %s"
  }
  say(text, format_r(flags$levels$r), format_r(flags$changes$r), format_r(flags$detrended$r))
}

series_rows <- function(flags) {
  standard <- function(v) (v - mean(v, na.rm = TRUE)) / stats::sd(v, na.rm = TRUE)
  names <- label_of(flags$relation$sample$variables, c(flags$x, flags$y))
  times <- flags$series$grid$times
  panels <- say(c("Levels", "Changes"))
  one <- function(panel, at, values, name) data.frame(panel = panel, time = at, value = standard(values), series = name)
  rows <- rbind(
    one(panels[1], times, flags$series$x, names[1]), one(panels[1], times, flags$series$y, names[2]),
    one(panels[2], times[-1], diff(flags$series$x), names[1]), one(panels[2], times[-1], diff(flags$series$y), names[2])
  )
  rows$panel <- factor(rows$panel, panels)
  rows$series <- factor(rows$series, unique(names))
  rows
}

time_panels <- function(flags) {
  rows <- series_rows(flags)
  many <- length(flags$series$x) > 150L
  ggplot2::ggplot(rows, ggplot2::aes(.data$time, .data$value,
    colour = .data$series, linetype = .data$series,
    shape = .data$series
  )) +
    ggplot2::geom_hline(yintercept = 0, colour = look$rule, linewidth = 0.5) +
    ggplot2::geom_line(linewidth = if (many) 0.4 else 0.9, na.rm = TRUE) +
    ggplot2::geom_point(size = if (many) 0.8 else 2, na.rm = TRUE) +
    ggplot2::facet_wrap(ggplot2::vars(.data$panel), ncol = 1) +
    ggplot2::scale_colour_manual(values = c(look$dots, look$negative), name = "") +
    ggplot2::scale_linetype_manual(values = c("solid", "42"), name = "") +
    ggplot2::scale_shape_manual(values = c(16, 1), name = "") +
    ggplot2::scale_y_continuous(labels = axis_numbers) +
    time_axis(flags$series$grid) +
    ggplot2::labs(x = flags$time_label, y = say("SD from the mean"))
}

change_scatter <- function(flags) {
  panel <- !is.null(flags$units)
  rows <- if (panel) unit_rows(flags) else series_rows(flags)
  sides <- split(rows, rows$series)
  dots <- data.frame(panel = sides[[1]]$panel, x = sides[[1]]$value, y = sides[[2]]$value)
  r <- c(flags$levels$r, if (panel) flags$detrended$r else flags$changes$r)
  headings <- sprintf("%s: r = %s", levels(rows$panel), format_r(r))
  dots$panel <- factor(headings[as.integer(dots$panel)], headings)
  names <- label_of(flags$relation$sample$variables, c(flags$x, flags$y))
  ggplot2::ggplot(dots[!is.na(dots$x) & !is.na(dots$y), ], ggplot2::aes(.data$x, .data$y)) +
    ggplot2::geom_segment(ggplot2::aes(x = -2.5, xend = 2.5, y = -2.5 * .data$r, yend = 2.5 * .data$r),
      data = data.frame(panel = factor(headings, headings), r = r), colour = look$ink, linewidth = 0.8, na.rm = TRUE
    ) +
    ggplot2::geom_point(colour = look$dots, size = 2.4, alpha = 0.85, stroke = 0) +
    ggplot2::facet_wrap(ggplot2::vars(.data$panel)) +
    ggplot2::scale_x_continuous(labels = axis_numbers) +
    ggplot2::scale_y_continuous(labels = axis_numbers) +
    ggplot2::labs(x = paste(names[1], say("(SD from its mean)")), y = paste(names[2], say("(SD from its mean)")))
}

drawing_over_time <- function() {
  new_drawing("over-time", 4, 2L, 2L, function(study, names, options, texts) {
    flags <- answer_flag(study, c(list(x = names[1], y = names[2]), options[c("time", "group", "confidence")]))
    if (is.null(flags$series)) abort_usage("This file has no variable with the time.", "Name it with --time.")
    figure_over_time(flags, "time", texts)
  }, question_flag()$arguments[c("time", "group")], height = function(n) 6.5)
}
