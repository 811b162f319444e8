# The language's own verbs for results: rows, coefficients, residuals, counts.

#' @export
as.data.frame.unsere_relation <- function(x, ...) as.data.frame(unclass(x)[relation_fields], stringsAsFactors = FALSE)

#' @export
as.data.frame.unsere_line <- function(x, ...) x$terms

#' @export
as.data.frame.unsere_lines <- function(x, ...) x$lines

#' @export
as.data.frame.unsere_matrix <- function(x, ...) x$pairs

#' @export
as.data.frame.unsere_matrices <- function(x, ...) {
  all <- c(list(x$pooled), x$groups)
  labels <- c(NA_character_, names(x$groups))
  # What the jackknife adds stands only where some pair of each took it.
  shared <- Reduce(intersect, lapply(all, function(matrix) names(matrix$pairs)))
  rows <- Map(function(matrix, label) data.frame(group = label, matrix$pairs[shared]), all, labels)
  stats::setNames(do.call(rbind, unname(rows)), c(x$by, shared))
}

#' @export
as.data.frame.unsere_predictors <- function(x, ...) x$predictors

#' @export
as.data.frame.unsere_overview <- function(x, ...) x$variables

#' @export
as.data.frame.unsere_residuals <- function(x, ...) x$largest

#' @export
as.data.frame.unsere_difference <- function(x, ...) {
  fields <- c(
    "a", "b", "r_a", "r_b", "difference", "ci_low", "ci_high", "statistic", "value", "df", "p", "n_a", "n_b", "cases"
  )
  as.data.frame(unclass(x)[fields])
}

#' @export
as.data.frame.unsere_levels <- function(x, ...) cbind(x = x$x, y = x$y, group = x$group, x$levels)

#' @export
as.data.frame.unsere_flags <- function(x, ...) {
  one <- function(series, of, n = of$n, effective = of$n_effective) {
    data.frame(series = series, r = of$r, p = of$p, n = n, n_effective = effective)
  }
  rows <- if (is.na(x$time)) {
    # Without a time there are no series: the cases as they are, and within groups.
    within <- if (!is.null(x$within)) one("within groups", x$within, NA_integer_, NA_real_)
    list(one("cases", x$relation, effective = NA_real_), within)
  } else {
    lapply(c("levels", "changes", "detrended", "prewhitened"), function(name) one(name, x[[name]]))
  }
  cbind(x = x$x, y = x$y, time = x$time, verdict = x$verdict, do.call(rbind, rows))
}

#' @export
as.data.frame.unsere_flag_table <- function(x, ...) x$pairs

#' @export
as.data.frame.unsere_study <- function(x, ...) labelled_columns(x)

#' @rawNamespace S3method(stats::coef, unsere_line)
coef.unsere_line <- function(object, ...) stats::setNames(object$terms$estimate, object$terms$term)

#' @rawNamespace S3method(stats::residuals, unsere_line)
residuals.unsere_line <- function(object, ...) stats::setNames(object$residuals, sample_cases(object$sample))

#' @rawNamespace S3method(stats::nobs, unsere_line)
nobs.unsere_line <- function(object, ...) object$n

#' @rawNamespace S3method(stats::nobs, unsere_relation)
nobs.unsere_relation <- function(object, ...) object$n

#' @rawNamespace S3method(stats::predict, unsere_line)
predict.unsere_line <- function(object, newdata = NULL, at = NULL, ...) {
  if (is.null(at)) at <- if (is.data.frame(newdata)) new_values(object, newdata) else newdata
  predict_y(object, if (is.null(at)) object$sample$x else at, ...)
}

new_values <- function(line, newdata) {
  if (line$x %in% names(newdata)) return(newdata[[line$x]])
  abort_input(
    problem("`newdata` has no variable \"%s\".", line$x), suggest_names(line$x, names(newdata), "variables")
  )
}
