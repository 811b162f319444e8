# Totals that are not plain sums: cut off at a cap, rounded with unequal weights, or made of the best of several parts.

#' Whether one column is a total that another takes part in
#'
#' As [find_sum()], also where the total is cut off at its largest or smallest value, and where it is the sum of the best of
#' several parts.
#' @return `NULL`, or a list: `weights` of the part (first, nameless) and of the others; `exact`; `best`, how many count, or
#'   nothing.
#' @noRd
find_total <- function(whole, part, others) {
  sum <- find_sum(whole, part, others)
  if (!is.null(sum)) return(sum)
  inside <- which(!at_cap(whole))
  if (length(inside) < length(whole) && length(inside) >= 20L + length(others)) {
    sum <- find_sum(whole[inside], part[inside], lapply(others, `[`, inside))
    if (!is.null(sum)) return(sum)
  }
  find_best_of(whole, part, others)
}

# Values that several share at an end of the column.
at_cap <- function(values) {
  ends <- range(values)
  counts <- c(sum(values == ends[1]), sum(values == ends[2]))
  values %in% ends[counts >= 3L]
}

#' A total of the best of several parts
#' @noRd
find_best_of <- function(whole, part, others) {
  if (length(whole) < 25L || length(others) < 2L || count_distinct(whole) < 8L) return(NULL)
  near <- vapply(others, function(v) abs(r_plain(whole, v)), 0)
  own <- abs(r_plain(whole, part))
  if (is.na(own) || own < .3) return(NULL)
  like <- names(utils::head(sort(near[!is.na(near) & near > .3], decreasing = TRUE), 6L))
  for (size in 2:5) {
    if (length(like) < size) break
    for (set in utils::combn(like, size, simplify = FALSE)) {
      parts <- cbind(part, do.call(cbind, others[set]))
      sorted <- matrix(parts[order(row(parts), -parts)], nrow(parts), byrow = TRUE)
      for (best in seq(size, max(2L, size - 1L))) {
        total <- rowSums(sorted[, seq_len(best), drop = FALSE])
        if (!is_made_linearly(whole, total)) next
        weights <- stats::setNames(rep(1, size + 1L), c("", set))
        return(list(weights = weights, exact = FALSE, best = best))
      }
    }
  }
}

# Equal but for a linear change and the digits that it is written with.
is_made_linearly <- function(whole, total) {
  r <- r_plain(whole, total)
  if (is.na(r) || r < .999) return(FALSE)
  slope <- sum((total - mean(total)) * (whole - mean(whole))) / sum((total - mean(total))^2)
  residuals <- whole - mean(whole) - slope * (total - mean(total))
  exact <- sum(residuals^2) < 1e-18 * sum((whole - mean(whole))^2)
  unit <- unit_written(whole)
  exact || unit > 0 && stats::sd(whole) >= 5 * unit && max(abs(residuals)) <= .7 * unit
}
