# Interval and test go one route: the textbook's where nothing in the data speaks against it, else the jackknife's.
#
# The jackknife asks the data how far Fisher's z moves when each case in turn is left out. On normal data that is a noisy
# version of the textbook's standard error, so that it is taken only where it is clearly larger; on data with long tails,
# piles of zeros or a spread that grows it is larger, and right. What is told by this rule is simulated in bench/route.R.

# From how many cases on the data are asked.
least_for_route <- 12L

#' How much larger than the textbook's the standard error must be: exceeded by chance in few samples of normal data, and of
#' very many cases by what matters
#' @noRd
route_limit <- function(n) 1 + pmax(1.2 / sqrt(n) + 1 / n, 0.02)

#' How much wider than the textbook's the jackknife's interval must be, with its own degrees of freedom: exceeded in fewer
#' than 1 of 50 samples of normal data (bench/jackknife.R)
#' @noRd
narrow_limit <- function(n) 1 + 2.3 / sqrt(n) + 4.5 / n

#' Whether the data speak against the textbook's standard error of Fisher's z, or against the interval made of it
#' @param spread From [spread_of_pairs()].
#' @noRd
speaks_against <- function(spread, n) {
  n >= least_for_route & (share_of_textbook(spread, n) > route_limit(n) | is_wider(spread, n)) %in% TRUE
}

share_of_textbook <- function(spread, n) sqrt(spread$variance * (n - 3))

is_wider <- function(spread, n) {
  share_of_textbook(spread, n) * stats::qt(.975, pmax(spread$df, 1)) / stats::qnorm(.975) > narrow_limit(n)
}

#' Whether an interval is the jackknife's
#' @noRd
is_by_jackknife <- function(interval) identical(interval$ci_method, "jackknife")

# Whether it rests on a variance and degrees of freedom of its own, not on the number of cases.
takes_own_spread <- function(interval) is_by_jackknife(interval) || isTRUE(interval$ci_method %in% dependent_methods)

# The methods of intervals that allow for cases that are not independent.
dependent_methods <- c("effective size", "clusters")

#' How far Fisher's z of each pair moves when each case in turn is left out
#'
#' @param i,j Places of columns; `r`, `n` of each pair.
#' @return A list: `variance` of z, and `df`, the degrees of freedom that this variance is worth, between 3 and n - 2.
#' @references Tukey (1958), Annals of Mathematical Statistics 29, 614; Satterthwaite (1946), Biometrics Bulletin 2, 110-114.
#' @noRd
spread_of_pairs <- function(columns, i, j, r, n, threads) {
  spreads <- core_left_out(columns, i, j, r, threads)
  list(variance = spreads$variance, df = df_of_spread(spreads$kurtosis, n - 2))
}

#' The same from r without each case
#' @param most The most degrees of freedom.
#' @noRd
spread_of_left <- function(replicates, most = length(replicates) - 2) {
  z <- z_short_of_one(replicates[!is.na(replicates)])
  if (length(z) < 4L || all(z == mean(z))) return(list(variance = NA_real_, df = NA_real_))
  list(variance = jackknife_variance(z), df = df_of_moves(z, most))
}

# From a figure without each case in turn.
df_of_moves <- function(moves, most) {
  squares <- (moves - mean(moves))^2
  df_of_spread(mean(squares^2) / mean(squares)^2, most)
}

df_of_spread <- function(kurtosis, most) pmin(most, pmax(3, 2 * (most + 2) / (kurtosis - 1)))

#' A straight line whose terms move as they do when each case in turn is left out, where that is asked for or called for
#'
#' @param fit From [measure_line()]; `straight` r of the same values.
#' @return `NULL`, or the fit with `covariance` (of the terms about the centre) and `df`, as a line by a design has them,
#'   `around` (limits of r) and `ci_method`.
#' @references MacKinnon & White (1985), Journal of Econometrics 29, 305-325.
#' @noRd
line_without_each <- function(fit, y, straight, interval, confidence) {
  n <- length(y)
  spread <- spread_of_pairs(list(as.double(fit$score), as.double(y)), 1L, 2L, straight$r, n, 1L)
  if (interval == "auto" && !speaks_against(spread, n)) return(NULL)
  powers <- centred_powers(fit, fit$score)
  leverage <- rowSums((powers %*% fit$centred_covariance) * powers)
  moves <- (powers * (fit$residuals / pmax(1 - leverage, 1e-12))) %*% fit$centred_covariance
  moves <- sweep(moves, 2, colMeans(moves))
  fit$covariance <- (n - 1) / n * crossprod(moves)
  fit$df <- df_of_moves(moves[, 2], n - 2)
  # Where r is not told from zero, its slope is not either.
  of_r <- test_from_z(straight$r, straight$unexplained, spread$variance, spread$df, "either", "jackknife")
  if (isTRUE(of_r$p >= 1 - confidence)) {
    wider <- diag(c(1, abs(fit$centred[2] / of_r$value) / sqrt(fit$covariance[2, 2])))
    fit$covariance <- wider %*% fit$covariance %*% wider
    fit$df <- spread$df
  }
  fit$around <- interval_from_z(straight$r, straight$unexplained, spread$variance, confidence, spread$df)
  fit$ci_method <- "jackknife"
  fit
}
