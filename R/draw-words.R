# The words in figures: what is seen as the title, the data and n under it, r and the equation in the panel.

#' @param room How many letters of a label there is room for.
#' @noRd
seen_title <- function(relation, sample, room = 56L) {
  x <- title_label(sample$variables, sample$names[1], room)
  y <- title_label(sample$variables, sample$names[2], room)
  if (is.null(relation)) return(begin(say("%s by %s", y, x), sample$variables))
  if (is_clear(relation) && !is.null(relation$groups)) {
    groups_title(relation, room)
  } else if (!is_clear(relation)) {
    say("No significant correlation between %s and %s", x, y)
  } else if (is_slight(relation)) {
    say("Negligible correlation between %s and %s", begin(x, sample$variables), y)
  } else {
    say(
      "%s and %s: %s = %s", begin(x, sample$variables), y, coefficient_symbol(relation$coefficient),
      format_r(relation$r, digits_for(relation))
    )
  }
}

# Of very many cases also an r that the words in force call next to nothing is statistically significant.
is_slight <- function(relation) abs(relation$r) < or_default(relation$scale$cuts[1], 0.1)

#' "Speaking score is higher with "yes" on "Has a study partner""
#' @noRd
groups_title <- function(relation, room = 56L) {
  sides <- if (is.null(relation$sample$coding$x$one)) c(binary = "y", other = "x") else c(binary = "x", other = "y")
  variables <- relation$sample$variables
  other <- title_label(variables, relation[[sides[["other"]]]], room)
  binary <- shorten_at_word(label_of(variables, relation[[sides[["binary"]]]]), room)
  size <- paste0(if (is_slight(relation)) "slightly ", if (relation$r > 0) say("higher") else say("lower"))
  begin(say("%s is %s with \"%s\" on \"%s\"", other, size, relation$groups$value[2], binary), variables)
}

# A figure travels without the sentence: what turns the result round stands on it.
scatter_subtitle <- function(result) {
  grave <- unique(result$cautions$code[result$cautions$severity == "serious"])
  meant <- paste(meaning_of(grave), collapse = " ")
  paste(c(what_is_drawn(result), if (length(grave)) meant), collapse = "\n")
}

what_is_drawn <- function(result) {
  if (!is.null(result$imputed)) {
    return(say("r of %d completed data sets, dots at their mean; n = %s", result$imputed, format_count(result$n)))
  }
  if (!is.null(result$plausible)) {
    return(say("r of %d plausible values, dots at their mean; n = %s", result$plausible, format_count(result$n)))
  }
  if (!is.null(result$given)) {
    return(say("controlling for %s; n = %s", paste(result$given_labels, collapse = ", "), format_count(result$n)))
  }
  source <- unique(stats::na.omit(result$sample$variables$source))
  left_out <- if (result$n_dropped) say(", %s excluded", format_count(result$n_dropped))
  counts <- paste0(say("n = %s complete pairs", format_count(result$n)), left_out)
  if (!length(source)) return(counts)
  source <- paste(source, collapse = "; ")
  if (nchar(source) + nchar(counts) > 72) return(paste0(source, "\n", counts))
  paste(source, glyphs()$dash, counts)
}

scatter_caption <- function(result, band, counted = NULL, extra = list(), below = NULL) {
  text <- c(
    if (!is.null(below)) paste0(below, "."),
    if (!is.null(band)) {
      say("Line: least squares, with the %s%% confidence interval of the mean.", percent(result$confidence))
    },
    if (!is.null(band) && isTRUE(extra$case_band)) say("Dashed curves: prediction interval for a new case."),
    if (is.data.frame(band) && any(band$part != "within")) say("Dashed line: beyond the range of the data."),
    if (!is.null(attr(counted, "cells"))) {
      say("Cases are counted in cells; the area of a dot is proportional to the number of cases in its cell.")
    } else if (!is.null(counted)) {
      say("The area of a dot is proportional to the number of cases.")
    },
    if (isTRUE(extra$means)) say("Diamonds: means."),
    if (!is.null(extra$medians)) say("Diamonds: median of y at each value of x."),
    if (!is.null(extra$marks)) say("Rings: predicted values, or values of x estimated from y.")
  )
  if (length(text)) paste(text, collapse = " ")
}

#' r with its interval and the equation, set where nothing else is drawn
#'
#' @param drawn A data frame of `x`, `y`, `size` (the diameter in mm) and `width` (in mm): all that must stay in sight.
#' @return A list: `layer` (or nothing), `ends` (the limits of the panel, raised to make room above the dots where no free
#'   place is large enough and the user has set no limits), `below` (the text, where it must stand under the panel).
#' @noRd
place_label <- function(drawn, ends, lines, band, may_raise, panel = panel_size, scale = 1) {
  if (!length(lines)) return(list(layer = NULL, ends = ends))
  size <- 4.2 * scale
  # A letter takes about half of its height.
  width <- max(nchar(lines, type = "width")) * size * 0.55 / panel[[1]] + 0.02
  height <- length(lines) * size * 1.5 / panel[[2]] + 0.03
  reach <- list(x = drawn$width / 2 / panel[[1]], y = drawn$size / 2 / panel[[2]])
  seek <- function(ends) find_free_place(drawn$x, drawn$y, ends$x, ends$y, width, height, band, reach = reach)
  place <- seek(ends)
  if (place$hidden && may_raise) {
    ends$y[2] <- ends$y[2] + height * 1.2 * diff(ends$y)
    place <- seek(ends)
  }
  if (place$hidden || width > 0.95) return(list(layer = NULL, ends = ends, below = below_panel(lines)))
  if (height > 0.6) return(list(layer = NULL, ends = ends, below = below_panel(lines)))
  layer <- do.call(ggplot2::annotate, c(list("label",
    x = place$x, y = place$y, label = paste(lines, collapse = "\n"),
    hjust = 0, vjust = 1, size = size, colour = look$ink, fill = "white", alpha = 0.75, lineheight = 1.15
  ), no_frame()))
  layer$is_note <- TRUE
  list(layer = layer, ends = ends)
}

#' The note in a panel set anew for the size of the panel: whole, or r alone with the equation below the panel, or all below
#' @param note From lines, a panel and a scale of text to a place; `lines` of the note, `ends` of the panel and `before`, the
#'   caption, as the figure was made; `caption` from what stands below to the caption.
#' @noRd
fit_note <- function(note, lines, ends, caption, before) {
  function(figure, panel, scale) {
    if (!length(lines) || !identical(figure$coordinates$limits, ends[c("x", "y")])) return(figure)
    for (count in unique(c(length(lines), 1L))) {
      label <- note(lines[seq_len(count)], panel, scale)
      if (!is.null(label$layer)) break
    }
    if (is.null(label$layer)) label <- note(lines, panel, scale)
    rest <- if (!is.null(label$layer) && count < length(lines)) below_panel(lines[-1])
    old <- vapply(figure$layers, function(layer) isTRUE(layer$is_note), NA)
    figure$layers <- c(figure$layers[!old], label$layer)
    figure$coordinates <- ggplot2::coord_cartesian(xlim = label$ends$x, ylim = label$ends$y, expand = FALSE)
    if (identical(figure$labels$caption, before)) figure$labels$caption <- caption(c(label$below, rest))
    figure
  }
}

# The lines of a label in one; what an equation was broken into is put together again.
below_panel <- function(lines) gsub("\n", "; ", gsub("\n +", " ", paste(lines, collapse = "\n")), fixed = TRUE)

# Width and height of a panel in mm, as figures are usually saved.
panel_size <- c(178, 99)

#' All that a label must not lie on: dots in their size, means and the counts under them, marks and their numbers
#' @noRd
drawn_places <- function(dots, counted, means, marks, ends) {
  shown <- if (is.null(counted)) dots else counted
  most <- if (is.null(attr(counted, "cells"))) 9 else 4
  size <- if (is.null(counted)) rep(2.8, nrow(dots)) else most * sqrt(shown$count / max(shown$count))
  place <- function(x, y, size, width = size) data.frame(x = x, y = y, size = size, width = width)
  out <- place(shown$x, shown$y, size)
  # The many cells of a crowd: a label may lie on a few cases, not on many.
  if (!is.null(attr(counted, "cells"))) out <- out[shown$count >= max(shown$count) / 200, ]
  if (!is.null(means)) {
    # Half of a line of text above the lower edge stands the count of each mean.
    low <- ends$y[1] + 3 / panel_size[2] * diff(ends$y)
    out <- rbind(out, place(means$x, means$y, 4), place(means$x, rep(low, nrow(means)), 6, 14))
  }
  if (is.null(marks)) return(out)
  rbind(out, place(marks$x, marks$y, 4), place(marks$x, marks$y - 5 / panel_size[2] * diff(ends$y), 5, 16))
}

label_lines <- function(relation, fitted) {
  # r tells of a straight line; with another shape the share of variance stands for it.
  bent <- !is.null(fitted) && fitted$shape != "linear"
  size <- if (bent) sprintf("r%s = %s", glyphs()$squared, format_r(fitted$r_squared)) else if (!is.null(relation)) {
    r_label(relation)
  }
  c(size, if (!is.null(fitted)) equation_label(fitted))
}

# A long equation is broken before its equals sign, then where it must be.
equation_label <- function(line, room = 38L) {
  equation <- line_equation(line)
  if (nchar(equation, type = "width") <= room) return(equation)
  variables <- line$sample$variables
  right <- right_side(line, label_of(variables, line$x))
  c(label_of(variables, line$y), strwrap(paste("=", right), room, indent = 2, exdent = 4))
}

text_or <- function(given, default) if (is.null(given)) default else if (is.na(given)) NULL else given

figure_texts <- function(title, subtitle, caption, plain) {
  if (plain) list(title = NA, subtitle = NA, caption = NA) else list(
    title = title, subtitle = subtitle,
    caption = caption
  )
}
