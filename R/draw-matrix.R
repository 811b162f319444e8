#' Draw a correlation matrix
#'
#' Draws the lower triangle as cells with r and a strip: a bar from zero to r, with the interval as a thin line over it. A
#' frame marks pairs at or above the matrix's highlight. From 16 variables on only the strips are shown; above 40 variables
#' the strongest pairs are drawn as a ladder.
#'
#' @param matrix A matrix from [correlation_matrix()].
#' @param by_likeness Whether to order the variables by similarity (hierarchical clustering) instead of as given. Default:
#'   `FALSE`.
#' @param title,subtitle,caption Text; `NA` for none. Default: written from the result.
#' @param plain `TRUE` for a figure without title, subtitle and caption. Default: `FALSE`.
#' @return A ggplot2 object.
#' @section Errors: `unsere_error_usage` if `matrix` is not a matrix.
#' @examples
#' learners <- demo_study("learners")
#' found <- correlation_matrix(learners, practice_hours, speaking_score, confidence, m1, m4)
#' draw_matrix(found)
#' @export
draw_matrix <- function(matrix, by_likeness = FALSE, title = NULL, subtitle = NULL, caption = NULL, plain = FALSE) {
  check_matrix(matrix)
  figure_matrix(matrix, figure_texts(title, subtitle, caption, plain), by_likeness)
}

#' @rawNamespace S3method(ggplot2::autoplot, unsere_matrix)
autoplot.unsere_matrix <- function(object, ...) figure_matrix(object, ...)

#' @rawNamespace S3method(ggplot2::autoplot, unsere_matrices)
autoplot.unsere_matrices <- function(object, ...) figure_matrix(object$pooled, ...)

figure_matrix <- function(matrix, texts = list(), by_likeness = FALSE) {
  names <- matrix$variables$variable
  if (by_likeness) names <- likeness_order(matrix)
  figure <- switch(matrix_kind(matrix),
    rectangle = rectangle_figure(matrix),
    ladder = ladder_figure(matrix),
    triangle = triangle_figure(matrix, names)
  )
  figure <- figure + ggplot2::labs(
    title = text_or(texts$title, matrix_title(matrix)), subtitle = text_or(texts$subtitle, matrix_subtitle(matrix)),
    caption = text_or(texts$caption, matrix_caption(matrix))
  )
  with_title(figure, function(room) matrix_title(matrix, room))
}

matrix_caption <- function(matrix) {
  strip <- say("Strip: %s1 to 1, bar from zero to r, thin line: %s%% interval. Frame: r of %s or more.")
  legend <- say(strip, glyphs()$minus, percent(interval_confidence(matrix)), format_r(matrix$highlight))
  # What is wrong with a variable by itself is wrong with all of its cells.
  own <- pick_cautions(matrix$cautions, is.na(matrix$cautions$x) & matrix$cautions$severity == "serious" &
    !vapply(matrix$cautions$figures, function(figures) is.null(figures$name), NA))
  texts <- words_of_cautions(own, matrix$variables, door_page())
  paste(c(legend, texts$evidence), collapse = " ")
}

matrix_title <- function(matrix, room = 56L) {
  strongest <- above_zero(matrix$pairs, 1)
  if (is.na(strongest$r)) return(NULL)
  x <- title_label(matrix$variables, strongest$x, room)
  say("Strongest correlation: %s and %s", begin(x, matrix$variables), title_label(matrix$variables, strongest$y, room))
}

matrix_subtitle <- function(matrix) {
  n <- range(matrix$pairs$n)
  if (matrix_kind(matrix) == "ladder") return(strongest_of(matrix, most_rungs))
  say(
    "%s of %s, n = %s", count_of(nrow(matrix$pairs), "pair"), count_of(nrow(matrix$variables), "variable"),
    if (n[1] == n[2]) n[1] else say("%d to %d", n[1], n[2])
  )
}

#' "40 strongest of 1,770 correlations, n = 180"
#' @noRd
strongest_of <- function(matrix, most) {
  n <- range(matrix$pairs$n)
  cases <- if (n[1] == n[2]) format_count(n[1]) else say("%d to %d", n[1], n[2])
  say("%s strongest of %s correlations, n = %s", min(most, nrow(matrix$pairs)), format_count(nrow(matrix$pairs)), cases)
}

#' Variables that go together side by side: average linkage on 1 - |r|
#' @noRd
likeness_order <- function(matrix) {
  names <- matrix$variables$variable
  if (length(names) < 3L) return(names)
  far <- matrix(0, length(names), length(names))
  i <- match(matrix$pairs$x, names)
  j <- match(matrix$pairs$y, names)
  far[cbind(i, j)] <- far[cbind(j, i)] <- 1 - abs(ifelse(is.na(matrix$pairs$r), 0, matrix$pairs$r))
  names[stats::hclust(stats::as.dist(far), "average")$order]
}

triangle_figure <- function(matrix, names) {
  cells_figure(triangle_cells(matrix, names), length(names), triangle_axes(matrix, names))
}

#' Cells with r, the strip and a frame where r stands out
#' @noRd
cells_figure <- function(cells, p, axes, with_figures = p <= 15L) {
  base <- if (with_figures) -0.22 else 0
  marked <- cells[cells$highlighted, ]
  figure <- ggplot2::ggplot(cells) +
    ggplot2::geom_tile(ggplot2::aes(.data$column, .data$row), width = 0.94, height = 0.94, fill = look$ground) +
    cell_strips(cells, base, if (with_figures) 0.09 else 0.2) +
    (if (with_figures) ggplot2::geom_text(ggplot2::aes(.data$column, .data$row + 0.16, label = .data$text),
      colour = look$ink, size = max(2.8, 5.2 - 0.13 * p)
    )) +
    (if (nrow(marked)) ggplot2::geom_tile(ggplot2::aes(.data$column, .data$row),
      data = marked, width = 0.94,
      height = 0.94, fill = NA, colour = look$ink, linewidth = 0.8
    )) +
    ggplot2::scale_fill_identity() +
    axes +
    figure_look() +
    ggplot2::theme(
      panel.grid.major = ggplot2::element_blank(), axis.text.y = ggplot2::element_text(colour = look$ink),
      axis.text.x = ggplot2::element_text(colour = look$ink)
    )
  if (!with_figures) return(figure)
  with_fit(figure, fit_cell_figures(p, length(unique(cells$row)), function() cells_figure(cells, p, axes, FALSE)))
}

#' The figures in the cells of a matrix as large as a cell lets them be, or larger strips where that is too small to be read
#' @noRd
fit_cell_figures <- function(columns, rows, strips_alone) {
  function(figure, panel, scale) {
    # The names of the rows take about a third of the width.
    cell <- c(panel[["width"]] * 0.72 / columns, panel[["height"]] / rows)
    size <- min(cell[1] / 2.6, cell[2] / 2.2)
    figures <- vapply(figure$layers, function(layer) inherits(layer$geom, "GeomText"), NA)
    if (size < 2.5) {
      figure$layers <- strips_alone()$layers
    } else {
      figure$layers[figures] <- lapply(figure$layers[figures], function(layer) {
        with_text_size(layer, min(layer$aes_params$size, size))
      })
    }
    figure
  }
}

#' In each cell the rail with zero marked, the bar from zero to r, the interval over it
#' @noRd
cell_strips <- function(cells, base, thick, half = 0.42) {
  cells$colour <- ifelse(cells$r < 0, look$negative, look$dots)
  list(
    ggplot2::geom_segment(
      ggplot2::aes(x = .data$column - half, xend = .data$column + half, y = .data$row + base, yend = .data$row + base),
      colour = look$rule, linewidth = 0.4
    ),
    ggplot2::geom_segment(
      ggplot2::aes(
        x = .data$column, xend = .data$column, y = .data$row + base - 0.13, yend = .data$row + base + 0.13
      ),
      colour = look$soft, linewidth = 0.4
    ),
    ggplot2::geom_rect(
      ggplot2::aes(
        xmin = .data$column + pmin(.data$r, 0) * half, xmax = .data$column + pmax(.data$r, 0) * half,
        ymin = .data$row + base - thick, ymax = .data$row + base + thick, fill = .data$colour
      ),
      data = cells[!is.na(cells$r), ]
    ),
    ggplot2::geom_segment(
      ggplot2::aes(
        x = .data$column + .data$ci_low * half, xend = .data$column + .data$ci_high * half,
        y = .data$row + base, yend = .data$row + base
      ),
      data = cells[!is.na(cells$ci_low), ], colour = look$ink, linewidth = 0.6
    )
  )
}

#' Where the figure of a matrix has which pair: the ends of its cells in units of the axes
#' @return A data frame: `pair` (its row in `pairs`), `xmin`, `xmax`, `ymin`, `ymax`.
#' @noRd
figure_cells <- function(matrix, by_likeness = FALSE) {
  kind <- matrix_kind(matrix)
  if (kind == "ladder") {
    rank <- strongest_places(matrix$pairs, most_rungs)
    return(data.frame(pair = rank, xmin = -1, xmax = 1, ymin = -seq_along(rank) - 0.45, ymax = -seq_along(rank) + 0.45))
  }
  cells <- if (kind == "rectangle") rectangle_cells(matrix) else
    triangle_cells(matrix, if (by_likeness) likeness_order(matrix) else matrix$variables$variable)
  data.frame(
    pair = seq_len(nrow(cells)), xmin = cells$column - 0.47, xmax = cells$column + 0.47, ymin = cells$row - 0.47,
    ymax = cells$row + 0.47
  )
}

matrix_kind <- function(matrix) {
  if (!is.null(matrix$rows)) "rectangle" else if (nrow(matrix$variables) > 40L) "ladder" else "triangle"
}

rectangle_cells <- function(matrix) {
  pairs <- matrix$pairs
  data.frame(
    column = match(pairs$y, matrix$columns), row = -match(pairs$x, matrix$rows), r = pairs$r, ci_low = pairs$ci_low,
    ci_high = pairs$ci_high, highlighted = pairs$highlighted, text = format_r(pairs$r)
  )
}

rectangle_figure <- function(matrix) {
  wrapped <- function(names, room) {
    vapply(label_of(matrix$variables, names), function(label) wrap_lines(label, room), "")
  }
  axes <- list(
    ggplot2::scale_y_continuous(
      breaks = -seq_along(matrix$rows), labels = wrapped(matrix$rows, 26), name = NULL,
      limits = c(-length(matrix$rows) - 0.5, -0.5), expand = ggplot2::expansion(add = 0.1)
    ),
    ggplot2::scale_x_continuous(
      breaks = seq_along(matrix$columns), labels = wrapped(
        matrix$columns,
        max(8, 60 %/% length(matrix$columns))
      ), position = "top", name = NULL,
      limits = c(0.5, length(matrix$columns) + 0.5), expand = ggplot2::expansion(add = 0.1)
    )
  )
  cells_figure(rectangle_cells(matrix), max(length(matrix$rows), length(matrix$columns)), axes)
}

#' Rows are the second variable to the last, from the top; columns the first to the last but one
#' @noRd
triangle_cells <- function(matrix, names) {
  pairs <- matrix$pairs
  i <- match(pairs$x, names)
  j <- match(pairs$y, names)
  data.frame(
    column = pmin(i, j), row = -pmax(i, j), r = pairs$r, ci_low = pairs$ci_low, ci_high = pairs$ci_high,
    highlighted = pairs$highlighted, text = format_r(pairs$r)
  )
}

# Rows carry number and name, columns the number alone: no name is ever turned. Where there are many rows each has one line.
triangle_axes <- function(matrix, names) {
  p <- length(names)
  labels <- label_of(matrix$variables, names)
  labels <- if (p > 8L) shorten_at_word(labels, 30L) else vapply(shorten_at_word(labels, 50L), wrap_lines, "", room = 26)
  list(
    ggplot2::scale_y_continuous(
      breaks = -seq_len(p), labels = paste0(labels, "  ", seq_len(p)), name = NULL,
      expand = ggplot2::expansion(add = 0.1), limits = c(-p - 0.5, -0.5)
    ),
    ggplot2::scale_x_continuous(
      breaks = seq_len(p - 1L), position = "top", name = NULL,
      expand = ggplot2::expansion(add = 0.1),
      limits = c(0.5, p - 0.5)
    )
  )
}

most_rungs <- 40L

#' The strongest pairs, one strip each
#' @param between What stands between the names of a pair: a line break where each pair has the height of two lines.
#' @noRd
ladder_figure <- function(matrix, most = most_rungs, between = " / ") {
  pairs <- above_zero(matrix$pairs, most)
  room <- if (between == " / ") 28L else 34L
  label <- paste0(
    shorten(label_of(matrix$variables, pairs$x), room), between, shorten(label_of(matrix$variables, pairs$y), room)
  )
  pairs$row <- -seq_len(nrow(pairs))
  pairs$colour <- ifelse(pairs$r < 0, look$negative, look$dots)
  ggplot2::ggplot(pairs) +
    ggplot2::geom_vline(xintercept = 0, colour = look$soft, linewidth = 0.4) +
    ggplot2::geom_rect(ggplot2::aes(
      xmin = pmin(.data$r, 0), xmax = pmax(.data$r, 0), ymin = .data$row - 0.3,
      ymax = .data$row + 0.3, fill = .data$colour
    )) +
    ggplot2::geom_segment(ggplot2::aes(x = .data$ci_low, xend = .data$ci_high, y = .data$row, yend = .data$row),
      colour = look$ink, linewidth = 0.6
    ) +
    ggplot2::scale_fill_identity() +
    ggplot2::scale_y_continuous(breaks = pairs$row, labels = paste0(label, "  ", format_r(pairs$r)), name = NULL) +
    ggplot2::scale_x_continuous(limits = c(-1, 1), labels = axis_numbers, name = "r") +
    figure_look() +
    (if (between == "\n") ggplot2::theme(axis.text.y = ggplot2::element_text(lineheight = 0.85, size = 10)))
}

drawing_matrix <- function() {
  new_drawing("matrix", 6, 0L, 200L, function(study, names, options, texts) {
    matrix <- answer_matrix(study, c(list(names = names), options[c("highlight", "confidence")]))
    figure_matrix(matrix, texts, options$by_likeness)
  }, list(
    highlight = question_matrix()$arguments$highlight,
    by_likeness = argument("flag", "order the variables by similarity", default = FALSE)
  ), width = matrix_width, height = matrix_height)
}

# None named is all.
matrix_width <- function(n) if (n == 0 || n > 8) 14 else 8

matrix_height <- function(n) if (n == 0) 9 else min(max(5, 1.5 + 0.55 * n), 14)
