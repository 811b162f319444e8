#' One estimate from those of several plausible values
#'
#' @param values,variances The estimate of each value and its variance; `df` of each.
#' @return A list: `value`, `variance`, `df`, `share` (of the variance that lies between the values), `missing` (the fraction
#'   of missing information).
#' @references Rubin (1987); Barnard & Rubin (1999), Biometrika 86, 948-955.
#' @noRd
combine_values <- function(values, variances, df) {
  m <- length(values)
  between <- (1 + 1 / m) * stats::var(values)
  variance <- mean(variances) + between
  share <- between / variance
  observed <- (df + 1) / (df + 3) * df * (1 - share)
  pooled_df <- if (isTRUE(share > 0)) max(1, 1 / (share^2 / (m - 1) + 1 / observed)) else df
  list(
    value = mean(values), variance = variance, df = pooled_df, share = share,
    missing = share + 2 * (1 - share) / (pooled_df + 3)
  )
}
