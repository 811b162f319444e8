#' One estimate from those of several plausible values
#'
#' @param values,variances The estimate of each value and its variance; `df` of each.
#' @return A list: `value`, `variance`, `df`, `share` (of the variance that lies between the values).
#' @references Rubin (1987); Barnard & Rubin (1999), Biometrika 86, 948-955.
#' @noRd
combine_values <- function(values, variances, df) {
  m <- length(values)
  between <- (1 + 1 / m) * stats::var(values)
  variance <- mean(variances) + between
  share <- between / variance
  observed <- (df + 1) / (df + 3) * df * (1 - share)
  list(
    value = mean(values), variance = variance, df = if (isTRUE(share > 0)) 1 / (share^2 / (m - 1) + 1 / observed) else df,
    share = share
  )
}
