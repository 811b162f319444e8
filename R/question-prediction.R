#' Predict y from a line
#'
#' For each x: the fitted value, the confidence interval of the mean of y, and the prediction interval of a
#' new case, which is much wider.
#'
#' @param line A line from [fit_line()].
#' @param at Values of x, in its unit; one number or more.
#' @param confidence The confidence level of both intervals. Default: that of the line.
#' @return A data frame (class `unsere_predictions`), one row per value: `at`, `fit`, `mean_low`, `mean_high`
#'   (confidence interval of the mean), `case_low`, `case_high` (prediction interval of a new case), all in the
#'   unit of y, and `outside_data` (`TRUE` outside the observed range of x).
#' @section Errors: `unsere_error_usage` if `line` is not a line or `at` is not numeric;
#'   `unsere_error_undefined` for the logarithm of a value of zero or less.
#' @references Working, H., & Hotelling, H. (1929). Applications of the theory of error to the interpretation of trends.
#'   *Journal of the American Statistical Association*, 24, 73-85. Draper, N. R., & Smith, H. (1998). *Applied
#'   regression analysis* (3rd ed.). Wiley.
#' @examples
#' fitted <- fit_line(demo_study("learners"), practice_hours, speaking_score, shape = "log")
#' predict_y(fitted, c(2, 5, 30))
#' @export
predict_y <- function(line, at, confidence = NULL) {
  check_line(line)
  confidence <- settle_confidence(confidence, line)
  if (!is.numeric(at) || !length(at) || any(is.infinite(at))) {
    wrong <- if (is.numeric(at)) "none or infinite ones" else class(at)[1]
    abort_usage(problem("`at` must hold numbers, not %s.", wrong), problem("Give values of %s.", line$x))
  }
  at <- as.double(at)
  if (line$shape == "log" && any(at <= 0, na.rm = TRUE)) {
    abort_undefined(
      problem("%s has no logarithm, so there is no prediction.", format(at[which(at <= 0)[1]])),
      "Give values above zero."
    )
  }
  predicted <- line_at(line$basis, line_score(line, at), confidence)
  rows <- data.frame(at = at, predicted, outside_data = outside_data(line, at))
  structure(rows, class = c("unsere_predictions", "data.frame"), line = line, confidence = confidence)
}

#' Estimate x from y (inverse prediction)
#'
#' For calibration: a reading of y is given, and the x that it belongs to is estimated. The limits include
#' every x for which the reading lies within the prediction interval (Fieller 1954). If the slope is not
#' significantly different from zero, they are not two numbers on either side of x; `limits` says what they are.
#'
#' @param line A line from [fit_line()].
#' @param y The readings, in the unit of y; one number or more.
#' @param same_unknown `TRUE` if all readings are of the same unknown x; they are then combined. Default:
#'   `FALSE`.
#' @param confidence The confidence level of the limits. Default: that of the line.
#' @return A data frame (class `unsere_solutions`), one row per solution:
#'   * `y` (the reading, or the mean of several), `x`, `x_low`, `x_high` (in the unit of x)
#'   * `limits`: `"bounded"` (between the limits), `"two-part"` (below the one or above the other), `"above"`
#'     or `"below"` the finite one, `"unbounded"` (no x is excluded), `"none"` (the line does not reach y)
#'   * `parts`: the number of separate ranges of x. A curve has up to three; the limits are those of the
#'     range around x
#'   * `readings` (their number), `outside_data`
#' @section Errors: `unsere_error_usage` if `line` is not a line or `y` is not numeric;
#'   `unsere_error_undefined` if the slope is exactly zero.
#' @references Fieller, E. C. (1954). Some problems in interval estimation. *Journal of the Royal Statistical Society
#'   B*, 16, 175-185. Draper, N. R., & Smith, H. (1998). *Applied regression analysis* (3rd ed.). Wiley.
#' @examples
#' dial <- fit_line(demo_study("dial"), dial, level_db)
#' estimate_x(dial, c(55, 62))
#' estimate_x(dial, c(54.1, 55.2, 54.8), same_unknown = TRUE)
#' @export
estimate_x <- function(line, y, same_unknown = FALSE, confidence = NULL) {
  check_line(line)
  confidence <- settle_confidence(confidence, line)
  if (!is.numeric(y) || !length(y) || !all(is.finite(y))) {
    abort_usage("`y` must hold numbers.", problem("Give readings of %s.", line$y))
  }
  if (all(line$terms$estimate[-1] == 0)) {
    abort_undefined(
      "The line is horizontal: every x is compatible with every reading.",
      "Choose a variable that the readings depend on."
    )
  }
  basis <- line$basis
  if (same_unknown && length(y) > 1L) {
    within <- sum((y - mean(y))^2)
    df <- basis$df + length(y) - 1
    basis$residual_sd <- sqrt((basis$residual_sd^2 * basis$df + within / basis$unit[["y"]]^2) / df)
    basis$df <- df
    rows <- solution_rows(line, basis, mean(y), length(y), confidence)
  } else {
    rows <- do.call(rbind, lapply(y, function(reading) solution_rows(line, basis, reading, 1L, confidence)))
  }
  structure(rows, class = c("unsere_solutions", "data.frame"), line = line, confidence = confidence)
}

solution_rows <- function(line, basis, y, readings, confidence) {
  rows <- line_backwards(basis, y, readings, confidence)
  back <- if (line$shape == "log") exp else identity
  rows$x <- back(rows$score)
  outside <- outside_data(line, rows$x)
  # Of two passages through a curve the one outside the data is none to speak of.
  if (nrow(rows) > 1L && any(!outside)) {
    rows <- rows[!outside, ]
    outside <- FALSE
  }
  data.frame(
    y = y, x = rows$x, x_low = back(rows$low), x_high = back(rows$high), limits = rows$limits,
    parts = rows$parts, readings = readings,
    outside_data = outside
  )
}

outside_data <- function(line, x) {
  ends <- range(line$sample$x)
  x < ends[1] | x > ends[2]
}

settle_confidence <- function(confidence, line) {
  if (is.null(confidence)) return(line$confidence)
  check_confidence(confidence)
  confidence
}

#' The path of a line over a stretch of x, for figures: its value, the band of its mean, that of single cases, and whether it
#' lies within the data
#' @noRd
line_path <- function(line, reach, case_band = FALSE, n = 160L) {
  if (line$shape == "log" && reach[1] <= 0) reach[1] <- min(line$sample$x)
  at <- seq(reach[1], reach[2], length.out = n)
  rows <- line_at(line$basis, line_score(line, at), line$confidence)
  ends <- range(line$sample$x)
  part <- ifelse(at < ends[1], "before", ifelse(at > ends[2], "after", "within"))
  out <- data.frame(x = at, y = rows$fit, low = rows$mean_low, high = rows$mean_high, part = part)
  if (isTRUE(case_band)) out[c("case_low", "case_high")] <- rows[c("case_low", "case_high")]
  out
}

# What is asked for at some values, and whether these lie beyond the data.
with_predictions <- function(line, options) {
  if (!is.null(options$at)) line$predictions <- plain_rows(predict_y(line, options$at))
  if (!is.null(options$solve)) {
    line$solutions <- plain_rows(estimate_x(line, options$solve, isTRUE(options$same_unknown)))
  }
  beyond <- check_outside(line$x, line$predictions$at[line$predictions$outside_data], range(line$sample$x))
  line$cautions <- bind_cautions(line$cautions, new_cautions(beyond, line$x, line$y))
  line
}
