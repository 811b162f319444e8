# Sums and differences: whether one column is made up of another and further ones, exactly or to the last digit written.

#' One column as a sum, mean or difference of others
#'
#' Columns that are sums of others themselves are passed over: what comes in fewer values stands nearer to what was asked.
#' Exact means to nine digits. Rounded means: what is left is no more than rounding leaves, and the weights are of one size,
#' or the steps of the total small beside its spread.
#' @param whole,part Double vectors without missing values.
#' @param others A named list of such vectors.
#' @return `NULL`, or a list: `weights` of the part (first, nameless) and of the others that take part, a named double
#'   vector; `exact`.
#' @noRd
find_sum <- function(whole, part, others) {
  if (!has_squares(whole) || !has_squares(part)) return(NULL)
  others <- Filter(has_squares, others)
  others <- others[order(vapply(others, count_distinct, 0L))]
  base <- do.call(cbind, c(list(1, part), others))
  fitted <- qr(base, tol = 1e-9)
  spare <- length(whole) - fitted$rank
  if (spare < 8L || !2L %in% fitted$pivot[seq_len(fitted$rank)]) return(NULL)
  size <- sum((whole - mean(whole))^2)
  residuals <- qr.resid(fitted, whole)
  exact <- sum(residuals^2) < 1e-18 * size
  unit <- if (exact) 0 else unit_written(whole)
  if (!exact && (spare < 20L || !only_rounded(residuals, unit, spare) || sum(residuals^2) > .02 * size)) return(NULL)
  parts <- sort(fitted$pivot[seq_len(fitted$rank)])
  weights <- qr.coef(fitted, whole)
  weights[is.na(weights)] <- 0
  least <- if (exact) small_weights(base[, parts], size) else 5 * weight_errors(fitted, residuals, spare)
  takes_part <- setdiff(parts[abs(weights[parts]) > least], 1L)
  if (length(takes_part) < 2L || takes_part[1] != 2L) return(NULL)
  sizes <- abs(weights[takes_part])
  # Unequal weights and digits lost to rounding: only where the total is written in steps that are small beside its spread.
  fine <- max(abs(residuals)) <= .7 * unit && stats::sd(whole) >= 5 * unit
  if (!exact && max(sizes) > 1.3 * min(sizes) && !fine) return(NULL)
  list(weights = stats::setNames(weights[takes_part], c("", names(others))[takes_part - 1L]), exact = exact)
}

# What moves a column by no more than rounding in the arithmetic.
small_weights <- function(base, size) {
  1e-7 * sqrt(size) / pmax(apply(base, 2L, function(column) diff(range(column))), 1e-300)
}

# Standard errors of the weights of the columns kept, in the order of the columns.
weight_errors <- function(fitted, residuals, spare) {
  parts <- fitted$pivot[seq_len(fitted$rank)]
  upper <- qr.R(fitted)[seq_len(fitted$rank), seq_len(fitted$rank), drop = FALSE]
  errors <- sqrt(diag(chol2inv(upper)) * sum(residuals^2) / spare)
  errors[order(parts)]
}

count_distinct <- function(v) length(unique(v))

# Up to so many of n places, evenly spaced, where a look at some will do.
even_places <- function(n, most) unique(round(seq(1, n, length.out = min(n, most))))

# The step between neighbouring values as they are written, at most four decimals.
unit_written <- function(v) {
  if (places_written(v, 50L) > 4L || max(places <- decimals_written(v)) > 4L) 0 else 10^-max(places)
}

only_rounded <- function(residuals, unit, spare) {
  unit > 0 && max(abs(residuals)) <= unit && sqrt(sum(residuals^2) / spare) <= .52 * unit
}

#' Whether one column is a linear copy of the other up to the digits that they are written with
#'
#' What is left about the line is no more than rounding both leaves. Two scales of few steps that nearly agree are no copies:
#' one is written far more finely, or both spread over many steps.
#' @noRd
is_rounded_copy <- function(x, y) {
  if (length(x) < 20L || min(count_distinct(x), count_distinct(y)) < 5L) return(FALSE)
  slope <- sum((x - mean(x)) * (y - mean(y))) / sum((x - mean(x))^2)
  if (!is.finite(slope)) return(FALSE)
  residuals <- y - mean(y) - slope * (x - mean(x))
  units <- c(unit_written(y), abs(slope) * unit_written(x))
  coarse <- max(units)
  if (coarse == 0) return(FALSE)
  steps <- stats::sd(y) / coarse
  # What varies by less than the digits that were looked for is not written in them.
  if (steps < 0.5) return(FALSE)
  if (min(units) > coarse / 5 && steps < 5 && (min(units) > coarse / 2 || steps < 2.5)) return(FALSE)
  max(abs(residuals)) <= .65 * coarse + .5 * min(units) && sqrt(mean(residuals^2)) <= 1.1 * sqrt(sum(units^2) / 12)
}

#' Whether one column is the other's logarithm, square root, square or reciprocal, or a linear copy of that, up to the digits
#' that they are written with
#' @return `NULL`, or a list: `side`, which of the two is made of the other; `by`.
#' @noRd
find_bent_copy <- function(x, y) {
  if (length(x) < 20L || min(x) < 0 && min(y) < 0 || !has_squares(x) || !has_squares(y)) return(NULL)
  # Some cases rule out nearly all.
  some <- even_places(length(x), 500L)
  a <- x[some]
  b <- y[some]
  if (is.unsorted(b[order(a, b)]) && is.unsorted(-b[order(a, -b)])) return(NULL)
  if (min(count_distinct(a), count_distinct(b)) < 10L || is_rounded_copy(a, b)) return(NULL)
  for (by in names(bends)) {
    if (is_bent_copy(a, b, bends[[by]]) && is_bent_copy(x, y, bends[[by]])) return(list(side = 2L, by = by))
    if (is_bent_copy(b, a, bends[[by]]) && is_bent_copy(y, x, bends[[by]])) return(list(side = 1L, by = by))
  }
  NULL
}

# Each with its slope, by which the rounding of what it is taken of moves it.
bends <- list(
  logarithm = list(of = log, slope = function(v) 1 / v),
  "logarithm (1 added)" = list(of = log1p, slope = function(v) 1 / (1 + v)),
  "square root" = list(of = sqrt, slope = function(v) .5 / sqrt(v)),
  square = list(of = function(v) v^2, slope = function(v) 2 * v),
  reciprocal = list(of = function(v) 1 / v, slope = function(v) 1 / v^2)
)

is_bent_copy <- function(x, y, bend) {
  if (min(x) < 0) return(FALSE)
  z <- bend$of(x)
  if (!all(is.finite(z))) return(FALSE)
  z <- z - mean(z)
  slope <- sum(z * (y - mean(y))) / sum(z^2)
  reach <- .65 * (unit_written(y) + abs(slope * bend$slope(x)) * unit_written(x)) + 1e-9 * stats::sd(y)
  isTRUE(stats::sd(y) > 5 * stats::median(reach) && all(abs(y - mean(y) - slope * z) <= reach))
}

# The squares of the tiniest numbers are nothing, those of the largest no number.
has_squares <- function(values) {
  size <- max(abs(values))
  size == 0 || size > 1e-120 && size < 1e120
}

#' Which of the columns that make up a sum is the whole
#'
#' A sum has weights of one sign in its parts. Where some are reversed, the whole has more values than any part and
#' spreads as far at least.
#' @param columns The whole that is tried, then its parts, named; `weights` of the parts.
#' @noRd
is_sum_of <- function(columns, weights) {
  if (all(weights > 0)) return(TRUE)
  distinct <- vapply(columns, count_distinct, 0L)
  spreads <- vapply(columns, stats::sd, 0) * c(1, abs(weights))
  distinct[1] > max(distinct[-1]) && spreads[1] >= max(spreads[-1])
}

#' Whether values look like means of groups of different sizes: fractions whose denominators change
#' @param counts A list of whole-number columns that may be the sizes.
#' @return `NULL`, or a list: `counts`, the name of the column that fits, or `NA`.
#' @noRd
find_average <- function(v, counts = list()) {
  parts <- v[!is.na(v) & abs(v - round(v)) > 1e-9]
  if (length(unique(parts)) < 8L || length(parts) < .5 * sum(!is.na(v))) return(NULL)
  places <- places_written(parts)
  slack <- function(v, k) k * .51 * 10^-places + 1e-12 * abs(v * k)
  fits <- function(v, k) abs(v * k - round(v * k)) <= slack(v, k)
  for (name in names(counts)) {
    n <- counts[[name]]
    at <- which(!is.na(v) & !is.na(n) & n > 1)
    if (length(at) < 8L || count_distinct(n[at]) < 3L || !all(fits(v[at], n[at]))) next
    # How likely all fit by chance.
    if (sum(log(pmin(1, 2 * slack(v[at], n[at])))) < log(1e-6)) return(list(counts = name))
  }
  most <- c(15L, 40L, 60L)[max(0L, min(places, 6L) - 3L)]
  if (!length(most)) return(NULL)
  parts <- utils::head(parts, 200L)
  fitting <- vapply(2:most, function(k) fits(parts, k), logical(length(parts)))
  if (mean(rowSums(fitting) > 0) < .95 || any(colMeans(fitting) > .6)) return(NULL)
  list(counts = NA_character_)
}

#' How many decimals the first values are written with, at most
#' @noRd
places_written <- function(v, first = 200L) max(decimals_written(utils::head(v, first)))

#' How many decimals each value is written with, ten at most
#' @noRd
decimals_written <- function(v) {
  places <- rep(10L, length(v))
  open <- seq_along(v)
  for (k in 0:9) {
    open_values <- v[open]
    written <- abs(open_values - round(open_values, k)) < 1e-11 * pmax(1, abs(open_values) / 1000)
    places[open[which(written)]] <- k
    open <- open[!written]
    if (!length(open)) break
  }
  places
}
