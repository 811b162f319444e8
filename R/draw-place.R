#' Where a block of text hides the fewest dots
#'
#' Tries a lattice of places in the panel and takes the one whose rectangle, with a margin, holds the fewest dots and
#' the least of the line; among equals the one nearest to an upper corner, then to any edge.
#'
#' @param x,y The dots; `range_x`, `range_y` the limits of the panel.
#' @param width,height The size of the block as shares of the panel.
#' @param line A data frame of `x`, `y`: the drawn line.
#' @param reach A list of `x`, `y`: how far each dot spreads around its middle, as shares of the panel.
#' @return A list: `x`, `y` (of the block's upper left corner, in data units), `hidden` (dots under it).
#' @noRd
find_free_place <- function(x, y, range_x, range_y, width, height, line = NULL, margin = 0.015,
                            reach = list(x = 0, y = 0)) {
  across <- (x - range_x[1]) / diff(range_x)
  up <- (y - range_y[1]) / diff(range_y)
  path <- densify(line, range_x, range_y)
  lefts <- seq(0.01, max(0.01, 0.99 - width), length.out = 21)
  bottoms <- seq(0.01, max(0.01, 0.99 - height), length.out = 21)
  # How many points lie in the rectangle at each pair of a left and a bottom edge.
  inside <- function(a, b, reach = list(x = 0, y = 0)) {
    beside <- outer(a + reach$x, lefts, ">=") & outer(a - reach$x, lefts + width + 2 * margin, "<=")
    above <- outer(b + reach$y, bottoms, ">=") & outer(b - reach$y, bottoms + height + 2 * margin, "<=")
    crossprod(beside, above)
  }
  corner <- outer(pmin(lefts, 1 - lefts - width), 0.5 * (1 - bottoms - height), "+")
  cost <- inside(across + margin, up + margin, reach) + 0.2 * inside(path$x + margin, path$y + margin) + corner / 4
  places <- expand.grid(from = lefts, bottom = bottoms)
  best <- places[which.min(cost), ]
  hidden <- sum(
    across + reach$x > best$from & across - reach$x < best$from + width &
      up + reach$y > best$bottom & up - reach$y < best$bottom + height
  )
  list(
    x = range_x[1] + best$from * diff(range_x), y = range_y[1] + (best$bottom + height) * diff(range_y),
    hidden = hidden
  )
}

densify <- function(line, range_x, range_y, n = 200L) {
  if (is.null(line)) return(data.frame(x = numeric(), y = numeric()))
  at <- seq(min(line$x), max(line$x), length.out = n)
  along <- stats::approx(line$x, line$y, at, ties = "ordered")$y
  data.frame(x = (at - range_x[1]) / diff(range_x), y = (along - range_y[1]) / diff(range_y))
}
