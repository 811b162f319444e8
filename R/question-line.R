#' Fit a regression line of y on x
#'
#' Fits a line by least squares (straight, logarithmic in x, or quadratic), with standard errors and
#' intervals of its terms and the analysis of variance.
#'
#' @param study A study, or a data frame.
#' @param x The explanatory variable: a bare name or a string.
#' @param y The response: a bare name or a string.
#' @eval help_arguments("line", c("at", "solve", "same_unknown"))
#' @param at Values of x at which y is predicted; returned as `predictions`, as by [predict_y()].
#' @param solve Values of y for which x is estimated; returned as `solutions`, as by [estimate_x()].
#' @param same_unknown Whether all values in `solve` are readings of the same unknown x. Default: `FALSE`.
#' @return A line (class `unsere_line`), a list of:
#'   * `x`, `y`, `shape`, `n`, `n_dropped`, `confidence`
#'   * `r` (of the logarithm for a logarithmic line; `NA` for a quadratic, which has no sign), `r_squared`
#'     (explained variance of y), `adj_r_squared`, `residual_sd` (in the unit of y)
#'   * `terms`: a data frame of `term`, `estimate`, `se`, `t`, `df`, `p`, `ci_low`, `ci_high`; the slope in
#'     units of y per unit of x or of its logarithm
#'   * `variance`: a data frame of `source`, `df`, `ss`, `ms`, `f`, `p`; under a design and for plausible
#'     values F is Wald's and `ms` is `NA`
#'   * `ci_method`: `"analytic"` (the textbook's), `"jackknife"`, or as in [relate()] where cases are not independent
#'     (`"clusters"`; `"effective size"`, with `n_effective`)
#'   * `predictions`, `solutions`: data frames, see [predict_y()] and [estimate_x()]
#'   * `cautions` (see [cautions()]), `sample` (the cases used), `fitted`, `residuals`, `basis` (the line at
#'     full precision, for further computation)
#' @section Errors: `unsere_error_input` for an unknown variable, or for text where numbers are needed;
#'   `unsere_error_undefined` for a constant variable, fewer than three pairs, the logarithm of a value of zero
#'   or less, or a curve through fewer than three distinct x; `unsere_error_usage` for an invalid argument.
#' @section Accuracy: `bench/accuracy.R` compares estimates and standard errors with exact arithmetic: 15
#'   digits or more for a straight line and 13 or more for a curve, also for x = 1994 to 2023 and for
#'   x = 1e6 plus 1 to 20.
#' @references Legendre, A. M. (1805). *Nouvelles methodes pour la determination des orbites des cometes*. Bjorck, A.
#'   (1967). Solving linear least squares problems by Gram-Schmidt orthogonalization. *BIT*, 7, 1-21.
#' @seealso [predict_y()], [estimate_x()], [compare_lines()], [check_residuals()], [variance_table()]
#' @examples
#' learners <- demo_study("learners")
#' fit_line(learners, practice_hours, speaking_score)
#' fit_line(learners, practice_hours, speaking_score, shape = "log")
#' coef(fit_line(demo_study("dial"), dial, level_db))
#' @export
fit_line <- function(study, x, y, shape = "linear", confidence = 0.95, at = NULL, solve = NULL, same_unknown = FALSE,
                     interval = "auto") {
  study <- check_source(study)
  given <- list(
    x = pick_one(study, rlang::enquo(x), "x"), y = pick_one(study, rlang::enquo(y), "y"),
    shape = one_of(shape, line_shapes, "shape"), confidence = confidence, at = at, solve = solve,
    same_unknown = same_unknown, interval = interval
  )
  answer_line(study, given)
}

line_shapes <- c("linear", "log", "quadratic")

line_intervals <- c("auto", "analytic", "jackknife")

#' The route of a line beside a relation of the same cases
#' @param options Of the relation.
#' @noRd
line_route <- function(options) {
  requested <- setdiff(c(options$interval, options$test), "auto")
  if (!length(requested)) "auto" else if (requested[1] == "jackknife") "jackknife" else "analytic"
}

question_line <- function() {
  new_question(
    "line", "fit_line", "fit the regression line of Y on X", c("FILE", "X", "Y"),
    c(
      list(
        shape = argument(
          "choices", "the shape of the line: linear, log or quadratic; several are compared, such as linear,log",
          default = "linear",
          value = "S", allowed = line_shapes, brief = "shape"
        ),
        at = argument("numbers", "values of X at which Y is predicted", value = "A,B", brief = "predict_at"),
        solve = argument("numbers", "values of Y for which X is estimated", value = "Y1,Y2", brief = "solve"),
        same_unknown = argument("flag", "all values of --solve are readings of the same unknown X", default = FALSE),
        residuals = argument("flag", "check the residuals instead", default = FALSE, doors = "command")
      ),
      shared_arguments("confidence"),
      list(interval = argument(
        "choice", "the method of interval and test: auto (jackknife if the data require it), analytic or jackknife",
        default = "auto", value = "KIND", allowed = line_intervals
      ))
    ),
    answer_line, "line DEMO/dial.csv dial level_db --at 4.5 --solve 55,62",
    usage = "line FILE X Y [--at A,B] [--solve Y1,Y2]", place = 4, designed = TRUE
  )
}

answer_line <- function(study, given) {
  options <- settle_arguments(question_line(), given)
  by_sums <- identical(options$shape, "linear") && !has_design(study)
  if (!gives_rows(study, c(options$x, options$y), by_sums)) return(line_by_sums(study, options))
  samples <- samples_of_pair(study, options$x, options$y)
  lines <- lapply(unique(options$shape), function(shape) {
    line_of_samples(samples, utils::modifyList(options, list(shape = shape)))
  })
  if (isTRUE(options$residuals)) return(check_residuals(lines[[1]]))
  if (length(lines) > 1L) do.call(compare_lines, lines) else lines[[1]]
}

#' The line of a sample's second column in its first, with what is predicted and read from it
#'
#' @param options Settled arguments, of one shape.
#' @param relation The relation of the same sample, where it is known.
#' @noRd
line_of_sample <- function(sample, options, relation = NULL) {
  line_of_samples(list(each = list(sample), shown = sample), options, relation)
}

#' @param samples From [samples_of_pair()].
#' @noRd
line_of_samples <- function(samples, options, relation = NULL) {
  interval <- or_default(options$interval, "auto")
  over_classes <- interval == "auto" && options$shape == "linear" && length(samples$each) == 1L
  tested <- if (over_classes && is_straight_relation(relation) && identical(relation$ci_method, "clusters")) relation
  lines <- lapply(samples$each, fit_sample, options$shape, options$confidence, interval, tested)
  line <- if (length(lines) == 1L) lines[[1]] else combine_lines(lines, samples$shown, options$confidence)
  cautions <- if (isTRUE(options$undoubted)) new_cautions() else line_cautions(line, relation)
  clustered <- cautions$figures[cautions$code == "clustered_cases"]
  if (over_classes && is.null(tested) && length(clustered)) {
    tested <- told_over_classes(clustered[[1]], "either")
    if (!is.null(tested)) line <- fit_sample(samples$each[[1]], options$shape, options$confidence, tested = tested)
  }
  line$cautions <- cautions
  with_predictions(line, options)
}

#' What the straight relation of the same cases makes doubtful; a curve has met some of it already
#' @noRd
line_cautions <- function(line, relation = NULL) {
  sample <- line$sample
  if (length(unique(sample$x)) < 2L || min(sample$y) == max(sample$y)) return(new_cautions())
  cautions <- if (is_straight_relation(relation)) {
    relation$cautions
  } else {
    cautions_of_straight(sample, line$confidence, line$ci_method)
  }
  met <- if (line$shape == "linear") character() else c("curved", "coarse_scale", "one_case")
  pick_cautions(cautions, !cautions$code %in% met)
}

is_straight_relation <- function(relation) {
  !is.null(relation) && relation$coefficient == straight_record()$name && relation$expect == "either"
}

# Those of the straight relation of a line's own cases.
cautions_of_straight <- function(sample, confidence, ci_method = NULL) {
  record <- straight_record()
  scheme <- sample_scheme(sample)$name
  estimate <- record$estimate(sample)
  interval <- list(ci_method = ci_method)
  kind <- if (is_by_jackknife(interval)) "jackknife" else "analytic"
  p <- if (scheme == "simple") record$tests[[kind]](estimate, "either", NULL)$p else NA
  find_cautions(sample, list(
    estimate = estimate, p = p, alpha = alpha_of(confidence), scale = strength_scale("cohen"), interval = interval
  ), scheme)
}

check_logarithm <- function(sample) {
  bad <- which(sample$x <= 0)
  if (!length(bad)) return(invisible())
  first <- utils::head(bad, 3)
  shown <- sprintf("%s (%s)", sample_cases(sample, first), format(sample$x[first], digits = 6, trim = TRUE))
  more <- length(bad) - length(shown)
  abort_undefined(
    problem(
      "%s is zero or less in %s, which has no logarithm: %s%s.", sample$names[1], count_in_english(length(bad), "case"),
      paste(shown, collapse = ", "), if (more) sprintf(" and %d more", more) else ""
    ),
    "Use another shape, or add a constant with derive()."
  )
}

#' The line alone
#' @noRd
#' @param tested The test of r that the slope's is to be, where cases are clustered; else nothing.
#' @noRd
fit_sample <- function(sample, shape, confidence, interval = "auto", tested = NULL) {
  if (shape == "log") check_logarithm(sample)
  if (!is.null(sample_design(sample))) return(fit_by_design(sample, shape, confidence))
  n <- sample_size(sample)
  fit <- measure_line(sample$x, sample$y, sample$names, shape)
  k <- length(fit$estimates)
  straight <- if (shape != "quadratic") measure_pearson(fit$score, sample$y, sample$names)
  exact <- if (is.null(straight)) fit$exact else straight$exact
  unexplained <- if (exact) 0 else if (is.null(straight)) fit$residual_squares / fit$total_squares else straight$unexplained
  spread <- if (exact) 0 else sqrt(fit$residual_squares / (n - k))
  moved <- if (!exact && interval != "analytic" && !is.null(straight)) {
    if (is.null(tested)) line_by_route(fit, sample, straight, interval, confidence) else line_as_tested(fit, tested)
  }
  basis <- c(fit[c("centre", "centred", "centred_covariance", "unit")], list(residual_sd = spread, df = n - k))
  if (!is.null(moved)) {
    basis$centred_covariance <- moved$covariance / spread^2
    basis$mean_df <- moved$df
  }
  new_line(
    x = sample$names[1], y = sample$names[2], shape = shape, n = n, n_dropped = sum(sample$dropped),
    confidence = confidence, r = if (is.null(straight)) NA_real_ else straight$r, r_squared = 1 - unexplained,
    adj_r_squared = 1 - unexplained * (n - 1) / (n - k), residual_sd = spread * fit$unit[["y"]],
    terms = if (is.null(moved)) line_terms(fit, n, confidence, exact) else terms_by_design(moved, confidence, FALSE),
    variance = if (is.null(moved)) line_variance(fit, n, exact) else variance_by_design(moved, n, FALSE),
    predictions = no_predictions(), solutions = no_solutions(), cautions = new_cautions(), sample = sample,
    fitted = fit$fitted * fit$unit[["y"]], residuals = fit$residuals * fit$unit[["y"]],
    basis = basis, ci_method = or_default(moved$ci_method, "analytic"), n_effective = moved$n_effective
  )
}

# A line of cases that are not independent, or that move it more than the textbook allows for; `NULL` by the textbook.
line_by_route <- function(fit, sample, straight, interval, confidence) {
  moved <- if (sample_size(sample) >= least_for_route) line_without_each(fit, sample$y, straight, interval, confidence)
  if (interval != "auto") return(moved)
  estimate <- new_estimate(straight_record()$name, fit$score, sample$y, straight$r, straight$unexplained)
  around <- or_default(moved$around, interval_fisher(straight$r, straight$unexplained, estimate$n, confidence))
  fewer <- by_effective_size(estimate, dependence_of_sample(sample, estimate), as.list(around), "either", confidence)
  if (is.null(fewer)) moved else c(line_as_tested(fit, fewer$test), list(n_effective = fewer$test$df + 2))
}

# A line whose slope is tested as r is: by its t and degrees of freedom.
line_as_tested <- function(fit, tested) {
  slope <- abs(fit$centred[2])
  se <- if (slope > 0) slope / abs(tested$value) else sqrt(fit$centred_covariance[2, 2] * fit$residual_squares / tested$df)
  fit$covariance <- fit$centred_covariance * se^2 / fit$centred_covariance[2, 2]
  c(fit, list(df = tested$df, ci_method = tested$p_method))
}

#' Analysis of variance of a line
#'
#' Divides the variation of y into the part explained by the line and the residual part.
#'
#' @param line A line from [fit_line()].
#' @return A data frame with the rows `line`, `residual` and `total`: `source`, `df`, `ss` (sums of squares,
#'   in squared units of y), `ms` (mean squares), `f`, `p` (unitless; `NA` where they do not apply).
#' @section Errors: `unsere_error_usage` if `line` is not a line.
#' @references Fisher, R. A. (1925). *Statistical methods for research workers*. Oliver & Boyd.
#' @examples
#' variance_table(fit_line(demo_study("dial"), dial, level_db))
#' @export
variance_table <- function(line) check_line(line)$variance

#' The line within each group, where it has one
#' @param groups A factor, a value a case of the line's sample.
#' @noRd
lines_by_group <- function(line, groups) {
  parts <- lapply(levels(groups), function(kind) {
    sample <- sample_part(line$sample, which(groups == kind))
    own <- tryCatch(fit_sample(sample, line$shape, line$confidence), unsere_error_undefined = function(e) NULL)
    if (is.null(own)) return(NULL)
    path <- data.frame(group = kind, line_path(own, range(sample$x)))
    list(path = path, r = own$r, n = sample_size(sample), kind = kind)
  })
  Filter(Negate(is.null), parts)
}
