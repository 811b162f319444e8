#' Fit the line of y in x
#'
#' The straight line by least squares, with the errors and intervals of its terms and the division of the variance.
#'
#' @param study A study, or a data frame.
#' @param x The variable that explains: a bare name or a string.
#' @param y The variable that responds: a bare name or a string.
#' @param shape `"linear"`.
#' @param confidence The coverage of the intervals, between 0 and 1.
#' @return A line (class `unsere_line`), a list of: `x`, `y`, `shape`, `n`, `n_dropped`, `confidence`, `r`, `r_squared`
#'   (the share of the variance of y that the line accounts for), `adj_r_squared`, `residual_sd` (in the unit of y),
#'   `equation` (rounded for reading), `terms` (a data frame: `term`, `estimate`, `se`, `t`, `df`, `p`, `ci_low`,
#'   `ci_high`; the slope in units of y per unit of x), `variance` (a data frame: `source`, `df`, `ss`, `ms`, `f`, `p`),
#'   `predictions` and `solutions` (data frames), `cautions` (a data frame), `pair` (the cases used), `fitted`,
#'   `residuals`.
#' @section Errors: `unsere_error_input` for an unknown variable or for text where numbers are wanted;
#'   `unsere_error_undefined` for a constant variable or fewer than three pairs; `unsere_error_usage` for an argument
#'   outside what is allowed.
#' @references Legendre, A. M. (1805). *Nouvelles methodes pour la determination des orbites des cometes*. Bjorck, A.
#'   (1967). Solving linear least squares problems by Gram-Schmidt orthogonalization. *BIT*, 7, 1-21.
#' @examples
#' fit_line(demo_study("learners"), practice_hours, speaking_score)
#' coef(fit_line(demo_study("dial"), dial, level_db))
#' @export
fit_line <- function(study, x, y, shape = "linear", confidence = 0.95) {
  study <- check_study(study)
  x <- pick_one(study, rlang::enquo(x), "x")
  y <- pick_one(study, rlang::enquo(y), "y")
  fit_line_names(study, x, y, shape, confidence)
}

#' The same for names in strings
#' @noRd
fit_line_names <- function(study, x, y, shape = "linear", confidence = 0.95) {
  one_of(shape, "linear", "shape")
  check_confidence(confidence)
  pair <- pair_of(study, x, y)
  n <- length(pair$x)
  found <- measure_pearson(pair$x, pair$y, c(x, y))
  fit <- measure_line(pair$x, pair$y, c(x, y))
  terms <- line_terms(fit, n, confidence, found$exact)
  residual_sd <- if (found$exact) 0 else sqrt(fit$residual_squares / (n - 2))
  new_line(
    x = x, y = y, shape = shape, n = n, n_dropped = sum(pair$dropped), confidence = confidence, r = found$r,
    r_squared = 1 - found$unexplained, adj_r_squared = 1 - found$unexplained * (n - 1) / (n - 2),
    residual_sd = residual_sd, equation = line_equation(terms, pair, residual_sd), terms = terms,
    variance = line_variance(fit, n, found$exact), predictions = no_predictions(), solutions = no_solutions(),
    cautions = new_cautions(), pair = pair, fitted = fit$fitted, residuals = fit$residuals
  )
}

no_predictions <- function() {
  data.frame(
    at = numeric(), fit = numeric(), mean_low = numeric(), mean_high = numeric(), case_low = numeric(),
    case_high = numeric(), outside_data = logical()
  )
}

no_solutions <- function() data.frame(y = numeric(), x = numeric(), x_low = numeric(), x_high = numeric())
