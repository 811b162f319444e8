#' Predict y from a line
#'
#' For each x: the line's value, the interval of the mean of y there, and the interval of a single new case, which is
#' wider by far.
#'
#' @param line A line from [fit_line()].
#' @param at The values of x, in its unit; one number or many.
#' @param confidence The coverage of both intervals; that of the line when `NULL`.
#' @return A data frame (class `unsere_predictions`), a row a value: `at`, `fit`, `mean_low`, `mean_high` (where the
#'   mean of many cases with this x lies), `case_low`, `case_high` (where a single new case lies), all in the unit of y,
#'   and `outside_data` (`TRUE` beyond the x that were observed).
#' @section Errors: `unsere_error_usage` when `line` is no line or `at` no numbers; `unsere_error_undefined` for the
#'   logarithm of zero or less.
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
  found <- line_at(line$basis, line_score(line, at), confidence)
  rows <- data.frame(at = at, found, outside_data = outside_data(line, at))
  structure(rows, class = c("unsere_predictions", "data.frame"), line = line, confidence = confidence)
}

#' Read a line backwards: which x belongs to a y?
#'
#' For a dial, a scale, a standard curve: a reading y is given and x is wanted. The limits are those x for which such a
#' reading is no surprise. Where the slope is not significantly different from zero they are not two numbers with x
#'   between them, and that
#' is said.
#'
#' @param line A line from [fit_line()].
#' @param y The readings, in the unit of y; one number or many.
#' @param same_unknown `TRUE` when all readings are of one unknown x: they are then used together.
#' @param confidence The coverage of the limits; that of the line when `NULL`.
#' @return A data frame (class `unsere_solutions`), a row a solution: `y` (the reading, or the mean of several), `x`,
#'   `x_low`, `x_high` (in the unit of x), `limits` (`"bounded"`: between them; `"two-part"`: below the one or above the
#'   other; `"above"` or `"below"` the one that is finite; `"unbounded"`: no x is ruled out; `"none"`: the line does not
#'   pass y), `parts` (of the x that are not ruled out; a curve has up to three, and these limits are of the one around x),
#'   `readings` (how many) and
#'   `outside_data`.
#' @section Errors: `unsere_error_usage` when `line` is no line or `y` no numbers; `unsere_error_undefined` when the
#'   line is flat to the last digit.
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
    abort_undefined("The line is flat: every x fits every reading.", "Choose a variable that the readings depend on.")
  }
  basis <- line$basis
  if (same_unknown && length(y) > 1L) {
    within <- sum((y - mean(y))^2)
    df <- basis$df + length(y) - 1
    basis$residual_sd <- sqrt((basis$residual_sd^2 * basis$df + within / basis$unit[["y"]]^2) / df)
    basis$df <- df
    found <- solution_rows(line, basis, mean(y), length(y), confidence)
  } else {
    found <- do.call(rbind, lapply(y, function(reading) solution_rows(line, basis, reading, 1L, confidence)))
  }
  structure(found, class = c("unsere_solutions", "data.frame"), line = line, confidence = confidence)
}

solution_rows <- function(line, basis, y, readings, confidence) {
  found <- line_backwards(basis, y, readings, confidence)
  back <- if (line$shape == "log") exp else identity
  found$x <- back(found$score)
  outside <- outside_data(line, found$x)
  # Of two passages through a curve the one outside the data is none to speak of.
  if (nrow(found) > 1L && any(!outside)) {
    found <- found[!outside, ]
    outside <- FALSE
  }
  data.frame(
    y = y, x = found$x, x_low = back(found$low), x_high = back(found$high), limits = found$limits,
    parts = found$parts, readings = readings,
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
  found <- line_at(line$basis, line_score(line, at), line$confidence)
  ends <- range(line$sample$x)
  part <- ifelse(at < ends[1], "before", ifelse(at > ends[2], "after", "within"))
  out <- data.frame(x = at, y = found$fit, low = found$mean_low, high = found$mean_high, part = part)
  if (isTRUE(case_band)) out[c("case_low", "case_high")] <- found[c("case_low", "case_high")]
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
