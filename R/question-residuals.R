#' Check the residuals of a line
#'
#' Describes the residuals of a line: their quartiles, the largest ones by case, and whether they indicate a
#' curve or an unequal spread along x.
#'
#' @param line A line from [fit_line()].
#' @param most The number of largest residuals to list.
#' @return A check (class `unsere_residuals`), a list of `sum` (zero apart from rounding), `quartiles` (five
#'   figures in the unit of y), `largest` (a data frame: `case`, `x`, `y`, `residual`, `standardised`), `bend` and
#'   `spread` (lists of `statistic`, `value`, `df`, `p`; for `bend` also `direction`, for `spread` the `ratio` of
#'   the residual sd in the upper third of x to that in the lower third), and `line`.
#' @section Errors: `unsere_error_usage` if `line` is not a line; `unsere_error_undefined` if all points lie on
#'   the line or there are fewer than six.
#' @section Tests: `bend`: the t test of one more power of x in the line. `spread`: Koenker's chi-squared, n
#'   times the r squared of the squared residuals on x. Inspect the figure as well ([draw_residuals()]).
#' @references Koenker, R. (1981). A note on studentizing a test for heteroscedasticity. *Journal of Econometrics*, 17,
#'   107-112. Breusch, T. S., & Pagan, A. R. (1979). *Econometrica*, 47, 1287-1294. Anscombe, F. J. (1973). Graphs in
#'   statistical analysis. *American Statistician*, 27, 17-21.
#' @examples
#' check_residuals(fit_line(demo_study("learners"), practice_hours, speaking_score))
#' @export
check_residuals <- function(line, most = 5) {
  check_line(line)
  if (line$residual_sd == 0) abort_undefined("All points lie on the line; there are no residuals to check.")
  if (line$n < 6L) abort_undefined(problem("%d residuals are too few to check.", line$n), "Six are needed.")
  score <- line_score(line, line$sample$x)
  order <- utils::head(order(-abs(line$residuals)), most)
  bend <- bend_test(score, line$residuals, nrow(line$terms))
  new_result("residuals", list(
    sum = sum(line$residuals), quartiles = stats::quantile(line$residuals, c(0, .25, .5, .75, 1)),
    largest = data.frame(
      case = sample_cases(line$sample, order), x = line$sample$x[order], y = line$sample$y[order],
      residual = line$residuals[order], standardised = standardised_residuals(line, score)[order]
    ),
    bend = bend, spread = spread_test(score, line$residuals), line = line
  ), c("sum", "quartiles", "largest", "bend", "spread", "line"))
}

#' Residuals in their own standard deviations, each with its leverage allowed for
#' @noRd
standardised_residuals <- function(line, score) {
  powers <- centred_powers(line$basis, score)
  leverage <- rowSums((powers %*% line$basis$centred_covariance) * powers)
  line$residuals / (line$residual_sd * sqrt(pmax(1 - leverage, 1e-12)))
}
