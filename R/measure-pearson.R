# Pearson's r of two columns, and what single columns say.

#' Pearson's r of a pair, with all that its test and interval need
#'
#' @param x,y Double vectors of equal length, complete and finite.
#' @return A list: `r` (unitless, in \[-1, 1\]), `unexplained` (1 - r squared, from the residuals), `exact` (the points
#'   lie on a line to within the rounding of their values), means and standard deviations.
#' @section Errors: `unsere_error_undefined` if n < 3 or a variable is constant.
#' @references Pearson (1895).
#' @noRd
measure_pearson <- function(x, y, names = c("x", "y")) {
  check_pair(x, y, names)
  core_pearson(x, y)
}

#' Pearson's r alone
#' @noRd
r_plain <- function(x, y) core_pearson(as.double(x), as.double(y))$r

check_pair <- function(x, y, names, least = 3L) {
  if (length(x) < least) {
    shared <- if (length(x) == 1L) "one complete pair" else paste(length(x), "complete pairs")
    abort_undefined(
      problem("%s and %s share %s; at least %d are needed.", names[1], names[2], shared, least),
      "Check for missing values, or for missing-value codes that leave too few cases."
    )
  }
  check_column(x, names[1])
  check_column(y, names[2])
}

check_column <- function(values, name) {
  ends <- range(values)
  if (any(is.infinite(ends))) {
    abort_input(
      problem("%s contains an infinite value (case %d).", name, which(is.infinite(values))[1]),
      "Correct it, or declare it a missing code."
    )
  }
  if (ends[1] == ends[2]) {
    shown <- format(values[1], digits = 15)
    abort_undefined(
      problem("%s is %s in all %d complete pairs: a constant correlates with nothing.", name, shown, length(values)),
      "Choose a variable that varies among these cases."
    )
  }
}

measure_spread <- function(x) core_spread(as.double(x))

#' Mean and sd of the values of one column, and its ends; `NA` where there are none
#' @noRd
describe_column <- function(values) {
  values <- values[!is.na(values)]
  n <- length(values)
  spread <- if (n > 1) measure_spread(values) else list(mean = if (n) values else NA_real_, sd = NA_real_)
  list(n = n, mean = spread$mean, sd = spread$sd, min = if (n) min(values) else NA, max = if (n) max(values) else NA)
}

#' The two groups of a binary column: code, n, mean and sd of the other variable
#' @param binary Zeros and ones; `other` as long.
#' @noRd
measure_groups <- function(binary, other) {
  rows <- lapply(0:1, function(code) {
    description <- describe_column(other[binary == code])
    data.frame(code = code, n = description$n, mean = description$mean, sd = description$sd)
  })
  do.call(rbind, rows)
}

#' The largest r, of the same sign, that these two sets of values allow: each sorted, so that high meets high
#' @noRd
largest_attainable <- function(x, y, sign) r_plain(sort(x), sort(y, decreasing = sign < 0))
