# Verbs of R that ask a result for its numbers: matrices, intervals, covariances, tidy rows.

#' Convert a correlation matrix to a numeric matrix
#'
#' @param x A matrix from [correlation_matrix()].
#' @param what The figures: `"r"`, `"n"`, `"p"` or `"p_adjusted"`. Default: `"r"`.
#' @param ... Not used.
#' @return A numeric matrix with variable names; for a rectangular matrix its rows and columns. The diagonal holds 1 for r,
#'   the number of values for n, and `NA` for p.
#' @section Errors: `unsere_error_usage` for another `what`.
#' @examples
#' found <- correlation_matrix(demo_study("learners"), practice_hours, speaking_score, confidence)
#' as.matrix(found)
#' as.matrix(found, what = "n")
#' @exportS3Method
as.matrix.unsere_matrix <- function(x, what = "r", ...) {
  one_of(what, c("r", "n", "p", "p_adjusted"), "what")
  names <- x$variables$variable
  pairs <- x$pairs
  if (!is.null(x$rows)) {
    out <- matrix(NA_real_, length(x$rows), length(x$columns), dimnames = list(x$rows, x$columns))
    out[cbind(match(pairs$x, x$rows), match(pairs$y, x$columns))] <- as.double(pairs[[what]])
    return(out)
  }
  out <- matrix(NA_real_, length(names), length(names), dimnames = list(names, names))
  at <- cbind(match(pairs$x, names), match(pairs$y, names))
  out[at] <- as.double(pairs[[what]])
  out[at[, 2:1, drop = FALSE]] <- as.double(pairs[[what]])
  if (what == "r") diag(out) <- ifelse(x$variables$sd %in% 0 | is.na(x$variables$sd), NA, 1)
  if (what == "n") diag(out) <- x$variables$n
  out
}

#' @rawNamespace S3method(stats::confint, unsere_relation)
confint.unsere_relation <- function(object, parm = NULL, level = object$confidence, ...) {
  if (isTRUE(all.equal(level, object$confidence))) {
    return(limits_table("r", object$ci_low, object$ci_high, level))
  }
  asked_again(level)
}

#' @rawNamespace S3method(stats::confint, unsere_line)
confint.unsere_line <- function(object, parm = object$terms$term, level = object$confidence, ...) {
  terms <- object$terms[object$terms$term %in% parm, ]
  half <- stats::qt((1 + level) / 2, terms$df) * terms$se
  limits_table(terms$term, terms$estimate - half, terms$estimate + half, level)
}

asked_again <- function(level) {
  abort_usage(
    "The interval was computed at another confidence level.",
    problem("Compute it again: relate(..., confidence = %s).", format(level))
  )
}

limits_table <- function(names, low, high, level) {
  ends <- c((1 - level) / 2, (1 + level) / 2)
  matrix(c(low, high), ncol = 2L, dimnames = list(names, sprintf("%s %%", format(100 * ends, trim = TRUE, digits = 4))))
}

# Of the cases, of their moments or by a design: the basis of the line holds it in each case.
#' @rawNamespace S3method(stats::vcov, unsere_line)
vcov.unsere_line <- function(object, ...) {
  basis <- object$basis
  spread <- if (basis$residual_sd > 0) basis$residual_sd^2 else NA_real_
  units <- term_units(basis$unit, length(basis$centred))
  out <- spread * terms_covariance(basis$centre, basis$centred_covariance) * outer(units, units)
  dimnames(out) <- list(object$terms$term, object$terms$term)
  out
}

#' @exportS3Method
summary.unsere_result <- function(object, ...) object

#' @rawNamespace S3method(ggplot2::autoplot, unsere_result)
autoplot.unsere_result <- function(object, ...) {
  abort_usage(problem("There is no figure of %s.", class(object)[1]), "See its as.data.frame().")
}

#' @exportS3Method
plot.unsere_result <- function(x, ...) {
  figure <- ggplot2::autoplot(x, ...)
  print(figure)
  invisible(figure)
}

#' @exportS3Method
plot.unsere_study <- plot.unsere_result

#' @rawNamespace S3method(tibble::as_tibble, unsere_result)
as_tibble.unsere_result <- function(x, ...) tibble::as_tibble(as.data.frame(x))

#' @rawNamespace S3method(tibble::as_tibble, unsere_study)
as_tibble.unsere_study <- as_tibble.unsere_result
