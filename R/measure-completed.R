# Estimates with their intervals from several completed data sets, as one estimate with one interval.

# On which scale an estimate is about normal, and back.
scales_of_estimates <- list(
  r = list(to = function(r) atanh(clip(r)), back = tanh),
  reliability = list(to = function(v) -log(pmax(1 - v, 1e-12)), back = function(z) 1 - exp(-z)),
  share = list(to = function(v) -log(pmax(1 - v, 1e-12)), back = function(z) pmax(0, 1 - exp(-z))),
  difference = list(to = identity, back = identity)
)

#' One estimate and interval from those of several sets
#'
#' The variance within a set is read off its interval.
#' @param value,low,high Of each set; `df` of the complete data; `scale` a name of `scales_of_estimates`.
#' @return A list: `value`, `low`, `high`, `df`, `p`; `NA` where a set has none.
#' @references Rubin (1987); Barnard & Rubin (1999), Biometrika 86, 948-955.
#' @noRd
combine_intervals <- function(value, low, high, df, confidence, scale = "r") {
  scale <- scales_of_estimates[[scale]]
  z <- scale$to(value)
  half <- (scale$to(high) - scale$to(low)) / 2
  none <- list(value = scale$back(mean(z)), low = NA_real_, high = NA_real_, df = NA_real_, p = NA_real_)
  if (anyNA(half) || anyNA(z) || !isTRUE(df >= 1) || any(half <= 0)) return(none)
  combined <- combine_values(z, (half / stats::qt((1 + confidence) / 2, df))^2, df)
  reach <- stats::qt((1 + confidence) / 2, combined$df) * sqrt(combined$variance)
  list(
    value = scale$back(combined$value), low = scale$back(combined$value - reach), high = scale$back(combined$value + reach),
    df = combined$df, p = p_two_sided(combined$value / sqrt(combined$variance), combined$df)
  )
}

#' Tables of estimates, one a set and alike in their rows, as one table
#' @param columns Names of the columns of the estimate, its limits and, where there are any, `df` and `p`.
#' @param df Of the complete data, one for each row.
#' @noRd
combine_tables <- function(tables, df, confidence, scale = "r",
                           columns = c(value = "r", low = "ci_low", high = "ci_high", df = "df", p = "p")) {
  whole <- tables[[1]]
  if (is.null(whole) || !nrow(whole)) return(whole)
  df <- rep_len(df, nrow(whole))
  columns <- columns[columns %in% names(whole)]
  for (row in seq_len(nrow(whole))) {
    of <- function(name) vapply(tables, function(table) as.double(table[[columns[[name]]]][row]), 0)
    one <- combine_intervals(of("value"), of("low"), of("high"), df[row], confidence, scale)
    for (name in names(columns)) whole[[columns[[name]]]][row] <- one[[name]]
  }
  whole
}

#' Numbers of several sets as their mean, element by element
#' @noRd
mean_of_sets <- function(values) Reduce(`+`, values) / length(values)
