#' Draw a plan: power or interval width by number of cases
#'
#' @param plan A plan from [plan_size()].
#' @param title,subtitle,caption Text; `NA` for none. Default: written from the plan.
#' @param plain `TRUE` for a figure without title, subtitle and caption. Default: `FALSE`.
#' @return A ggplot2 object.
#' @section Errors: `unsere_error_usage` if `plan` is not a plan.
#' @examples
#' draw_plan(plan_size(r = .3, power = .8))
#' @export
draw_plan <- function(plan, title = NULL, subtitle = NULL, caption = NULL, plain = FALSE) {
  if (!inherits(plan, "unsere_plan")) abort_usage("`plan` must come from plan_size().", "Plan first.")
  figure_plan(plan, figure_texts(title, subtitle, caption, plain))
}

#' @rawNamespace S3method(ggplot2::autoplot, unsere_plan)
autoplot.unsere_plan <- function(object, ...) figure_plan(object, ...)

# The sentence of a plan; of one to show that r is small, without how it is tested, which would not fit.
title_of_plan <- function(plan) {
  if (is.null(plan$smallest)) return(in_words(plan))
  say(
    "%s cases show with a power of %s that r is smaller in size than %s", format_count(plan$n_to_draw),
    format_share(plan$power), format_r(plan$smallest)
  )
}

figure_plan <- function(plan, texts = list()) {
  plans <- if (is.null(plan$range)) list(plan) else plan$range
  by_width <- plan$by == "half_width"
  most <- max(vapply(plans, `[[`, 0, "n"))
  # Of classes, from as many on as leave degrees of freedom.
  least <- if (is.na(plan$df)) 5 else max(5, most / plan$classes * (plan$strata + 2))
  at <- unique(round(exp(seq(log(least), log(max(20, 2.2 * most, 2 * least)), length.out = 70))))
  rows <- do.call(rbind, lapply(plans, function(one) {
    curves <- plan_curves(one$coefficient, one$alpha, one$expect, one$other, one)
    value <- vapply(at, function(n) if (by_width) curves$width(one$r, n) else curves$power(one$r, n), 0)
    data.frame(n = at, value = value, r = sprintf("r = %s", format_r(one$r)))
  }))
  marks <- do.call(rbind, lapply(plans, function(one) {
    data.frame(n = one$n, value = if (by_width) one$half_width else one$power, r = sprintf("r = %s", format_r(one$r)))
  }))
  marks$label <- sprintf("n = %s", format_count(round(marks$n)))
  ggplot2::ggplot(rows, ggplot2::aes(.data$n, .data$value, linetype = .data$r)) +
    ggplot2::geom_line(colour = look$dots, linewidth = 1) +
    ggplot2::geom_segment(ggplot2::aes(xend = .data$n, yend = 0), data = marks, colour = look$soft, linetype = "13") +
    ggplot2::geom_point(data = marks, size = 3.4, shape = 21, fill = "white", colour = look$ink, stroke = 1.2) +
    ggplot2::geom_text(ggplot2::aes(label = .data$label),
      data = marks, hjust = -0.15, vjust = 1.4, size = 4.2,
      colour = look$ink
    ) +
    ggplot2::scale_linetype_manual(
      values = c("solid", "42"), name = "expected", guide = if (length(plans) > 1L) "legend" else "none"
    ) +
    ggplot2::scale_x_continuous(
      labels = axis_numbers, name = say("effective number of cases"),
      expand = ggplot2::expansion(mult = c(0.02, 0.12))
    ) +
    ggplot2::scale_y_continuous(
      name = if (by_width) say("half-width of the interval") else say("power"), labels = axis_numbers,
      limits = c(0, if (by_width) NA else 1)
    ) +
    ggplot2::labs(
      title = text_or(texts$title, title_of_plan(plan)), subtitle = text_or(texts$subtitle, NULL),
      caption = text_or(texts$caption, say("The ring marks the plan."))
    ) +
    figure_look()
}
