# The layers of a scatter plot: line and bands, dots, means, marks.

#' Whole within the data, dashed beyond
#' @noRd
layer_line <- function(band) {
  if (is.null(band)) return(NULL)
  within <- band[band$part == "within", ]
  list(
    if (!is.null(band$case_low)) {
      list(
        ggplot2::geom_line(ggplot2::aes(.data$x, .data$case_low),
          data = within, colour = look$soft, linewidth = 0.5,
          linetype = "22"
        ),
        ggplot2::geom_line(ggplot2::aes(.data$x, .data$case_high),
          data = within, colour = look$soft, linewidth = 0.5,
          linetype = "22"
        )
      )
    },
    ggplot2::geom_ribbon(ggplot2::aes(x = .data$x, y = .data$y, ymin = .data$low, ymax = .data$high),
      data = within,
      fill = look$band, alpha = 0.12
    ),
    lapply(setdiff(unique(band$part), "within"), function(part) {
      ggplot2::geom_line(ggplot2::aes(.data$x, .data$y),
        data = band[band$part == part, ], colour = look$ink,
        linewidth = 0.8,
        linetype = "42"
      )
    }),
    ggplot2::geom_line(ggplot2::aes(.data$x, .data$y), data = within, colour = look$ink, linewidth = 1)
  )
}

layer_flat <- function(flat_line, mean_y) {
  if (!flat_line) return(NULL)
  ggplot2::geom_hline(yintercept = mean_y, colour = look$soft, linewidth = 0.7, linetype = "longdash")
}

#' Dots that lie on one another, counted: where a variable has few values, each place shows how many cases it holds
#' @noRd
counted_dots <- function(dots) {
  if (count_kinds(dots$x) > 12L && count_kinds(dots$y) > 12L) return(NULL)
  places <- paste(dots$x, dots$y)
  times <- table(places)
  if (mean(times) < 1.5) return(NULL)
  first <- !duplicated(places)
  data.frame(x = dots$x[first], y = dots$y[first], count = as.integer(times[places[first]]))
}

# From so many cases on a figure shows counted cells, as single dots would be one blob.
most_dots <- 20000L

#' Cases counted in the cells of a grid, never a sample of them; of a side of few values each is a row of the grid
#' @noRd
counted_cells <- function(dots, ends, across = 64L, up = 40L) {
  inside <- dots$x >= ends$x[1] & dots$x <= ends$x[2] & dots$y >= ends$y[1] & dots$y <= ends$y[2]
  x <- grid_of_side(dots$x[inside], ends$x, across)
  y <- grid_of_side(dots$y[inside], ends$y, up)
  rows <- length(y$middle)
  count <- tabulate(1L + x$place * rows + y$place, length(x$middle) * rows)
  at <- which(count > 0L)
  structure(data.frame(
    x = x$middle[(at - 1L) %/% rows + 1L], y = y$middle[(at - 1L) %% rows + 1L], count = count[at], case = ""
  ), cells = TRUE)
}

grid_of_side <- function(values, range, cells) {
  kinds <- sort(unique(values))
  if (length(kinds) <= cells) return(list(place = match(values, kinds) - 1L, middle = kinds))
  list(
    place = pmin(cells - 1L, pmax(0L, as.integer((values - range[1]) / diff(range) * cells))),
    middle = range[1] + (seq_len(cells) - 0.5) * diff(range) / cells
  )
}

layer_dots <- function(dots, group, counted = NULL) {
  alpha <- if (nrow(dots) <= 60) 0.9 else if (nrow(dots) <= 400) 0.65 else max(0.15, 0.65 * sqrt(400 / nrow(dots)))
  if (!is.null(attr(counted, "cells"))) {
    return(list(
      ggplot2::geom_point(ggplot2::aes(.data$x, .data$y), data = counted, colour = look$dots, size = 0.6, alpha = 0.75),
      ggplot2::geom_point(ggplot2::aes(.data$x, .data$y, size = .data$count),
        data = counted, colour = look$dots, stroke = 0
      ),
      ggplot2::scale_size_area(
        max_size = 4, breaks = count_breaks(counted$count)[-1], name = say("cases in a cell"), labels = axis_numbers
      )
    ))
  }
  if (!is.null(counted)) {
    return(list(
      ggplot2::geom_point(ggplot2::aes(.data$x, .data$y, size = .data$count),
        data = counted, colour = look$dots,
        alpha = 0.75,
        stroke = 0
      ),
      ggplot2::scale_size_area(max_size = 9, breaks = count_breaks(counted$count), name = say("cases"))
    ))
  }
  if (is.null(group) && !is.null(dots$weight)) {
    return(list(
      ggplot2::geom_point(ggplot2::aes(size = .data$weight), colour = look$dots, alpha = alpha, stroke = 0),
      ggplot2::scale_size_area(max_size = 4.5, breaks = pretty(dots$weight, 3)[-1], name = "weight")
    ))
  }
  if (is.null(group)) return(ggplot2::geom_point(colour = look$dots, size = 2.6, alpha = alpha, stroke = 0))
  list(
    ggplot2::geom_point(ggplot2::aes(colour = .data$group, shape = .data$group),
      size = 2.8,
      alpha = min(1, alpha + 0.15)
    ),
    ggplot2::scale_colour_manual(values = group_colours, name = group$name),
    ggplot2::scale_shape_manual(values = group_shapes, name = group$name)
  )
}

count_breaks <- function(count) unique(round(c(1, max(count) / 2, max(count))))

#' The median of y at each x, for two ordinal variables; values of x with fewer than three cases have none
#' @noRd
medians_at <- function(dots) {
  medians <- stats::aggregate(dots["y"], dots["x"], stats::median)
  medians[as.vector(table(dots$x)[as.character(medians$x)]) >= 3L, ]
}

layer_medians <- function(medians) {
  if (is.null(medians)) return(NULL)
  list(
    ggplot2::geom_line(ggplot2::aes(.data$x, .data$y), data = medians, colour = look$ink, linewidth = 0.8),
    ggplot2::geom_point(ggplot2::aes(.data$x, .data$y),
      data = medians, shape = 23, size = 3.4, fill = "white", colour = look$ink, stroke = 1.1
    )
  )
}

#' The mean of y at each x, with n
#' @noRd
means_at <- function(dots) {
  if (length(unique(dots$x)) > 15L) {
    abort_usage("Means can be added for an x with up to 15 values.", "Omit them, or group x first.")
  }
  means <- stats::aggregate(dots["y"], dots["x"], mean)
  means$n <- as.vector(table(dots$x)[as.character(means$x)])
  means
}

layer_means <- function(means) {
  if (is.null(means)) return(NULL)
  list(
    ggplot2::geom_point(ggplot2::aes(.data$x, .data$y),
      data = means, shape = 23, size = 4, fill = "white",
      colour = look$ink, stroke = 1.1
    ),
    ggplot2::geom_text(ggplot2::aes(.data$x, -Inf, label = paste("n =", format_count(.data$n))),
      data = means, vjust = -0.6,
      size = 3.4, colour = look$ink
    )
  )
}

#' Predicted and solved points: where they lie, and from which side they were read
#' @noRd
line_marks <- function(fitted, at = NULL, solve = NULL) {
  predicted <- if (!is.null(at)) predict_y(fitted, at)
  solved <- if (!is.null(solve)) estimate_x(fitted, solve)
  solved <- solved[!is.na(solved$x), ]
  marks <- rbind(
    if (!is.null(predicted)) data.frame(x = predicted$at, y = predicted$fit, kind = "predicted"),
    if (length(solved$x)) data.frame(x = solved$x, y = solved$y, kind = "solved")
  )
  for (side in c("x", "y")) check_in_sight(marks[[side]], fitted$sample[[side]])
  marks
}

# So far off that the cases would all lie on one dot, a point is no figure's matter.
check_in_sight <- function(marks, values) {
  ends <- range(values)
  far <- marks[abs(marks - mean(ends)) > 1000 * (diff(ends) + abs(ends[1]) * 1e-9)]
  if (!length(far)) return(invisible())
  abort_usage(
    problem("%s is too far from the data to be drawn with them.", format_number(far[1])),
    "Its value is given by fit_line(), or unsere line; omit it from the figure."
  )
}

layer_points <- function(marks, range_y) {
  if (is.null(marks)) return(NULL)
  # Near the lower edge the number stands above its ring.
  marks$beside <- ifelse(marks$y < range_y[1] + 0.12 * diff(range_y), -0.6, 1.5)
  marks$label <- ifelse(marks$kind == "predicted", format_number(marks$y), format_number(marks$x))
  list(
    ggplot2::geom_segment(ggplot2::aes(.data$x, .data$y, xend = .data$x, yend = -Inf),
      data = marks, colour = look$soft,
      linewidth = 0.5, linetype = "13"
    ),
    ggplot2::geom_segment(ggplot2::aes(.data$x, .data$y, xend = -Inf, yend = .data$y),
      data = marks, colour = look$soft,
      linewidth = 0.5, linetype = "13"
    ),
    ggplot2::geom_point(ggplot2::aes(.data$x, .data$y),
      data = marks, shape = 21, size = 4, stroke = 1.2,
      fill = "white",
      colour = look$ink
    ),
    do.call(ggplot2::geom_label, c(list(ggplot2::aes(.data$x, .data$y, label = .data$label, vjust = .data$beside),
      data = marks, size = 3.8, colour = look$ink, fill = "white", alpha = 0.8
    ), no_frame()))
  )
}
