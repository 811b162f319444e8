# Cases that stand in an order or at places whose neighbours are alike: how many independent ones
# they are worth, and what test and interval that makes.

#' How many independent cases a pair's are worth, where clearly fewer: times, else places, else rows
#'
#' A panel's units are no series; what holds of them is sought over the units.
#' @param estimate Of the pair's scores.
#' @return A list, empty where nothing speaks against independent cases: `of` ("times", "places" or "rows"),
#'   `effective`, `n`; of places and rows `near_x` and `near_y`, how alike neighbours are; `places`, two names.
#' @noRd
dependence_of_sample <- function(sample, estimate) {
  if (estimate$unexplained == 0) return(list())
  series <- series_of_sample(sample)
  dependence <- if (!is.null(series)) {
    dependence_of_times(series)
  } else if (is.null(sample$more$design) && sample_size(sample) >= 20L) {
    or_default(dependence_of_places(sample, estimate), dependence_of_rows(sample, estimate))
  }
  if (isTRUE(dependence$effective <= 0.75 * dependence$n)) dependence else list()
}

dependence_of_times <- function(series) {
  if (!is.null(series$unit)) return(NULL)
  whole <- without_repeated_periods(series$x, series$y, series$grid$times)
  levels <- tied_series(whole$x, whole$y, NULL, serial = FALSE)
  # Values that fill several times each count once.
  if (levels$n < 8L && whole$periods == 1L) return(NULL)
  list(of = "times", effective = min(levels$n, levels$effective), n = sum(!is.na(series$x) & !is.na(series$y)))
}

#' Cases that have a place, and resemble those near them in both variables; `NULL` where no column tells the places
#' @noRd
dependence_of_places <- function(sample, estimate) {
  names <- place_columns(sample$more$measured)
  if (is.null(names) || any(names %in% sample$names)) return(NULL)
  n <- sample_size(sample)
  places <- sample$more$numbers_at(names, sample$row)
  known <- which(!is.na(places[[1]]) & !is.na(places[[2]]))
  known <- known[even_places(length(known), 1000L)]
  if (length(known) < 0.9 * min(n, 1000L)) return(NULL)
  distances <- place_distances(as.double(places[[1]][known]), as.double(places[[2]][known]))
  if (!(max(distances) > 0)) return(NULL)
  x <- estimate$x[known]
  y <- estimate$y[known]
  near <- c(nearest_ties(x, distances), nearest_ties(y, distances))
  if (!isTRUE(min(near) > 3 / sqrt(length(known)))) return(NULL)
  effective <- effective_places(x, y, distances, n)
  if (effective > 0.75 * n) return(NULL)
  list(of = "places", effective = effective, n = n, near_x = near[1], near_y = near[2], places = unname(names))
}

#' Rows that resemble their neighbours in both variables, though no column says why
#' @noRd
dependence_of_rows <- function(sample, estimate) {
  n <- sample_size(sample)
  x <- centred_scores(estimate$x)
  if (!resembles_next(x)) return(NULL)
  y <- centred_scores(estimate$y)
  if (!resembles_next(y) || !is.null(sample_order(sample))) return(NULL)
  # Rows sorted by one of the two resemble their neighbours; that says something only where they do so beside the line.
  if (is_sorted(x) || is_sorted(y)) {
    residuals <- as.vector(freed(cbind(sample$y), cbind(1, sample$x - mean(sample$x))))
    if (!resembles_next(centred_scores(residuals))) return(NULL)
  }
  list(of = "rows", effective = effective_cases(x, y), n = n, near_x = self_ties(x, n, 1L), near_y = self_ties(y, n, 1L))
}

centred_scores <- function(v) (v - mean(v)) / fitting_unit(v - mean(v))

is_sorted <- function(v) !is.unsorted(v) || !is.unsorted(-v)

# r of a row with the next, or the mean r with the next five, three standard deviations above what rows in no order have.
resembles_next <- function(v, deviations = 3) {
  if (all(v == 0)) return(FALSE)
  near <- self_ties(v, length(v), 5L)
  max(near[1], mean(near) * sqrt(5)) > deviations / sqrt(length(v))
}

#' The columns that are coordinates, by their names
#' @return Two names, across first, or `NULL`.
#' @noRd
place_columns <- function(names) {
  axes <- list(
    across = paste0(
      "lon|lng|long|longitude|l\u00e4ngengrad|laengengrad|geo_?l\u00e4nge|easting|rechtswert|x_?coord\\w*|coord\\w*_?x"
    ),
    up = "lat|latitude|breitengrad|geo_?breite|northing|hochwert|y_?coord\\w*|coord\\w*_?y"
  )
  places <- lapply(axes, function(words) grep(sprintf("(^|[_ .-])(%s)([_ .-]|$)", words), tolower(names), perl = TRUE))
  if (all(lengths(places) == 1L)) names[unlist(places)]
}

#' The test and interval by the effective number of cases, where they allow for more than the interval at hand
#'
#' @param dependence From [dependence_of_sample()]; `around` the interval at hand.
#' @return `NULL`, or `test`, `interval` and `z_variance`.
#' @noRd
by_effective_size <- function(estimate, dependence, around, expect, confidence) {
  if (!length(dependence)) return(NULL)
  by_it <- tell_effective(estimate$r, estimate$unexplained, dependence$effective, dependence$n, confidence)
  if (isTRUE(around$ci_high - around$ci_low > by_it$high - by_it$low)) return(NULL)
  log_p <- direct_log_p(log_two_sided(estimate$r, estimate$unexplained, by_it$df), sign(estimate$r), expect)
  list(
    test = new_test("t", by_it$value, by_it$df, log_p, "effective size"),
    interval = list(ci_low = by_it$low, ci_high = by_it$high, ci_method = "effective size"),
    z_variance = 1 / max(dependence$effective - 3, 1)
  )
}

#' The pairs of a matrix whose cases are not independent, with the interval and test of the effective number of them
#'
#' @param pair_at From pairs and a row to the sample of its two columns.
#' @noRd
with_dependent_pairs <- function(pairs, sample, expect, confidence, pair_at) {
  for (k in pairs_maybe_dependent(pairs, sample)) {
    of_pair <- pair_at(pairs, k)
    estimate <- estimate_of_pair(of_pair, pairs[k, ])
    new <- by_effective_size(
      estimate, dependence_of_sample(of_pair, estimate), as.list(pairs[k, c("ci_low", "ci_high")]), expect, confidence
    )
    if (is.null(new)) next
    pairs <- with_own_interval(pairs, k, c(new$interval, new$test, new["z_variance"]))
  }
  pairs
}

# Which pairs deserve that look: all of series and places, else those whose rows resemble the next in both.
pairs_maybe_dependent <- function(pairs, sample) {
  products <- vapply(coefficient_records()[unique(pairs$coefficient)], `[[`, NA, "products")
  whole <- which(products[pairs$coefficient] & pairs$unexplained > 0 & pairs$n >= 8L)
  if (!length(whole) || !is.null(sample$more$design)) return(integer())
  has_time <- !is.null(or_default(sample$more$time_name, sample$more$likely$time))
  if (has_time || !is.null(place_columns(sample$more$measured))) return(whole)
  # A likeness that leaves fewer than three in four cases shows in the first thousands.
  alike <- vapply(sample$columns, function(column) {
    values <- utils::head(column, 5000L)
    values <- values[!is.na(values)]
    length(values) < 20L || resembles_next(centred_scores(values), deviations = if (length(column) > 5000L) 5 else 2.5)
  }, NA)
  maybe <- whole[alike[pairs$i[whole]] & alike[pairs$j[whole]]]
  if (length(maybe) && is.null(sample_order(sample))) maybe else integer()
}
