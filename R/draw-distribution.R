#' Draw the distribution of variables
#'
#' Draws a histogram with the mean and one standard deviation to each side, or bars with counts for few values and for
#' unordered categories (the most frequent first). Several variables are drawn side by side.
#'
#' @param study A study, or a data frame.
#' @param ... The variables: bare names or strings. Default: all numeric ones.
#' @param bins The approximate number of bins; their edges are round numbers. Default: from the spread of the values
#'   (Freedman & Diaconis 1981).
#' @param compare_log Whether to add the natural logarithm. Default: `FALSE`.
#' @param title,subtitle,caption Text; `NA` for none. Default: written from the data.
#' @param plain `TRUE` for a figure without title, subtitle and caption. Default: `FALSE`.
#' @return A ggplot2 object.
#' @section Errors: `unsere_error_input` for an unknown variable or for text where numbers are needed;
#'   `unsere_error_undefined` for a variable without values, or without logarithms; `unsere_error_usage` if `bins` is
#'   not a whole number from 1 to 500.
#' @references Freedman, D., & Diaconis, P. (1981). On the histogram as a density estimator. *Zeitschrift fuer
#'   Wahrscheinlichkeitstheorie und verwandte Gebiete*, 57, 453-476.
#' @examples
#' draw_distribution(demo_study("learners"), practice_hours)
#' draw_distribution(demo_study("learners"), practice_hours, bins = 30, compare_log = TRUE)
#' @export
draw_distribution <- function(
  study, ..., bins = NULL, compare_log = FALSE, title = NULL, subtitle = NULL,
  caption = NULL,
  plain = FALSE
) {
  study <- check_study(study)
  figure_distribution(
    study, chosen_variables(study, rlang::enquos(...)), bins, compare_log,
    figure_texts(title, subtitle, caption, plain)
  )
}

# A study is seen by the distributions of its variables.
#' @rawNamespace S3method(ggplot2::autoplot, unsere_study)
autoplot.unsere_study <- function(object, ...) draw_distribution(object, ...)

figure_distribution <- function(study, names, bins = NULL, compare_log = FALSE, texts = list()) {
  if (!is.null(bins) && (!is_whole(bins) || bins < 1 || bins > 500)) {
    abort_usage("`bins` must be one whole number from 1 to 500.", "Omit it to have it determined.")
  }
  values <- panel_values(study, names, compare_log, categories = TRUE)
  split_panels <- split(values, values$panel)
  bars <- do.call(rbind, lapply(split_panels, panel_bars, bins))
  marks <- do.call(rbind, lapply(split_panels, panel_marks))
  top <- vapply(split(bars$count, bars$panel), max, 0)
  if (!is.null(marks)) marks$y <- -0.035 * top[as.character(marks$panel)]
  figure <- ggplot2::ggplot(bars) +
    ggplot2::geom_rect(ggplot2::aes(xmin = .data$from, xmax = .data$to, ymin = 0, ymax = .data$count),
      fill = look$dots,
      alpha = 0.75, colour = "white", linewidth = 0.4
    ) +
    layer_counts(bars[bars$few & !bars$inside, ], is_tall(values)) +
    layer_words(bars[bars$inside, ]) +
    layer_marks(marks) +
    ggplot2::scale_y_continuous(expand = ggplot2::expansion(mult = c(0.06, 0.17)), labels = axis_numbers) +
    steps_scale(values) +
    (if (is_tall(values)) ggplot2::coord_flip(clip = "off") else ggplot2::coord_cartesian(clip = "off")) +
    ggplot2::labs(y = say("cases")) +
    panels_apart(values) +
    figure_look() +
    panel_type()
  single_texts(
    figure, values, study, texts, single_title(study, names, "Distribution"),
    if (is.null(marks)) "" else say("Below the bars: mean (dot) and one standard deviation on each side.")
  )
}

# One scale of words stands along the axis; of several panels each names its bars.
steps_scale <- function(values) {
  steps <- unique(values$steps[!duplicated(values$panel)])
  if (length(steps) > 1L || is.null(steps[[1]])) {
    return(ggplot2::scale_x_continuous(
      breaks = breaks_with_room(nlevels(values$panel)), labels = axis_numbers,
      guide = ggplot2::guide_axis(check.overlap = TRUE)
    ))
  }
  if (is_tall(values)) return(ggplot2::scale_x_reverse(breaks = steps[[1]]$at, labels = steps[[1]]$labels))
  ggplot2::scale_x_continuous(breaks = steps[[1]]$at, labels = wrapped_steps(steps[[1]]$labels))
}

# Whole numbers over no more than this have a bar each.
most_bars <- 30L

# Many groups stand below each other, where their words have room.
is_tall <- function(values) {
  nlevels(values$panel) == 1L && values$named[1] && length(values$steps[[1]]$at) > 6L
}

panel_bars <- function(values, bins, several = nlevels(values$panel) > 1L) {
  v <- values$value
  steps <- values$steps[[1]]
  whole <- all(v == round(v)) && is.null(bins)
  few <- whole && (length(unique(v)) <= 7L || !is.null(steps))
  if (few || whole && diff(range(v)) <= most_bars) {
    at <- if (few) sort(unique(v)) else seq(min(v), max(v))
    if (!is.null(steps)) at <- steps$at
    out <- data.frame(from = at - 0.4, to = at + 0.4, count = vapply(at, function(one) sum(v == one), 0L))
    out$label <- as.character(out$count)
    if (values$named[1] && several) out$label <- sprintf("%s: %d", shorten_at_word(steps$labels, 20L), out$count)
    if (!is.na(values$one[1])) out$label <- sprintf("%s: %d", ifelse(at == 1, values$one[1], values$zero[1]), out$count)
  } else {
    edges <- bin_edges(v, bins)
    out <- data.frame(
      from = edges[-length(edges)], to = edges[-1],
      count = as.integer(table(cut(v, edges, include.lowest = TRUE, right = FALSE)))
    )
  }
  if (!few) out$label <- ""
  out$panel <- values$panel[1]
  out$few <- few
  out$inside <- few && values$named[1] && several
  out
}

#' Round edges for about as many bins as the spread of the values asks for
#' @noRd
bin_edges <- function(v, bins = NULL) {
  ends <- range(v)
  if (ends[1] == ends[2]) return(ends[1] + c(-0.5, 0.5))
  if (is.null(bins)) {
    quarters <- stats::quantile(v, c(.25, .75), names = FALSE)
    width <- 2 * diff(quarters) / length(v)^(1 / 3)
    bins <- if (width > 0) min(max(ceiling(diff(ends) / width), 5), 60) else 10
  }
  pretty(ends, n = bins)
}

#' Round values along an axis, as many as have room for their numbers beside each other; a binary variable has 0 and 1 alone
#' @noRd
breaks_with_room <- function(panels) {
  letters <- 70 / ggplot2::wrap_dims(max(panels, 1L))[2]
  fit <- function(breaks, ends) {
    length(breaks) > 1L && max(nchar(axis_numbers(breaks))) + 1.6 <= (breaks[2] - breaks[1]) / diff(ends) * letters
  }
  function(ends) {
    if (ends[1] < -0.4 && ends[1] > -0.6 && ends[2] > 1.4 && ends[2] < 1.6) return(0:1)
    for (wanted in 5:2) {
      breaks <- pretty(ends, wanted)
      breaks <- breaks[breaks >= ends[1] & breaks <= ends[2]]
      if (fit(breaks, ends)) return(breaks)
    }
    # Two tell the scale; one does not.
    breaks <- pretty(ends, 5)
    range(breaks[breaks >= ends[1] & breaks <= ends[2]])
  }
}

panel_marks <- function(values) {
  if (!is.na(values$one[1]) || values$named[1]) return(NULL)
  spread <- if (nrow(values) > 1) measure_spread(values$value) else list(mean = values$value, sd = 0)
  data.frame(panel = values$panel[1], mean = spread$mean, low = spread$mean - spread$sd, high = spread$mean + spread$sd)
}

layer_marks <- function(marks) {
  if (is.null(marks)) return(NULL)
  list(
    ggplot2::geom_segment(ggplot2::aes(x = .data$low, xend = .data$high, y = .data$y, yend = .data$y),
      data = marks,
      colour = look$ink, linewidth = 1.1
    ),
    ggplot2::geom_point(ggplot2::aes(.data$mean, .data$y), data = marks, colour = look$ink, size = 3)
  )
}

layer_counts <- function(bars, tall = FALSE) {
  if (!nrow(bars)) return(NULL)
  ggplot2::geom_text(ggplot2::aes((.data$from + .data$to) / 2, .data$count, label = .data$label),
    data = bars, vjust = if (tall) 0.5 else -0.4, hjust = if (tall) -0.3 else 0.5,
    size = if (tall) min(4, 60 / nrow(bars)) else 4, colour = look$ink, check_overlap = TRUE
  )
}

# Of several panels the words of groups without an order stand along their bars.
layer_words <- function(bars) {
  if (!nrow(bars)) return(NULL)
  ggplot2::geom_text(ggplot2::aes((.data$from + .data$to) / 2, 0, label = .data$label),
    data = bars, angle = 90, hjust = -0.04, size = 3.6, colour = look$ink
  )
}

drawing_distribution <- function() {
  new_drawing("distribution", 7, 1L, 12L, function(study, names, options, texts) {
    figure_distribution(study, names, options$bins, options$compare_log, texts)
  }, c(
    list(bins = argument("whole", "the approximate number of bins", value = "N", from = 1, to = 500)),
    compare_log_argument()
  ))
}
