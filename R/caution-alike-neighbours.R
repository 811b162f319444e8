#' Neighbouring rows, or places near each other, are no independent cases
#' @noRd
caution_alike_neighbours <- function() {
  new_caution("alike_neighbours",
    place = 5, check = check_neighbours,
    meaning = "Neighbouring rows are not independent.",
    evidence = function(f, pair) {
      near <- list(shown(f$near_x, "r"), shown(f$near_y, "r"), as.integer(f$n), effective_of(f))
      text <- if (length(f$places)) {
        list(paste(
          "Autocorrelation: neighbouring places (%s, %s) are similar in both variables (r with the nearest %s and",
          "%s); %d cases have an effective sample size of %d."
        ), f$places[1], f$places[2])
      } else {
        list(paste(
          "Autocorrelation: neighbouring rows are similar in both variables (r with the next row %s and %s), and no",
          "column explains it; %d cases have an effective sample size of %d."
        ))
      }
      joined(do.call(template, c(text, near)), by_effective(f), between = " ")
    },
    advice = function(f, pair) {
      template(
        if (length(f$places)) {
          "Neighbouring places may be similar for a common reason."
        } else {
          "If the rows are in order of time or place, name that column (or add one); likewise for classes."
        }
      )
    },
    clause = effective_clause, clause_from = "warning"
  )
}

# The same beside a line, a matrix or a ranking, whose own figures are the textbook's.
effective_clause <- function(f, digits) {
  if (is.null(f$effective)) return(NULL)
  if (is.null(f$low)) return(template(
    "Neighbouring cases are similar: their effective sample size is %d.", effective_of(f)
  ))
  if (is_uninformative(f$low, f$high)) return(template(
    "Neighbouring cases are similar: their effective sample size is %d, too few for an interval.", effective_of(f)
  ))
  template(
    "Neighbouring cases are similar: by their effective sample size of %d the interval of r was %s.", effective_of(f),
    shown(c(f$low, f$high), "interval")
  )
}

# "By this number the interval of r is [-.10, .68] and p = .13. Report these; ..."
by_effective <- function(f) {
  if (is.null(f$low) || is_uninformative(f$low, f$high)) return(template("The textbook's p and interval are too small."))
  template(
    "By this number the interval of r is %s and %s. Report these; the textbook's p and interval are too small.",
    shown(c(f$low, f$high), "interval"), shown(f$p, "p")
  )
}

effective_of <- function(f) as.integer(max(2, round(f$effective)))

#' What the effective number of times says of r, where it is clearly below their number; of one series a variable alone, as
#' that of panels is sought over their units
#' @noRd
effective_told <- function(trend, evidence) {
  n <- trend$levels$n
  if (!is.null(trend$units) || !isTRUE(trend$effective <= 0.75 * n)) return(NULL)
  if (!evidence$record$products || evidence$estimate$unexplained == 0) return(NULL)
  tell_effective(evidence$r, evidence$estimate$unexplained, trend$effective, n, 1 - evidence$alpha)
}

#' Rows that resemble their neighbours in both variables, though neither a time nor a column says why
#' @noRd
check_neighbours <- function(sample, evidence) {
  n <- sample_size(sample)
  places <- check_places(sample, evidence)
  if (length(places)) return(places)
  if (n < 20L || evidence$estimate$unexplained == 0 || !is.null(sample$more$design)) return(NULL)
  centred <- function(v) (v - mean(v)) / fitting_unit(v - mean(v))
  x <- centred(evidence$estimate$x)
  if (!resembles_next(x)) return(NULL)
  y <- centred(evidence$estimate$y)
  if (!resembles_next(y) || sample_has_time(sample) || !is.null(sample_order(sample))) return(NULL)
  # Rows sorted by one of the two resemble their neighbours; that says something only where they do so beside the line.
  if ((is_sorted(x) || is_sorted(y)) && !resembles_next(centred(evidence$once$residuals))) return(NULL)
  figures <- list(near_x = self_ties(x, n, 1L), near_y = self_ties(y, n, 1L))
  neighbours_finding(figures, n, effective_cases(x, y), evidence)
}

neighbours_finding <- function(figures, n, effective, evidence) {
  if (effective > 0.75 * n) return(NULL)
  by_it <- tell_effective(evidence$r, evidence$estimate$unexplained, effective, n, 1 - evidence$alpha)
  doubtful <- evidence$p < evidence$alpha && by_it$p >= evidence$alpha
  # Of concordant pairs there is no interval by a number of cases.
  if (!evidence$record$products) by_it <- by_it[c("effective", "n")]
  list(new_finding("alike_neighbours", if (doubtful) "serious" else "warning", c(figures, by_it)))
}

#' Cases that have a place, and resemble those near them in both variables
#' @noRd
check_places <- function(sample, evidence) {
  names <- place_columns(sample$more$measured)
  n <- sample_size(sample)
  if (is.null(names) || any(names %in% sample$names) || n < 20L || evidence$estimate$unexplained == 0) return(NULL)
  if (!is.null(sample$more$design) || sample_has_time(sample)) return(NULL)
  places <- sample$more$numbers_at(names, sample$row)
  known <- which(!is.na(places[[1]]) & !is.na(places[[2]]))
  known <- known[even_places(length(known), 1000L)]
  if (length(known) < 0.9 * min(n, 1000L)) return(NULL)
  distances <- place_distances(as.double(places[[1]][known]), as.double(places[[2]][known]))
  if (!(max(distances) > 0)) return(NULL)
  x <- evidence$estimate$x[known]
  y <- evidence$estimate$y[known]
  figures <- list(near_x = nearest_ties(x, distances), near_y = nearest_ties(y, distances), places = unname(names))
  if (!isTRUE(min(figures$near_x, figures$near_y) > 3 / sqrt(length(known)))) return(NULL)
  neighbours_finding(figures, n, effective_places(x, y, distances, n), evidence)
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

is_sorted <- function(v) !is.unsorted(v) || !is.unsorted(-v)

# r of a row with the next, or the mean r with the next five, three standard deviations above what rows in no order have.
resembles_next <- function(v) {
  if (all(v == 0)) return(FALSE)
  near <- self_ties(v, length(v), 5L)
  max(near[1], mean(near) * sqrt(5)) > 3 / sqrt(length(v))
}
