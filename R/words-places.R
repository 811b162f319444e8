# Where the pairs of a matrix stand in a table of rows and columns.

#' The row of `pairs` that stands in each cell of a table, `NA` where none does
#' @noRd
pair_cells <- function(matrix, down, across) {
  matched <- match(outer(down, across, pair_key), pair_key(matrix$pairs$x, matrix$pairs$y))
  places <- matrix(matched, length(down))
  if (is.null(matrix$rows)) places[upper.tri(places, diag = TRUE)] <- NA
  places
}
