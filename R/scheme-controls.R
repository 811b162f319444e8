# What is controlled for beside a sample: as columns, out of which side, and what is left.

#' The side of a pair that what is held is taken out of alone, 1 or 2; `NULL` where it is out of both
#' @noRd
part_side <- function(sample, part) {
  if (is.null(part)) return(NULL)
  if (!length(sample$given$names)) {
    abort_usage("`part` names the residualised variable, but there is no control variable.", "Name it with `given`.")
  }
  side <- match(part, sample$names)
  if (is.na(side)) side <- match(part, c("x", "y"))
  if (!is.na(side)) return(side)
  abort_usage(
    problem("\"%s\" is not one of the two variables.", part), problem("Allowed: %s or %s.", sample$names[1], sample$names[2])
  )
}

#' What is controlled for as one matrix, by the scores of a coefficient
#' @noRd
held_columns <- function(sample, record, which = sample$given$names) {
  do.call(cbind, lapply(sample$given$columns[which], function(columns) {
    if (record$resistant && ncol(columns) == 1L &&
      !two_valued(columns[, 1])) matrix(record$scores(columns[, 1])) else columns
  }))
}

#' The residuals as a sample of their own, for figures and cautions
#' @noRd
sample_of_residuals <- function(sample, partial) {
  residuals <- sample
  residuals$measured <- list(sample$x, sample$y)
  residuals$x <- partial$x
  residuals$y <- partial$y
  residuals$columns <- stats::setNames(list(partial$x, partial$y), sample$names)
  residuals$coding <- list(x = list(), y = list())
  residuals$variables$level <- "numeric"
  residuals
}
