#' Pearson's r of a pair, with all that its test and interval need
#'
#' @param x,y Double vectors of equal length, complete and finite.
#' @return A list: `r` (unitless, in \[-1, 1\]), `unexplained` (1 - r squared, from the residuals), `exact` (the points
#'   lie on a line to within the rounding of their values), means and standard deviations.
#' @section Errors: `unsere_error_undefined` when n < 3 or a variable is constant.
#' @references Pearson (1895).
#' @noRd
measure_pearson <- function(x, y, names = c("x", "y")) {
  check_pair(x, y, names)
  .Call(unsere_pearson, as.double(x), as.double(y))
}

check_pair <- function(x, y, names, least = 3L) {
  if (length(x) < least) {
    abort_undefined(
      sprintf(
        "%s and %s share %s; at least %d are needed.", names[1], names[2],
        if (length(x) == 1L) "one complete pair" else paste(length(x), "complete pairs"), least
      ),
      "Look for missing values, or for missing codes that leave too few cases."
    )
  }
  for (k in 1:2) {
    values <- list(x, y)[[k]]
    if (any(is.infinite(values))) {
      abort_input(sprintf("%s holds an infinite value (place %d).", names[k], which(is.infinite(values))[1]),
        "Correct it, or declare it a missing code."
      )
    }
    if (min(values) == max(values)) {
      abort_undefined(
        sprintf("%s is %s in all %d complete pairs: a constant correlates with nothing.", names[k],
          format(values[1], digits = 15), length(values)
        ),
        "Choose a variable that varies among these cases."
      )
    }
  }
}

measure_spread <- function(x) .Call(unsere_spread, as.double(x))

#' Student's t of a correlation, exact in both tails
#'
#' t = r sqrt((n - 2) / (1 - r^2)); p is the incomplete beta function of 1 - r^2, which stays exact where 1 - r^2 or p
#' are far below what subtraction or a double can hold.
#'
#' @param r,unexplained r, and 1 - r^2.
#' @return A list: `statistic`, `value`, `df`, `p`, `log10_p`; value and p are `NA` when the points lie on a line.
#' @references Student (1908); Fisher (1915).
#' @noRd
test_student <- function(r, unexplained, n, expect = "either") {
  df <- n - 2
  if (unexplained == 0) {
    return(list(statistic = "t", value = NA_real_, df = df, p = NA_real_, log10_p = NA_real_))
  }
  value <- r * sqrt(df / unexplained)
  log_two <- log_two_sided(r, unexplained, df)
  log_p <- direct_log_p(log_two, sign(r), expect)
  list(statistic = "t", value = value, df = df, p = exp(log_p), log10_p = log_p / log(10))
}

log_two_sided <- function(r, unexplained, df) {
  near <- !is.na(r) & abs(r) < 0.5
  far <- !is.na(r) & !near
  df <- rep_len(df, length(r))
  out <- rep(NA_real_, length(r))
  out[near] <- stats::pbeta(r[near]^2, 0.5, df[near] / 2, lower.tail = FALSE, log.p = TRUE)
  out[far] <- stats::pbeta(unexplained[far], df[far] / 2, 0.5, log.p = TRUE)
  out
}

#' The log p for the direction predicted, from that for either direction
#' @noRd
direct_log_p <- function(log_two, sign, expect) {
  if (expect == "either") return(log_two)
  along <- if (expect == "positive") sign >= 0 else sign <= 0
  ifelse(along, log_two - log(2), log1p(-exp(log_two) / 2))
}

#' Interval of r by Fisher's z
#'
#' @return A list: `ci_low`, `ci_high`, `ci_method`; `NA` when n < 4 or the points lie on a line.
#' @references Fisher (1921).
#' @noRd
interval_fisher <- function(r, unexplained, n, confidence = 0.95) {
  if (n < 4 || unexplained == 0) return(no_interval())
  half <- stats::qnorm((1 + confidence) / 2) / sqrt(n - 3)
  z <- fisher_z(r, unexplained)
  list(ci_low = tanh(z - half), ci_high = tanh(z + half), ci_method = "fisher z")
}

no_interval <- function() list(ci_low = NA_real_, ci_high = NA_real_, ci_method = NA_character_)

fisher_z <- function(r, unexplained) {
  ifelse(abs(r) < 0.5, suppressWarnings(atanh(r)), sign(r) * (log1p(abs(r)) - log(unexplained) / 2))
}
