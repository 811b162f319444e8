# Several units over the same times: a line a unit and their mean, and what is left within units and times.

unit_panels <- function(flags) {
  series <- flags$series
  names <- axis_heading(flags$relation$sample$variables, c(flags$x, flags$y))
  one <- function(values, name) data.frame(time = series$time, value = values, unit = series$unit, series = name)
  rows <- rbind(one(series$x, names[1]), one(series$y, names[2]))
  rows$series <- factor(rows$series, unique(names))
  means <- stats::aggregate(value ~ time + series, rows, mean)
  colours <- c(look$dots, look$negative)
  ggplot2::ggplot(rows, ggplot2::aes(.data$time, .data$value, colour = .data$series)) +
    # The more units, the fainter their lines.
    ggplot2::geom_line(ggplot2::aes(group = .data$unit), linewidth = 0.4, alpha = max(0.12, min(0.5, 8 / flags$units))) +
    ggplot2::geom_line(data = means, linewidth = 1.3) +
    ggplot2::geom_point(data = means, size = 2) +
    ggplot2::facet_wrap(ggplot2::vars(.data$series), ncol = 1, scales = "free_y") +
    ggplot2::scale_colour_manual(values = colours, guide = "none") +
    ggplot2::scale_y_continuous(labels = axis_numbers) +
    time_axis(series$grid) +
    ggplot2::labs(x = flags$time_label, y = NULL)
}

# Both variables in standard deviations, as they are and with the means of units and of times taken out.
unit_rows <- function(flags) {
  series <- flags$series
  names <- label_of(flags$relation$sample$variables, c(flags$x, flags$y))
  place <- function(v) match(v, unique(v))
  changes <- two_ways(cbind(series$x, series$y), place(series$unit), place(series$time), c("time", "unit"))
  panels <- c(say("Levels"), capital(say("within units and times")))
  one <- function(panel, values, name) data.frame(panel = panel, value = standard_scores(values), series = name)
  rows <- rbind(
    one(panels[1], series$x, names[1]), one(panels[1], series$y, names[2]),
    one(panels[2], changes[, 1], names[1]), one(panels[2], changes[, 2], names[2])
  )
  rows$panel <- factor(rows$panel, panels)
  rows$series <- factor(rows$series, unique(names))
  rows
}
