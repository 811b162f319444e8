# Columns that are made of a pair's values, such as grades, bands, quartiles, pass and fail: they split the cases by the
# values themselves, so that nothing within their groups, and no likeness in them, tells of a class.

#' Whether the groups of a column lie one above the other along a measure, or along a sum of the pair
#'
#' Of two cases of different groups the higher one is in the higher group, nearly always. What is the same for all cases of a
#' group, such as the size of a class, makes no band of it.
#' @param group What each case belongs to; `x`, `y` the pair; `others` further measures, of the first cases at least.
#' @noRd
is_banded <- function(group, x, y, others = list()) {
  known <- which(!is.na(group))
  at <- known[even_places(length(known), 300L)]
  if (length(at) < 8L) return(FALSE)
  labels <- unique(as.character(group[at]))
  group <- match(as.character(group[at]), labels)
  if (max(group) < 2L) return(FALSE)
  columns <- c(list(x[at], y[at]), lapply(others, function(column) if (length(column) >= max(at)) column[at]))
  columns <- Filter(function(v) !is.null(v) && varies_within(v, group), columns)
  if (any(vapply(columns, is_band_of, NA, group))) return(TRUE)
  both <- cbind(1, x[at], y[at])
  if (!varies_within(x[at], group) || !varies_within(y[at], group)) return(FALSE)
  # The sum of the two along which the groups differ most, found from the order of their means along each. Regions may lie
  # apart along a sum by themselves; grades and bands have labels in that order.
  any(vapply(list(x[at], y[at]), function(v) {
    place <- rank(tapply(v, group, mean))
    if (!in_order_of_labels(labels, place)) return(FALSE)
    is_band_of(as.vector(both %*% ifelse(is.na(b <- qr.coef(qr(both), place[group])), 0, b)), group)
  }, NA))
}

# Labels that rise or fall with the places: by the numbers in them, else by their letters; two are in order anyway.
in_order_of_labels <- function(labels, place) {
  numbers <- suppressWarnings(as.numeric(sub("^[^0-9]*([0-9]+([.][0-9]+)?).*$", "\\1", labels)))
  by <- if (anyNA(numbers)) order(labels, method = "radix") else order(numbers)
  along <- place[by]
  length(labels) == 2L || !is.unsorted(along) || !is.unsorted(-along)
}

varies_within <- function(v, group) {
  known <- !is.na(v)
  if (mean(known) < 0.7) return(FALSE)
  v <- v[known]
  group <- group[known]
  first <- v[match(group, group)]
  mean(rowsum(as.double(v != first), group) > 0) >= 0.5
}

# The share of pairs of cases of different groups that stand as their groups do.
is_band_of <- function(v, group, least = 0.985) {
  known <- !is.na(v)
  v <- v[known]
  group <- group[known]
  if (length(unique(group)) < 2L) return(FALSE)
  # Most columns are far from it, which a few cases show.
  few <- even_places(length(v), 60L)
  if (length(v) > 150L && length(unique(group[few])) > 1L && !is_band_of(v[few], group[few], 0.9)) return(FALSE)
  place <- rank(tapply(v, group, mean))[as.character(group)]
  above <- outer(place, place, `>`)
  agrees <- outer(v, v, `>`)[above]
  equal <- outer(v, v, `==`)[above]
  length(agrees) > 0L && mean(agrees) + mean(equal) / 2 >= least
}
