# The equation of a line, with the variables' own names.

#' Get the equation of a line
#'
#' Coefficients have as many digits as are needed for rounding not to affect predictions.
#'
#' @param line A line from [fit_line()].
#' @param x,y Symbols for the two variables. Default: their labels.
#' @return One string.
#' @section Errors: `unsere_error_usage` if `line` is not a line.
#' @examples
#' equation(fit_line(demo_study("dial"), dial, level_db))
#' equation(fit_line(demo_study("dial"), dial, level_db), x = "x", y = "y")
#' @export
equation <- function(line, x = NULL, y = NULL) line_equation(check_line(line), x, y)

line_equation <- function(line, x = NULL, y = NULL) {
  y <- or_default(y, label_of(line$sample$variables, line$y))
  paste(y, "=", right_side(line, or_default(x, label_of(line$sample$variables, line$x))))
}

#' What stands right of the equals sign
#' @noRd
right_side <- function(line, x) {
  terms <- line$terms
  score <- max(abs(if (line$shape == "log") log(line$sample$x) else line$sample$x))
  reach <- c(1, score, score^2)[seq_len(nrow(terms))]
  figures <- mapply(format_coefficient, terms$estimate, reach, line$residual_sd)
  if (line$shape == "log") x <- sprintf("ln(%s)", x)
  times <- sprintf(" %s ", glyphs()$times)
  parts <- c("", paste0(times, x), paste0(times, x, glyphs()$squared))[seq_along(figures)]
  signs <- ifelse(terms$estimate < 0, glyphs()$minus, "+")
  first <- if (terms$estimate[1] < 0) glyphs()$minus else ""
  paste0(first, figures[1], paste0(" ", signs[-1], " ", figures[-1], parts[-1], collapse = ""))
}

format_coefficient <- function(estimate, reach, residual_sd) {
  size <- abs(estimate)
  if (size == 0) return("0")
  enough <- if (residual_sd > 0) max(0, ceiling(log10(0.5 * reach / (residual_sd / 20)))) else 6
  three <- max(0, 2 - floor(log10(size)))
  if (three > 12 || size >= 1e15) return(format_power(size, 3))
  decimals <- min(max(enough, three), 12)
  text <- formatC(size, digits = decimals, format = "f")
  marked(if (residual_sd > 0) text else sub("[.]?0+$", "", text))
}
