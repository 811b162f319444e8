# Predictions and readings as they are shown.

prediction_cells <- function(rows, line, room = 60) {
  variables <- line$sample$variables
  decimals <- max(0, decimals_for(line$residual_sd, 3))
  interval <- function(low, high) {
    mapply(format_interval, low, high, MoreArgs = list(digits = decimals, one = format_decimals))
  }
  cells <- list(
    at = format_number(rows$at, 6), fit = format_decimals(rows$fit, decimals),
    mean = interval(rows$mean_low, rows$mean_high), case = interval(rows$case_low, rows$case_high),
    note = ifelse(rows$outside_data, say("outside"), "")
  )
  names(cells) <- c(
    shorten(heading_of(variables, line$x), room), shorten(heading_of(variables, line$y), room), "mean",
    say("new case"), ""
  )
  structure(if (any(rows$outside_data)) cells else cells[1:4], given = 1:2)
}

prediction_lines <- function(rows, line) {
  ends <- range(line$sample$x)
  c(
    set_table(prediction_cells(rows, line, 19)),
    set_paragraph(say(
      "%s%% intervals: confidence interval of the mean at that %s, and prediction interval for a new case.",
      percent(line$confidence), inside_of(line$sample$variables, line$x)
    )),
    if (any(rows$outside_data)) {
      set_paragraph(say(
        "Extrapolation: outside the data (%s) the line is untested.", reach_words(ends)
      ))
    }
  )
}

solution_cells <- function(rows, line) {
  variables <- line$sample$variables
  scattered <- line$residual_sd > 0 && line$shape == "linear"
  spread <- if (scattered) line$residual_sd / abs(line$terms$estimate[2]) else rows$x
  decimals <- decimals_for(spread, 3)
  one <- function(x) format_decimals(x, decimals)
  limits <- vapply(seq_len(nrow(rows)), function(k) {
    switch(rows$limits[k],
      bounded = format_interval(rows$x_low[k], rows$x_high[k], decimals, format_decimals),
      "two-part" = say("below %s or above %s", one(rows$x_low[k]), one(rows$x_high[k])),
      above = say("%s or above", one(rows$x_low[k])),
      below = say("%s or below", one(rows$x_high[k])),
      unbounded = say("no limits: any x will do"),
      none = undefined_mark()
    )
  }, "")
  note <- ifelse(rows$outside_data, say("outside the data"), "")
  several <- rows$parts > 1L & rows$limits != "two-part"
  note[several] <- trimws(paste(note[several], say("one of %d stretches of x that fit", rows$parts[several])))
  note[rows$limits == "none"] <- say("the line does not pass here")
  cells <- list(y = format_number(rows$y, 6), x = one(rows$x), limits = limits, note = note)
  names(cells) <- c(
    shorten(heading_of(variables, line$y), 24), shorten(heading_of(variables, line$x), 24),
    say("%s%% limits", percent(line$confidence)), ""
  )
  structure(cells, given = 1:2)
}

solution_lines <- function(rows, line) {
  c(
    set_table(solution_cells(rows, line)),
    if (any(rows$readings > 1L)) set_paragraph(say(
      "One unknown value, estimated from %d readings together.",
      rows$readings[1]
    )),
    if (any(rows$limits %in% c("two-part", "unbounded"))) {
      set_paragraph(say("The slope is not significant, so these readings do not determine the other variable."))
    }
  )
}

#' @export
format.unsere_predictions <- function(x, ...) format(plain_rows(x), ...)

#' @export
format.unsere_solutions <- function(x, ...) format(plain_rows(x), ...)

#' The line that rows came from, at their own confidence
#' @noRd
line_with <- function(x) utils::modifyList(attr(x, "line"), list(confidence = attr(x, "confidence")))

#' @export
print.unsere_predictions <- function(x, ...) print_rows(x, prediction_lines)

#' @export
print.unsere_solutions <- function(x, ...) print_rows(x, solution_lines)

# Some columns of them alone are a plain table.
print_rows <- function(x, lines) {
  if (is.null(attr(x, "line"))) print(plain_rows(x)) else cat(lines(x, line_with(x)), sep = "\n")
  invisible(x)
}
