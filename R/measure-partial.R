# Held constant: what is left of two columns when others are taken out of both.

#' The residuals of two columns on some others, and the partial r of them
#'
#' @param x,y Scores; `controls` a matrix of the columns controlled for, without an intercept; `part` the side, 1 or 2, that
#'   they are taken out of alone (semipartial), or `NULL` for both.
#' @return A list: `x`, `y` (what is left), `r`, `unexplained`, `controls` (how many columns count, collinear ones once),
#'   `leverage` (of each case in the columns held), `all` (r without holding anything), `freed` (both sides freed, as a
#'   matrix), `both` (`r` and `unexplained` of those, which the test is of).
#' @section Errors: `unsere_error_undefined` where too few cases are left, or x or y is given by what is held.
#' @references Yule (1907), Proceedings of the Royal Society of London A 79, 182-193.
#' @noRd
measure_partial <- function(x, y, controls, names = c("x", "y"), part = NULL) {
  check_pair(x, y, names)
  scale <- apply(controls, 2, function(column) max(abs(column - mean(column)), 0))
  controls <- sweep(sweep(controls, 2, colMeans(controls)), 2, ifelse(scale > 0, scale, 1), "/")
  basis <- qr(cbind(1, controls), tol = 1e-9)
  q <- basis$rank - 1L
  if (length(x) < q + 4L) {
    abort_undefined(
      problem("%d cases are too few to control for %d columns.", length(x), q),
      "Use fewer control variables, or groups with more cases."
    )
  }
  whole <- cbind(x - mean(x), y - mean(y))
  freed <- residuals <- qr.resid(basis, whole)
  if (!is.null(part)) residuals[, -part] <- whole[, -part]
  sizes <- c(sum((x - mean(x))^2), sum((y - mean(y))^2))
  spent <- which(colSums(freed^2) <= 1e-12 * sizes)
  if (length(spent)) {
    abort_undefined(
      problem("%s is determined completely by the control variables; there is nothing left to correlate.", names[spent[1]]),
      "Control for something else, or for less."
    )
  }
  estimate <- measure_pearson(residuals[, 1], residuals[, 2], names)
  directions <- qr.Q(basis)[, seq_len(basis$rank), drop = FALSE]
  list(
    x = residuals[, 1], y = residuals[, 2], r = estimate$r, unexplained = estimate$unexplained, controls = q,
    leverage = rowSums(directions^2), all = r_plain(x, y), freed = freed, part = part,
    both = if (is.null(part)) estimate[c("r", "unexplained")] else measure_pearson(freed[, 1], freed[, 2], names)
  )
}

#' The partial r of a pair with a third controlled for, from the three r: of the pair, then of each with the third
#' @noRd
partial_of_three <- function(r) (r[1] - r[2] * r[3]) / sqrt((1 - r[2]^2) * (1 - r[3]^2))

#' The same from sums of squares and products about the means
#'
#' @param products A matrix: x, y, then what is held.
#' @noRd
measure_partial_products <- function(products, n, names = c("x", "y")) {
  size <- sqrt(diag(products))
  if (any(size == 0)) abort_undefined("A variable does not vary.", "Control for something else.")
  basis <- qr(scaled <- products[-(1:2), -(1:2), drop = FALSE] / outer(size[-(1:2)], size[-(1:2)]), tol = 1e-9)
  q <- basis$rank
  independent <- basis$pivot[seq_len(q)]
  beside <- (products[-(1:2), 1:2, drop = FALSE] / outer(size[-(1:2)], size[1:2]))[independent, , drop = FALSE]
  residuals <- products[1:2, 1:2] / outer(size[1:2], size[1:2]) -
    crossprod(beside, solve(scaled[independent, independent, drop = FALSE], beside))
  spent <- which(diag(residuals) <= 1e-12)
  if (length(spent)) abort_undefined(
    problem("%s is determined completely by the control variables; there is nothing left to correlate.", names[spent[1]]),
    "Control for something else, or for less."
  )
  r <- residuals[1, 2] / sqrt(residuals[1, 1] * residuals[2, 2])
  list(r = r, unexplained = max(0, 1 - r^2), controls = q)
}

#' The partial r without each case in turn
#'
#' Taking a case out changes a sum of products of residuals by its own product over one less its leverage.
#' @noRd
partial_without_each <- function(partial) {
  share <- 1 / pmax(1 - partial$leverage, 1e-12)
  n <- length(share)
  freed <- partial$freed
  products <- sum(freed[, 1] * freed[, 2]) - freed[, 1] * freed[, 2] * share
  # A side that nothing is taken out of loses a case's distance from the mean.
  squares <- lapply(1:2, function(k) {
    if (is.null(partial$part) || k == partial$part) return(sum(freed[, k]^2) - freed[, k]^2 * share)
    whole <- partial[[c("x", "y")[k]]]
    sum(whole^2) - whole^2 * n / (n - 1)
  })
  square <- squares[[1]] * squares[[2]]
  r <- ifelse(square > 0, products / sqrt(pmax(square, 0)), NA_real_)
  # A case alone in a held group takes its column with it, and leaves the others as they are.
  ifelse(partial$leverage > 1 - 1e-9, partial$r, r)
}

#' How r changes when columns are controlled for: r, partial r, and their difference on the z scale by the jackknife
#'
#' @return A data frame of one row: `r`, `partial`, `ci_low`, `ci_high` (of the partial r), `difference` (of the z),
#'   `difference_low`, `difference_high`, `p` (of the difference).
#' @noRd
change_by_holding <- function(x, y, controls, confidence, names = c("x", "y")) {
  partial <- measure_partial(x, y, controls, names)
  n <- length(x)
  z <- function(r) atanh(clip(r))
  without <- r_without_each(x, y)
  without_partial <- partial_without_each(partial)
  spread <- spread_of_left(without_partial, n - 2 - partial$controls)
  around <- interval_from_z(partial$r, partial$unexplained, spread$variance, confidence, spread$df)
  difference <- z(partial$all) - z(partial$r)
  spread <- sqrt(jackknife_variance(z(without) - z(without_partial)))
  tested <- difference_by_jackknife(difference, spread, n - 2 - partial$controls, confidence)
  half <- stats::qt((1 + confidence) / 2, n - 2 - partial$controls) * spread
  data.frame(
    r = partial$all, partial = partial$r, ci_low = around$ci_low, ci_high = around$ci_high, difference = difference,
    difference_low = difference - half, difference_high = difference + half, p = tested$p
  )
}

#' The larger p of two tests: whether some columns go with y beyond x, and with x beyond y
#' @noRd
tied_to_both <- function(x, y, controls) {
  controls <- sweep(controls, 2, colMeans(controls))
  max(p_of_addition(y, x, controls), p_of_addition(x, y, controls))
}

# F of what columns add to a line of y in x.
p_of_addition <- function(y, x, controls) {
  base <- cbind(1, x - mean(x))
  y <- y - mean(y)
  before <- sum(qr.resid(qr(base), y)^2)
  whole <- qr(cbind(base, controls), tol = 1e-9)
  after <- sum(qr.resid(whole, y)^2)
  added <- whole$rank - 2L
  residuals <- length(y) - whole$rank
  if (added < 1L || residuals < 1L || after <= 0) return(if (after <= 0 && added > 0L) 0 else 1)
  stats::pf((before - after) / added / (after / residuals), added, residuals, lower.tail = FALSE)
}
