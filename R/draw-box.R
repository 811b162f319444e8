#' Draw box plots with labelled outliers
#'
#' The box contains the middle half of the values, the line in it is the median, and the whiskers reach the last value
#' that is not an outlier by the rule of [find_outliers()]. Outliers are labelled with their case and value.
#'
#' @inheritParams draw_distribution
#' @param most The maximum number of cases to label in each panel, the most extreme first.
#' @return A ggplot2 object.
#' @section Errors: As for [draw_distribution()].
#' @references Tukey, J. W. (1977). *Exploratory data analysis*. Addison-Wesley.
#' @examples
#' draw_box(demo_study("learners"), attendance_pct)
#' draw_box(demo_study("learners"), practice_hours, compare_log = TRUE)
#' @export
draw_box <- function(
  study, ..., compare_log = FALSE, most = 8, title = NULL, subtitle = NULL, caption = NULL,
  plain = FALSE
) {
  study <- check_study(study)
  if (!is_whole(most) || most < 0) {
    abort_usage("`most` must be one whole number from 0 on.", "It is the number of cases named.")
  }
  figure_box(
    study, chosen_variables(study, rlang::enquos(...)), compare_log, most,
    figure_texts(title, subtitle, caption, plain)
  )
}

figure_box <- function(study, names, compare_log = FALSE, most = 8, texts = list()) {
  values <- panel_values(study, names, compare_log)
  parts <- lapply(split(values, values$panel), panel_box, most)
  boxes <- do.call(rbind, lapply(parts, `[[`, "box"))
  far <- do.call(rbind, lapply(parts, `[[`, "far"))
  figure <- ggplot2::ggplot(boxes) +
    ggplot2::geom_segment(ggplot2::aes(x = .data$low, xend = .data$high, y = 0, yend = 0),
      colour = look$ink,
      linewidth = 0.7
    ) +
    ggplot2::geom_rect(ggplot2::aes(xmin = .data$q1, xmax = .data$q3, ymin = -0.28, ymax = 0.28),
      fill = "#DCE9EA",
      colour = look$ink, linewidth = 0.7
    ) +
    ggplot2::geom_segment(ggplot2::aes(x = .data$median, xend = .data$median, y = -0.28, yend = 0.28),
      colour = look$ink,
      linewidth = 1.4
    ) +
    layer_far(far) +
    ggplot2::scale_y_continuous(limits = c(-0.4, 2.1), breaks = NULL, name = NULL) +
    ggplot2::scale_x_continuous(expand = ggplot2::expansion(mult = 0.09), labels = axis_numbers) +
    (if (nlevels(values$panel) > 1L) ggplot2::facet_wrap(ggplot2::vars(.data$panel), scales = "free_x", ncol = 1)) +
    figure_look() +
    panel_type()
  single_texts(figure, values, study, texts, box_title(study, names, far), paste(
    say("Box: the middle half, with the median. Dots: values more than 1.5 box lengths beyond the box (Tukey 1977).")
  ))
}

box_title <- function(study, names, far) {
  if (length(names) > 1) return(say("%d variables; outliers labelled", length(names)))
  label <- label_of(study_book(study), names)
  count <- sum(far$scale == "untransformed")
  if (count == 0) return(say("%s: no outliers", label))
  say("%s: %s flagged as outliers", label, count_of(count, "case"))
}

panel_box <- function(values, most) {
  outliers <- far_out(values$value)
  inside <- values$value[!outliers$far]
  quarters <- stats::quantile(values$value, c(.25, .5, .75), names = FALSE)
  far <- name_far_cases(values[outliers$far, ], outliers$distance[outliers$far], most, range(values$value))
  list(far = far, box = data.frame(
    panel = values$panel[1], low = min(inside, quarters[1]), q1 = quarters[1], median = quarters[2], q3 = quarters[3],
    high = max(inside, quarters[3])
  ))
}

#' Outliers with a label at each value: the cases that share it, the farthest values first
#'
#' Each label gets the lowest row above the box in which it touches no other one.
#' @noRd
name_far_cases <- function(far, distance, most, ends) {
  far$label <- rep("", nrow(far))
  named <- utils::head(order(-abs(distance)), most)
  for (value in unique(far$value[named])) {
    same <- named[far$value[named] == value]
    cases <- if (length(same) > 3L) say("%s and %d more", far$case[same[1]], length(same) - 1L) else toString(far$case[same])
    far$label[same[1]] <- sprintf("%s: %s", cases, format_number(value, 4))
  }
  # Along the panel from 0 to 1; a letter takes about a hundredth of it.
  at <- (far$value - ends[1]) / diff(ends)
  width <- nchar(far$label, "width") * 0.0115 + 0.015
  far$side <- at
  room <- at - at * width
  taken <- list()
  far$level <- rep(0, nrow(far))
  # From the middle outwards, so that no line to a dot runs through another one's label.
  for (i in intersect(order(abs(at - 0.5)), which(nzchar(far$label)))) {
    free <- vapply(taken, function(spans) all(spans$to <= room[i] | spans$from >= room[i] + width[i]), NA)
    row <- match(TRUE, c(free, TRUE))
    spans <- if (row > length(taken)) NULL else taken[[row]]
    taken[[row]] <- rbind(spans, data.frame(from = room[i], to = room[i] + width[i]))
    far$level[i] <- 0.55 + 0.45 * (row - 1)
  }
  far
}

layer_far <- function(far) {
  if (is.null(far) || !nrow(far)) return(NULL)
  named <- far[nzchar(far$label), ]
  list(
    ggplot2::geom_segment(ggplot2::aes(x = .data$value, xend = .data$value, y = 0.06, yend = .data$level - 0.12),
      data = named,
      colour = look$soft, linewidth = 0.3
    ),
    ggplot2::geom_point(ggplot2::aes(.data$value, 0), data = far, colour = look$negative, size = 2.8),
    ggplot2::geom_text(ggplot2::aes(.data$value, .data$level, label = .data$label, hjust = .data$side),
      data = named, size = 3.5, colour = look$ink, check_overlap = TRUE
    )
  )
}

# Box plots stand one under the other and need room for the names of cases.
drawing_box <- function() {
  new_drawing("box", 9, 1L, 12L, function(study, names, options, texts) {
    figure_box(study, names, options$compare_log, texts = texts)
  }, compare_log_argument(), height = function(n) max(5, 1.6 + 1.5 * n))
}
