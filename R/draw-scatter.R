#' Draw a scatter plot of two variables
#'
#' Draws one dot per complete pair, the regression line with the confidence band of the mean, and r with the equation where
#' there are fewest dots. The result is a ggplot2 object and can be extended like any other.
#'
#' @param study A study, or a data frame.
#' @param x,y The variables on the horizontal and vertical axis: bare names or strings.
#' @param by A grouping variable that colours the dots: a bare name or a string. Default: none.
#' @param given Control variables: the residuals of both variables are drawn. Default: none.
#' @param line Whether to draw the regression line with its band.
#' @param shape The shape of the line, as for [fit_line()].
#' @param case_band Whether to add the prediction band for new cases. Default: `FALSE`.
#' @param panels Whether to draw each group of `by` in its own panel, with the line within the group and that of all cases.
#' @param means Whether to add the mean of y at each x, with n; for an x with few values.
#' @param at,solve Values of x at which to predict, and values of y for which to estimate x; marked on the line.
#' @param flat_line Whether to draw a horizontal line at the mean of y.
#' @param labels Whether to write r and the equation into the figure.
#' @param name_cases The cases to label: `"none"`, `"all"`, or a character vector of case names.
#' @param x_limits,y_limits The ends of the axes, two numbers each. Default: from the data.
#' @param title,subtitle,caption Text; `NA` for none. Default: written from the result.
#' @param plain `TRUE` for a figure without title, subtitle and caption. Default: `FALSE`.
#' @param confidence The confidence level of the band and of the interval of r, between 0 and 1. Default: .95.
#' @return A ggplot2 object.
#' @section Errors: As for [relate()]; `unsere_error_usage` if limits are not two different numbers.
#' @examples
#' learners <- demo_study("learners")
#' draw_scatter(learners, practice_hours, speaking_score)
#' draw_scatter(learners, commute_min, listening_score, by = centre)
#' @export
draw_scatter <- function(
  study, x, y, by = NULL, given = NULL, line = TRUE, shape = "linear", case_band = FALSE,
  flat_line = FALSE,
  panels = FALSE, means = FALSE, at = NULL, solve = NULL, labels = TRUE, name_cases = "none",
  x_limits = NULL, y_limits = NULL, title = NULL, subtitle = NULL, caption = NULL,
  plain = FALSE, confidence = 0.95
) {
  study <- check_study(study)
  x <- pick_one(study, rlang::enquo(x), "x")
  y <- pick_one(study, rlang::enquo(y), "y")
  options <- list(
    by = pick_optional(study, rlang::enquo(by), "by"), given = pick_side(study, rlang::enquo(given)), line = line,
    shape = shape, case_band = case_band,
    flat_line = flat_line, panels = panels, means = means, at = at, solve = solve, labels = labels,
    name_cases = name_cases, x_limits = x_limits, y_limits = y_limits, confidence = confidence
  )
  draw_pair(study, x, y, options, figure_texts(title, subtitle, caption, plain))
}

#' The scatter plot of two variables of a study: one sample, its relation, its line, then the figure
#' @noRd
draw_pair <- function(study, x, y, options, texts) {
  limits <- list(x = check_limits(options$x_limits, "x_limits"), y = check_limits(options$y_limits, "y_limits"))
  by_sums <- is.null(options$by) && is.null(options$given) && !isTRUE(options$panels) && !isTRUE(options$means) &&
    identical(options$shape, "linear") && !has_design(study) && identical(options$name_cases, "none")
  if (any(level_of(study, c(x, y)) == "nominal")) return(draw_pair_of_groups(study, x, y, options, texts))
  if (!gives_rows(study, c(x, y, options$given), by_sums)) return(draw_in_database(study, x, y, options, limits, texts))
  samples <- samples_of_pair(study, x, y, options$given)
  sample <- samples$shown
  confidence <- options[intersect(names(options), c("confidence"))]
  # Only what turns a result round stands on its figure; of very many cases it is not looked for, nor where nobody sees it.
  unseen <- !is.null(texts$subtitle) || isTRUE(options$panels) || sample_size(sample) > most_dots
  pair_asked <- c(settle_arguments(question_relate(), c(confidence, list(given = options$given))), undoubted = unseen)
  relation <- relate_study(study, x, y, pair_asked, samples)
  shape <- one_of(options$shape, line_shapes, "shape")
  line_asked <- c(settle_arguments(question_line(), c(confidence, list(shape = shape))), undoubted = TRUE)
  residuals <- relation$residual_sample
  fitted <- if (is.null(residuals)) {
    line_of_samples(samples, line_asked, relation)
  } else {
    line_of_sample(residuals, line_asked)
  }
  group <- group_of(study, options$by, sample, in_panels = isTRUE(options$panels))
  if (isTRUE(options$panels)) return(figure_panels(fitted, group, texts))
  figure_scatter(
    relation, fitted,
    group = group, line = options$line, flat_line = options$flat_line, labels = options$labels,
    name_cases = options$name_cases, limits = limits, texts = texts, extra = list(
      case_band = options$case_band, means = options$means, marks = line_marks(fitted, options$at, options$solve)
    )
  )
}

# Of too many cases to be fetched: cells that the database counts.
draw_in_database <- function(study, x, y, options, limits, texts) {
  plain <- is.null(options$by) && is.null(options$given) && !isTRUE(options$panels) && !isTRUE(options$means)
  if (!plain) abort_usage("With so many cases the figure cannot show groups, panels or means.", "Select fewer with where.")
  confidence <- options[intersect(names(options), "confidence")]
  relation <- relate_by_sums(study, settle_arguments(question_relate(), c(confidence, list(x = x, y = y))))
  shape <- list(x = x, y = y, shape = options$shape)
  fitted <- line_by_sums(study, settle_arguments(question_line(), c(confidence, shape)))
  figure_scatter(
    relation, fitted,
    line = options$line, labels = options$labels, limits = limits, texts = texts,
    extra = list(case_band = options$case_band, marks = line_marks(fitted, options$at, options$solve))
  )
}

#' @rawNamespace S3method(ggplot2::autoplot, unsere_relation)
autoplot.unsere_relation <- function(object, ...) figure_scatter(object, NULL, ...)

#' @rawNamespace S3method(ggplot2::autoplot, unsere_line)
autoplot.unsere_line <- function(object, ...) figure_scatter(NULL, object, ...)

check_limits <- function(limits, argument) {
  if (is.null(limits)) return(NULL)
  if (is.numeric(limits) && length(limits) == 2L && all(is.finite(limits)) &&
    limits[1] != limits[2]) return(sort(limits))
  abort_usage(problem("`%s` needs two different numbers.", argument), "For example c(0, 100).")
}

#' The groups of the cases: of panels the largest, where they are many; colours tell a few apart and no more
#' @noRd
group_of <- function(study, by, sample, in_panels = FALSE, most_panels = 30L) {
  if (is.null(by)) return(NULL)
  values <- as.character(study_column(study, by))[sample$row]
  values[is.na(values)] <- say("not reported")
  kinds <- unique(values)
  all <- length(kinds)
  if (in_panels) kinds <- utils::head(names(sort(table(values), decreasing = TRUE)), most_panels)
  if (!in_panels && all > length(group_colours)) {
    abort_usage(
      problem("%s has %d values; colours can distinguish %d groups at most.", by, all, length(group_colours)),
      "Choose a variable with fewer groups, or give each a panel (panels = TRUE)."
    )
  }
  list(name = axis_heading(study_book(study), by), values = factor(values, sort(kinds)), all = all)
}

#' The figure of results that are there already
#' @noRd
figure_scatter <- function(relation, fitted, group = NULL, line = !is.null(fitted), flat_line = FALSE, labels = TRUE,
                           name_cases = "none", limits = list(), texts = list(), extra = list()) {
  result <- if (is.null(relation)) fitted else relation
  # With others controlled for: what is left of both.
  sample <- if (is.null(result$residual_sample)) result$sample else result$residual_sample
  cells <- sample$more$cells
  dots <- if (is.null(cells)) data.frame(x = sample$x, y = sample$y) else cells[c("x", "y")]
  named <- is.null(cells) && (!identical(name_cases, "none") || nrow(dots) <= most_dots)
  dots$case <- if (named) sample_cases(sample) else ""
  if (!is.null(group)) dots$group <- group$values
  if (!is.null(result$design$weight)) dots$weight <- sample_design(sample)$weight
  # A straight line supposes equal steps, which ordered categories do not have.
  ordered <- line && is.null(result$given) && is_ordinal_pair(sample) && !isTRUE(extra$means) && is.null(extra$marks)
  medians <- if (ordered && is.null(cells)) medians_at(dots)
  if (!is.null(medians)) line <- FALSE
  band <- if (line && !is.null(fitted)) line_path(fitted, range(c(dots$x, extra$marks$x, limits$x)), extra$case_band)
  ends <- scatter_ends(sample, dots, band, extra$marks, limits)
  crowd <- !is.null(cells) || is.null(group) && nrow(dots) > most_dots
  counted <- if (!is.null(cells)) {
    structure(cbind(cells, case = ""), cells = TRUE)
  } else if (crowd && count_kinds(dots$x) <= 12L && count_kinds(dots$y) <= 12L) {
    counted_dots(dots)
  } else if (crowd) {
    counted_cells(dots, ends)
  } else if (is.null(group) && is.null(dots$weight)) {
    counted_dots(dots)
  }
  shown <- if (crowd) counted else dots
  # An equation in words of a scale would tell nothing.
  worded <- any(vapply(sample$coding, function(side) !is.null(side$steps), NA)) || !is.null(result$given)
  lines <- if (labels) label_lines(relation, if (line && !worded) fitted)
  means <- if (isTRUE(extra$means)) means_at(dots)
  drawn <- drawn_places(dots, counted, if (is.null(means)) medians else means, extra$marks, ends)
  note <- function(lines, ...) place_label(drawn, ends, lines, band, is.null(limits$y), ...)
  extra$medians <- medians
  caption <- function(below) caption_with(texts$caption, below, scatter_caption(result, band, counted, extra, below))
  label <- note(lines)
  figure <- ggplot2::ggplot(shown, ggplot2::aes(.data$x, .data$y)) +
    (if (!crowd) layer_line(band)) +
    layer_flat(flat_line, mean(dots$y)) +
    layer_dots(shown, group, counted) +
    (if (crowd) layer_line(band)) +
    layer_means(means) +
    layer_medians(medians) +
    layer_points(extra$marks, label$ends$y) +
    layer_names(dots, name_cases) +
    label$layer +
    ggplot2::coord_cartesian(xlim = label$ends$x, ylim = label$ends$y, expand = FALSE) +
    ggplot2::labs(
      x = left_heading(result, sample, 1), y = left_heading(result, sample, 2),
      title = text_or(texts$title, seen_title(relation, sample)),
      subtitle = text_or(texts$subtitle, scatter_subtitle(result)),
      caption = caption(label$below)
    ) +
    side_scale(ggplot2::scale_x_continuous, sample$coding$x, scale_values(sample, 1)) +
    side_scale(ggplot2::scale_y_continuous, sample$coding$y, scale_values(sample, 2)) +
    figure_look()
  figure <- with_title(figure, function(room) seen_title(relation, sample, room))
  with_fit(figure, fit_note(note, lines, label$ends, caption, caption(label$below)))
}

# How far the panel reaches on each side.
scatter_ends <- function(sample, dots, band, marks, limits) {
  drawn <- c(sample$y, band$low, band$high, band$case_low, band$case_high, marks$y)
  steps <- function(side) c(sample$coding[[side]]$steps$at, steps_to_show(sample, match(side, c("x", "y"))))
  list(
    x = panel_range(limits$x, c(sample$x, marks$x, steps("x")), dots$x),
    y = panel_range(limits$y, c(drawn, steps("y")), dots$y)
  )
}

is_ordinal_pair <- function(sample) {
  levels <- sample$variables$level[match(sample$names, sample$variables$variable)]
  all(levels %in% "ordinal") && count_kinds(sample$x) <= 15L
}

# An axis of what is left says so.
left_heading <- function(result, sample, side) {
  heading <- axis_heading(sample$variables, sample$names[side])
  if (is.null(result$given)) heading else say("%s, residuals", heading)
}

# What had to leave the panel stands below it, also where the figure has no other caption.
caption_with <- function(given, below, default) {
  if (is.null(given)) return(default)
  text <- c(if (!is.na(given)) given, below)
  if (length(text)) paste(text, collapse = "\n")
}

layer_names <- function(dots, name_cases) {
  if (identical(name_cases, "none")) return(NULL)
  if (!identical(name_cases, "all")) {
    unknown <- setdiff(name_cases, dots$case)
    if (length(unknown)) {
      abort_usage(
        problem("No complete pair is named \"%s\".", unknown[1]),
        suggest_names(unknown[1], dots$case, "cases")
      )
    }
    dots <- dots[dots$case %in% name_cases, ]
  }
  rlang::check_installed("ggrepel", "to name cases in a figure.")
  ggrepel::geom_text_repel(ggplot2::aes(label = .data$case),
    data = dots, size = 3.8, colour = look$ink, seed = 1,
    min.segment.length = 0.2, segment.colour = look$soft, max.overlaps = Inf
  )
}

drawing_scatter <- function() {
  limits <- function(help) argument("numbers", help, value = "A,B")
  new_drawing("scatter", 1, 2L, 2L, draw_scatter_options, list(
    by = argument("variable", "a grouping variable", value = "VAR"),
    given = argument("variables", "control variables: the residuals are drawn", value = "A,B"),
    panels = argument("flag", "one panel for each group of --by", default = FALSE),
    shape = shape_argument(), at = at_argument(),
    solve = question_line()$arguments$solve,
    case_band = argument("flag", "add the prediction band for new cases", default = FALSE),
    means = argument("flag", "add the mean of Y at each X", default = FALSE),
    x_limits = limits("the ends of the horizontal axis"), y_limits = limits("the ends of the vertical axis"),
    flat_line = argument("flag", "add a horizontal line at the mean of Y", default = FALSE),
    no_line = argument("flag", "omit the fitted line", default = FALSE),
    name_cases = argument("texts", "the cases to label: all, or names separated by commas", value = "WHICH")
  ), at = "numbers")
}

draw_scatter_options <- function(study, names, options, texts) {
  options$line <- !options$no_line
  options$labels <- TRUE
  options$name_cases <- or_default(options$name_cases, "none")
  draw_pair(study, names[1], names[2], options, texts)
}
