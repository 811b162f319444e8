# Tables as they come in R, as data frames whose columns are vectors.

#' A data frame from a matrix, from a list of columns as long as one another, or itself
#' @return `NULL` where it can be none.
#' @noRd
as_table <- function(data) {
  if (is.data.frame(data)) return(as.data.frame(data))
  if (is.matrix(data) && (is.numeric(data) || is.character(data) || is.logical(data))) {
    return(as.data.frame(data, stringsAsFactors = FALSE))
  }
  columns <- is.list(data) && !is.object(data) && length(data) > 0L && length(names(data)) == length(data)
  if (columns && all(vapply(data, is.atomic, NA)) && length(unique(lengths(data))) == 1L) {
    return(as.data.frame(data, check.names = FALSE, stringsAsFactors = FALSE))
  }
  NULL
}

#' Columns that are matrices, as `scale()` makes them, or data frames, as a column each; times in parts as one value
#' @noRd
with_flat_columns <- function(data) {
  wide <- vapply(data, function(column) length(dim(column)) == 2L, NA)
  parted <- vapply(data, inherits, NA, "POSIXlt")
  if (!any(wide | parted)) return(data)
  data[parted] <- lapply(data[parted], as.POSIXct)
  flat <- lapply(names(data), function(name) {
    column <- data[[name]]
    if (length(dim(column)) != 2L) return(stats::setNames(list(column), name))
    if (ncol(column) == 1L) return(stats::setNames(list(as.vector(column[, 1])), name))
    under <- or_default(colnames(column), seq_len(ncol(column)))
    parts <- lapply(seq_len(ncol(column)), function(k) if (is.data.frame(column)) column[[k]] else column[, k])
    stats::setNames(parts, paste(name, under, sep = "."))
  })
  list2DF(do.call(c, flat), nrow(data))
}
