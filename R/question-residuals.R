#' Look at what a line leaves
#'
#' The residuals of a line: their sum and quartiles, the largest by case, and whether they bend or spread unevenly along
#' x.
#'
#' @param line A line from [fit_line()].
#' @param most How many of the largest residuals to name.
#' @return A check (class `unsere_residuals`), a list of `sum` (zero but for rounding), `quartiles` (five figures in the
#'   unit of y), `largest` (a data frame: `case`, `x`, `y`, `residual`, `standardised`), `bend` and `spread` (lists of
#'   `statistic`, `value`, `df`, `p`, and for the bend `direction`, for the spread `ratio`, the residual sd in the upper
#'   third of x over that in the lower), and `line`.
#' @section Errors: `unsere_error_usage` when `line` is no line; `unsere_error_undefined` when the points lie on the
#'   line or are fewer than six.
#' @section The tests: Bend: the t of one more power of x added to the line. Spread: Koenker's chi-squared, n times the
#'   r squared of the squared residuals with x. Both are evidence, not a verdict: look at the picture too
#'   ([draw_residuals()]).
#' @references Koenker, R. (1981). A note on studentizing a test for heteroscedasticity. *Journal of Econometrics*, 17,
#'   107-112. Breusch, T. S., & Pagan, A. R. (1979). *Econometrica*, 47, 1287-1294. Anscombe, F. J. (1973). Graphs in
#'   statistical analysis. *American Statistician*, 27, 17-21.
#' @examples
#' check_residuals(fit_line(demo_study("learners"), practice_hours, speaking_score))
#' @export
check_residuals <- function(line, most = 5) {
  check_line(line)
  if (line$residual_sd == 0) abort_undefined("The points lie on the line; there are no residuals to look at.")
  if (line$n < 6L) abort_undefined(problem("%d residuals are too few to look at.", line$n), "Six are needed.")
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
