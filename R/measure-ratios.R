# Ratios: whether one column is another divided by a third, or a count divided by a base, to the last digit written; and
# shares that add up to one whole.

#' One column as a ratio, or a product, of two others
#'
#' Computed from what is written, or before the others were rounded as well, as a body mass index from a height in metres.
#'
#' @param values A column without missing values; `tops` and `bases` named lists of such columns over the same cases.
#' @param rounding How many units of their last digit the others may be off, as they were rounded afterwards.
#' @return `NULL`, or a list: `top`, `base` (names) and `power`: 1 for divided by the base, 2 by its square, -1 for times it.
#' @noRd
find_ratio <- function(values, tops, bases, rounding = 0) {
  places <- places_written(values)
  unit <- if (places > 9L) 0 else 10^-places
  at <- which(values > 0)
  if (length(at) < 20L || any(values < 0) || stats::sd(values) <= 5 * unit) return(NULL)
  # A whole number beside them was counted, not computed.
  if (rounding > 0 && places < 1L) return(NULL)
  tops <- Filter(function(v) varies_above(v, at), tops)
  bases <- Filter(function(v) varies_above(v, at), bases)
  if (!length(tops) || !length(bases)) return(NULL)
  # A few cases rule out nearly all.
  few <- at[order(values[at])][round(seq(1, length(at), length.out = 6))]
  slack <- .51 * unit / values[few] + 1e-9
  against <- function(columns) vapply(columns, function(v) log(v[few]) - log(v[few[1]]), numeric(6))
  top <- against(tops)
  base <- against(bases)
  change <- log(values[few]) - log(values[few[1]])
  # How far the rounding of each may move the logarithm.
  loose <- function(v, at) rounding * unit_written(v) / v[at]
  top_slack <- vapply(tops, loose, numeric(6), few)
  base_slack <- vapply(bases, loose, numeric(6), few)
  # Of three rounded measurements each would be the product or the ratio of the others.
  for (power in if (rounding > 0) 2:1 else c(1, 2, -1)) {
    fits <- matrix(TRUE, length(tops), length(bases))
    for (k in 2:6) {
      room <- outer(top_slack[1, ] + top_slack[k, ], abs(power) * (base_slack[1, ] + base_slack[k, ]), "+")
      fits <- fits & abs(outer(top[k, ], power * base[k, ], "-") - change[k]) <= 1.05 * (slack[1] + slack[k] + room)
    }
    for (pair in which(fits)) {
      one <- names(tops)[row(fits)[pair]]
      other <- names(bases)[col(fits)[pair]]
      more <- if (rounding > 0) loose(tops[[one]], at) + abs(power) * loose(bases[[other]], at) else 0
      # Where rounding leaves room for a third of how the values differ, it may be by chance.
      if (rounding > 0 && (length(at) < 40L || max(more) > stats::sd(log(values[at])) / 3)) next
      is_made_of <- function(of) is_multiple(values[at], of[at], unit, more * values[at])
      is_ratio <- one != other && is_made_of(tops[[one]] / bases[[other]]^power) && !is_made_of(tops[[one]]) &&
        (power > 0 || !is_made_of(bases[[other]]))
      if (is_ratio && !is_the_base(places, bases[[other]], tops[one], values, rounding)) {
        return(list(top = one, base = other, power = power))
      }
    }
  }
  NULL
}

# Whether the base is the ratio, and these its base: then either is the other divided, but one of them was computed.
is_the_base <- function(places, base, top, values, rounding) {
  if (rounding == 0 && places >= places_written(base)) return(FALSE)
  !is.null(find_ratio(base, top, list(values = values)))
}

varies_above <- function(v, at) all(v[at] > 0) && max(v[at]) > 1.05 * min(v[at]) && count_distinct(v) >= 5L

#' Whether values are a multiple of some others, but for the rounding of what is written
#' @noRd
is_multiple <- function(values, of, unit, more = 0) {
  times <- sum(values * of) / sum(of^2)
  # Once, a hundred or a thousand times as much has no error of its own; another multiple was estimated.
  fits <- function(times, slack) all(abs(values - times * of) <= slack * unit + more + 1e-8 * abs(values))
  fits(10^round(log10(times)), .51) || all(more == 0) && fits(times, .6)
}

#' The columns by which some values are counts divided: their product, or a thousandth of it, and so on, is whole
#'
#' As far as the digits written can tell: where chance would hardly make all whole.
#' @return Names.
#' @noRd
bases_of_rate <- function(values, bases) {
  if (any(values < 0) || mean(values == round(values)) > .5) return(character())
  places <- places_written(values)
  if (places > 9L) return(character())
  Filter(function(name) {
    base <- bases[[name]]
    if (any(base != round(base)) || !varies_above(base, which(values > 0))) return(FALSE)
    at <- which(values > 0)
    any(vapply(10^c(0, 2:6), function(scale) {
      count <- values[at] * base[at] / scale
      slack <- base[at] / scale * .51 * 10^-places + 1e-12 * abs(count)
      # Counts of none or one would be no counts.
      all(abs(count - round(count)) <= slack) && sum(log(pmin(1, 2 * slack))) < log(1e-8) && stats::median(count) > 1
    }, NA))
  }, names(bases))
}

#' The column that both of two are divided by
#'
#' @param columns The two, then others, named.
#' @return A name, or `NULL`.
#' @noRd
shared_base <- function(columns) {
  others <- columns[-(1:2)]
  of_one <- function(values, bases) {
    counted <- bases_of_rate(values, bases)
    made <- or_default(find_ratio(values, others, bases), find_ratio(values, others, bases, .51))
    c(counted, if (!is.null(made) && made$power > 0) made$base)
  }
  first <- of_one(columns[[1]], others)
  if (!length(first)) return(NULL)
  both <- of_one(columns[[2]], others[unique(first)])
  if (length(both)) both[1]
}

#' What two columns and some others add up to in every case, as the shares of a whole do
#'
#' @return `NULL`, or a list: `sum`; `with`, the names of the others; `ranks`, whether each case puts them in an order.
#' @noRd
find_whole <- function(columns) {
  if (length(columns) < 3L || any(columns[[1]] < 0) || any(columns[[2]] < 0)) return(NULL)
  columns <- c(columns[1:2], Filter(function(v) all(v >= 0) && has_squares(v), columns[-(1:2)]))
  if (length(columns) < 3L) return(NULL)
  fitted <- qr(cbind(1, do.call(cbind, columns[-1])), tol = 1e-9)
  if (length(columns[[1]]) < fitted$rank + 8L) return(NULL)
  # The others take all that the first gives, each the whole of what it takes, or have no part in it.
  weights <- qr.coef(fitted, columns[[1]])[-1]
  takes_part <- !is.na(weights) & abs(weights + 1) < .2
  # Two whose sum is given are one measure reversed.
  if (!takes_part[1] || sum(takes_part) < 2L) return(NULL)
  shares <- c(columns[1], columns[-1][takes_part])
  unit <- max(vapply(shares, unit_written, 0))
  sums <- Reduce(`+`, shares)
  sum <- round(stats::median(sums), 6)
  # Few steps may add up by chance, but not to the same sum in every case.
  exact <- all(abs(sums - sum) <= 1e-9 * sum)
  if (!exact && any(vapply(shares[1:2], stats::sd, 0) <= 5 * unit)) return(NULL)
  spread <- 1.2 * unit * sqrt(length(shares) / 12)
  if (any(abs(sums - sum) > .51 * unit * length(shares) + 1e-9 * sum) || sqrt(mean((sums - sum)^2)) > spread + 1e-9 * sum) {
    return(NULL)
  }
  list(sum = sum, with = names(shares)[-(1:2)], ranks = exact && are_ranks(shares))
}

# Whether every case holds 1, 2, 3 and so on, one in each column.
are_ranks <- function(columns) {
  values <- do.call(cbind, columns)
  k <- ncol(values)
  all(values %in% seq_len(k)) && all(rowSums(values^2) == sum(seq_len(k)^2)) && all(rowSums(2^values) == 2^(k + 1) - 2)
}
