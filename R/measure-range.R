# r as it would be in a population whose range was not restricted.

#' @param r Observed; `ratio` the unrestricted standard deviation divided by the observed one.
#' @references Thorndike (1949), Personnel selection, case 2; Pearson (1903).
#' @noRd
unrestrict_direct <- function(r, ratio) r * ratio / sqrt(1 + r^2 * (ratio^2 - 1))

#' Selection by a third variable
#' @param r_x,r_y Its correlations with the two; `ratio` of its standard deviations.
#' @references Thorndike (1949), case 3.
#' @noRd
unrestrict_third <- function(r, r_x, r_y, ratio) {
  more <- ratio^2 - 1
  (r + r_x * r_y * more) / sqrt((1 + r_x^2 * more) * (1 + r_y^2 * more))
}

#' Selection by something that goes with the true x: x without its errors is restricted more than x
#'
#' @param reliability Of x among the observed cases.
#' @return r of x and y in the population, errors of x included; `NA` where the reliability is too low for that ratio.
#' @references Hunter, Schmidt & Le (2006), Journal of Applied Psychology 91, 594-612.
#' @noRd
unrestrict_indirect <- function(r, ratio, reliability) {
  there <- pmax(0, 1 - (1 - reliability) / ratio^2)
  true_ratio <- sqrt(ratio^2 * there / reliability)
  true_r <- r / sqrt(reliability)
  ifelse(abs(true_r) <= 1 & there > 0, unrestrict_direct(true_r, true_ratio) * sqrt(there), NA_real_)
}

#' Limits by leaving out each case, on Fisher's z
#' @param whole The corrected r; `without` it without each case.
#' @noRd
limits_of_unrestricted <- function(whole, without, confidence) {
  without <- without[is.finite(without) & abs(without) < 1]
  if (length(without) < 4L || !isTRUE(abs(whole) < 1)) return(c(NA_real_, NA_real_))
  spread <- spread_of_left(without)
  unlist(interval_from_z(whole, (1 - whole) * (1 + whole), spread$variance, confidence, spread$df)[c("ci_low", "ci_high")])
}

#' A standard deviation without each case in turn
#' @noRd
sd_without <- function(x) {
  n <- length(x)
  residuals <- x - mean(x)
  sqrt((sum(residuals^2) - n / (n - 1) * residuals^2) / (n - 2))
}
