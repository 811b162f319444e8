# Rows of several units over the same times.

# So many units can be left out one at a time; the mean of fewer is looked at as one series.
fewest_units <- 5L

# Times that repeat, told apart by the units.
panel_of <- function(sample, time) {
  read <- read_times(time$values)
  if (is.null(read)) return(NULL)
  unit <- time$unit$values
  known <- !is.na(unit) & !is.na(read$at)
  if (sum(known) < 8L || anyDuplicated(data.frame(unit, read$at)[known, ]) || length(unique(read$at[known])) < 2L) {
    return(NULL)
  }
  times <- sort(unique(read$at[known]))
  labels <- time$values[match(times, read$at)]
  units <- length(unique(unit[known]))
  if (units < fewest_units) {
    mean <- mean_of_units(cbind(sample$x, sample$y)[known, ], unit[known], match(read$at[known], times))
    return(series_of_means(mean, time_grid(labels, time$name), time$unit$name, units))
  }
  list(
    x = sample$x[known], y = sample$y[known], time = read$at[known], unit = unit[known], name_of_units = time$unit$name,
    grid = list(
      step = step_of_times(read$at[known], read$step), season = 1L, sorted = TRUE, gaps = integer(), uneven = FALSE,
      too_short = FALSE, times = times, labels = as.character(labels)
    )
  )
}

#' The mean of some units at each time, none of them counting more where another lacks a time
#' @param place The place of each row's time.
#' @noRd
mean_of_units <- function(columns, unit, place) {
  unit <- match(unit, unique(unit))
  own <- (rowsum(columns, unit) / tabulate(unit))[unit, , drop = FALSE]
  means <- rowsum(columns - own, place) / tabulate(place)
  sweep(means, 2, colMeans(columns), `+`)
}

series_of_means <- function(mean, grid, name_of_units, units) {
  if (!is.null(grid$trouble)) return(NULL)
  list(x = grid$place(mean[, 1]), y = grid$place(mean[, 2]), grid = grid, averaged = units, name_of_units = name_of_units)
}
