#' Fit the line of y in x
#'
#' A line by least squares, straight, in the logarithm of x, or with a bend, with the errors and intervals of its terms
#' and the division of the variance.
#'
#' @param study A study, or a data frame.
#' @param x The variable that explains: a bare name or a string.
#' @param y The variable that responds: a bare name or a string.
#' @param shape `"linear"`, `"log"` (y by the natural logarithm of x) or `"quadratic"` (with a curve term).
#' @param confidence The coverage of the intervals, between 0 and 1.
#' @return A line (class `unsere_line`), a list of: `x`, `y`, `shape`, `n`, `n_dropped`, `confidence`, `r` (with the
#'   logarithm for a line in it; `NA` for a quadratic, which has no sign), `r_squared` (the share of the variance of y
#'   that the line accounts for), `adj_r_squared`, `residual_sd` (in the unit of y), `equation` (rounded for reading),
#'   `terms` (a data frame: `term`, `estimate`, `se`, `t`, `df`, `p`, `ci_low`, `ci_high`; the slope in units of y per
#'   unit of x or of its logarithm), `variance` (a data frame: `source`, `df`, `ss`, `ms`, `f`, `p`), `predictions` and
#'   `solutions` (data frames, see [predict_y()] and [estimate_x()]), `cautions` (a data frame), `pair` (the cases
#'   used), `fitted`, `residuals`, `basis` (the line in full digits, for every further calculation).
#' @section Errors: `unsere_error_input` for an unknown variable or for text where numbers are wanted;
#'   `unsere_error_undefined` for a constant variable, fewer than three pairs, a logarithm of zero or less, or a curve
#'   through fewer than three different x; `unsere_error_usage` for an argument outside what is allowed.
#' @section How exact: `bench/accuracy.R` compares estimates and errors with exact arithmetic: 15 digits or more for a
#'   straight line, 13 or more for a curve, on x = 1994 to 2023 and x = 1e6 plus 1 to 20 too.
#' @references Legendre, A. M. (1805). *Nouvelles methodes pour la determination des orbites des cometes*. Bjorck, A.
#'   (1967). Solving linear least squares problems by Gram-Schmidt orthogonalization. *BIT*, 7, 1-21.
#' @seealso [predict_y()], [estimate_x()], [compare_lines()], [check_residuals()], [variance_table()]
#' @examples
#' learners <- demo_study("learners")
#' fit_line(learners, practice_hours, speaking_score)
#' fit_line(learners, practice_hours, speaking_score, shape = "log")
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
  one_of(shape, line_shapes, "shape")
  check_confidence(confidence)
  pair <- pair_of(study, x, y)
  if (shape == "log") check_logarithm(pair)
  line <- line_of(pair, shape, confidence)
  line$cautions <- line_cautions(line, study)
  line
}

#' The cautions of the pair that a line has too, as far as they touch a line of this shape
#' @noRd
line_cautions <- function(line, study) {
  pair <- line$pair
  if (length(unique(pair$x)) < 2L || min(pair$y) == max(pair$y)) return(new_cautions())
  relation <- relation_of(pair, list(coefficient = "pearson", reason = ""), "either", line$confidence, "analytic",
    "analytic",
    strength_scale("cohen"), NULL)
  told <- relation_cautions(relation, study)
  if (line$shape != "linear") told <- told[!told$code %in% c("curved", "coarse_scale", "one_case"), ]
  rownames(told) <- NULL
  told
}

check_logarithm <- function(pair) {
  bad <- which(pair$x <= 0)
  if (!length(bad)) return(invisible())
  shown <- utils::head(sprintf("%s (%s)", pair$case[bad], format(pair$x[bad], digits = 6, trim = TRUE)), 3)
  more <- length(bad) - length(shown)
  abort_undefined(
    sprintf("%s is zero or less in %s, which has no logarithm: %s%s.", pair$x_name, count_of(length(bad), "case"),
      paste(shown, collapse = ", "), if (more) sprintf(" and %d more", more) else ""),
    "Use another shape, or add a constant with derive()."
  )
}

line_of <- function(pair, shape, confidence) {
  n <- length(pair$x)
  fit <- measure_line(pair$x, pair$y, c(pair$x_name, pair$y_name), shape)
  k <- length(fit$estimates)
  found <- if (shape != "quadratic") measure_pearson(fit$score, pair$y, c(pair$x_name, pair$y_name))
  exact <- if (is.null(found)) fit$exact else found$exact
  left <- if (exact) 0 else if (is.null(found)) fit$residual_squares / fit$total_squares else found$unexplained
  residual_sd <- if (exact) 0 else sqrt(fit$residual_squares / (n - k))
  terms <- line_terms(fit, n, confidence, exact)
  new_line(
    x = pair$x_name, y = pair$y_name, shape = shape, n = n, n_dropped = sum(pair$dropped), confidence = confidence,
    r = if (is.null(found)) NA_real_ else found$r, r_squared = 1 - left, adj_r_squared = 1 - left * (n - 1) / (n - k),
    residual_sd = residual_sd, equation = line_equation(terms, pair, residual_sd, shape), terms = terms,
    variance = line_variance(fit, n, exact), predictions = no_predictions(), solutions = no_solutions(),
    cautions = new_cautions(), pair = pair, fitted = fit$fitted, residuals = fit$residuals,
    basis = c(fit[c("centre", "centred", "centred_covariance")], list(residual_sd = residual_sd, df = n - k))
  )
}

no_predictions <- function() {
  data.frame(
    at = numeric(), fit = numeric(), mean_low = numeric(), mean_high = numeric(), case_low = numeric(),
    case_high = numeric(), outside_data = logical()
  )
}

no_solutions <- function() {
  data.frame(y = numeric(), x = numeric(), x_low = numeric(), x_high = numeric(), limits = character(),
    readings = integer(), outside_data = logical())
}

#' How the variance of y divides between a line and what is left
#'
#' @param line A line from [fit_line()].
#' @return A data frame, a row a source (`line`, `residual`, `total`): `source`, `df`, `ss` (sum of squares, in the
#'   squared unit of y), `ms`, `f`, `p`.
#' @section Errors: `unsere_error_usage` when `line` is no line.
#' @references Fisher, R. A. (1925). *Statistical methods for research workers*. Oliver & Boyd.
#' @examples
#' variance_table(fit_line(demo_study("learners"), practice_hours, speaking_score))
#' @export
variance_table <- function(line) check_line(line)$variance

check_line <- function(line) {
  if (inherits(line, "unsere_line")) return(line)
  abort_usage("`line` must be a line.", "Make it with fit_line().")
}
