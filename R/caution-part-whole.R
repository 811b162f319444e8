#' Whole and part: one variable an exact sum or mean that contains the other
#'
#' Freed of the study's other variables the two are one and the same; without each other they are not given by those.
#' @noRd
doubt_part <- function(sample, found) {
  if (!is.na(found$record$two_valued)) return(NULL)
  others <- sample_others(sample)
  if (!length(others)) return(NULL)
  columns <- do.call(cbind, others)
  kept <- which(rowSums(is.na(columns)) == 0)
  if (length(kept) < ncol(columns) + 8L) return(NULL)
  kept <- kept[seq_len(min(length(kept), 4L * ncol(columns) + 60L))]
  columns <- cbind(1, columns[kept, , drop = FALSE])
  # The others are of the first cases.
  x <- sample$x[kept]
  y <- sample$y[kept]
  left <- freed(cbind(x, y), columns)
  squares <- colSums(left^2)
  sizes <- c(sum((x - mean(x))^2), sum((y - mean(y))^2))
  if (!all(squares > 1e-12 * sizes)) return(NULL)
  if (sum(freed(left[, 1, drop = FALSE], left[, 2, drop = FALSE])^2) >= 1e-18 * sizes[1]) return(NULL)
  # A mean holds its part with a weight below 1; of a sum, where both weights are 1, the whole varies more.
  weight <- abs(sum(left[, 1] * left[, 2]) / squares[2])
  x_is_whole <- if (abs(weight - 1) < 1e-6) sizes[1] > sizes[2] else weight < 1
  names <- if (x_is_whole) sample$names else rev(sample$names)
  list(new_doubt("part_whole", "serious", list(whole = names[1], part = names[2])))
}
