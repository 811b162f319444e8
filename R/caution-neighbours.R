#' Rows that resemble their neighbours in both variables, though neither a time nor a column says why
#' @noRd
doubt_neighbours <- function(sample, found) {
  n <- sample_size(sample)
  if (n < 20L || found$estimate$unexplained == 0 || !is.null(sample$more$design)) return(NULL)
  centred <- function(v) (v - mean(v)) / fitting_unit(v - mean(v))
  x <- centred(found$estimate$x)
  if (!resembles_next(x)) return(NULL)
  y <- centred(found$estimate$y)
  if (!resembles_next(y) || sample_has_time(sample) || !is.null(sample_order(sample))) return(NULL)
  effective <- effective_cases(x, y)
  if (effective > 0.75 * n) return(NULL)
  df <- max(effective - 2, 1)
  doubtful <- found$p < found$alpha && p_two_sided(found$r * sqrt(df / found$estimate$unexplained), df) >= found$alpha
  list(new_doubt("alike_neighbours", if (doubtful) "serious" else "warning", list(
    near_x = self_ties(x, n, 1L), near_y = self_ties(y, n, 1L), n = n, effective = effective
  )))
}

# r of a row with the next, or the mean r with the next five, three standard deviations above what rows in no order have.
resembles_next <- function(v) {
  if (all(v == 0)) return(FALSE)
  near <- self_ties(v, length(v), 5L)
  max(near[1], mean(near) * sqrt(5)) > 3 / sqrt(length(v))
}
