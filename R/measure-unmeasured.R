# How strong a variable that nobody measured would have to be for a correlation not to be significant.

#' The impact threshold of a confounder, and the share of cases that would have to be replaced
#'
#' A confounder lowers r most, for the product of its two partial correlations, where the two are alike; the product
#' at which
#' r just fails to be significant is (r - r#) / (1 - r#), with r# the least significant r when one more variable is
#' controlled
#' for. The share is that of the cases which, replaced by cases without a correlation, leave just that.
#'
#' @param r The correlation; `n` cases, `controls` variables controlled for already.
#' @param variance,df Of Fisher's z and its test, where that is not the textbook's; else `NULL`.
#' @return A list: `impact`, `each` (the partial correlation with either side), `least_r`, `replaced`; `NULL` where r is
#'   smaller than that.
#' @references Frank (2000), Sociological Methods & Research 29, 147-194; Frank, Maroulis, Duong & Kelcey (2013),
#'   Educational Evaluation and Policy Analysis 35, 437-460.
#' @noRd
measure_unmeasured <- function(r, n, controls, alpha, two_sided, variance = NULL, df = NULL) {
  share <- 1 - if (two_sided) alpha / 2 else alpha
  least <- function(further) {
    if (!is.null(variance)) return(tanh(stats::qt(share, df - further) * sqrt(variance)))
    freedom <- n - 2 - controls - further
    t <- stats::qt(share, freedom)
    t / sqrt(t^2 + freedom)
  }
  size <- abs(r)
  least_r <- least(1)
  if (!isTRUE(size > least_r)) return(NULL)
  impact <- (size - least_r) / (1 - least_r)
  list(impact = impact, each = sqrt(impact), least_r = least_r, replaced = 1 - least(0) / size)
}

#' What each of some measured variables takes of r: the share of the cross-product of x and y that lies in it
#'
#' Of one variable that is the product of its correlations with x and y, of several columns (the groups of one) the
#' like.
#'
#' @param columns A list of matrices, with missing values; `controls` a matrix that is taken out of all first, or `NULL`.
#' @return Numbers, positive where they account for r, `NA` where the variable is another form of x or y, or hardly
#' there.
#' @noRd
impact_of_measured <- function(x, y, columns, controls = NULL, same = 0.95) {
  vapply(columns, function(column) {
    known <- stats::complete.cases(column)
    if (sum(known) < max(10L, ncol(column) + 5L)) return(NA_real_)
    residuals <- cbind(x, y, column)[known, , drop = FALSE]
    residuals <- qr.resid(qr(cbind(rep(1, nrow(residuals)), controls[known, , drop = FALSE])), residuals)
    basis <- qr(residuals[, -(1:2), drop = FALSE], tol = 1e-9)
    if (basis$rank < 1L) return(NA_real_)
    fitted <- qr.fitted(basis, residuals[, 1:2])
    size <- sqrt(colSums(residuals[, 1:2]^2))
    if (any(sqrt(colSums(fitted^2)) > same * size)) return(NA_real_)
    sum(fitted[, 1] * fitted[, 2]) / prod(size) * sign(sum(residuals[, 1] * residuals[, 2]))
  }, 0)
}
