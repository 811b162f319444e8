# How sure the figures of a scale are where not everybody answered everything: they come from all pairs of answers, and so
# do their intervals, from the moments that stay when a part of the persons is left out.

#' Persons who answered an item at least
#' @noRd
persons_used <- function(columns) which(rowSums(!is.na(do.call(cbind, columns))) > 0L)

# How many persons share a pair of items, on average.
persons_of_pairs <- function(moments) max(mean(moments$n[upper.tri(moments$n)]), 2)

#' Alpha, omega and each item's r with the rest, with intervals by leaving out parts of the persons, or units
#'
#' @param columns Items with missing answers, over the persons that are used.
#' @param design As from [persons_as_units()], or the design of the cases: `weight`, `unit`, `stratum`.
#' @param about A list: the `alpha`, `omega` and `rest` that the intervals lie about.
#' @return As from [intervals_of_items()]; `NULL` where a part left out leaves too few answers.
#' @references Wolter, K. M. (2007). Introduction to variance estimation (2nd ed.). Springer.
#' @noRd
intervals_of_answers <- function(columns, design, confidence, about, omega = TRUE) {
  group <- split(seq_along(design$unit), list(design$stratum, design$unit), drop = TRUE)
  stratum <- vapply(group, function(rows) design$stratum[rows[1]], 0)
  size <- table(stratum)[as.character(stratum)]
  if (length(group) < 5L || any(size < 2L)) return(NULL)
  weighted <- length(unique(design$weight)) > 1L || length(unique(stratum)) > 1L
  start <- if (omega) item_loadings(item_moments(columns)$covariance)
  figures <- vapply(seq_along(group), function(k) {
    others <- -group[[k]]
    weight <- if (weighted) {
      raised <- ifelse(design$stratum == stratum[k], size[k] / (size[k] - 1), 1) * design$weight
      raised[others]
    }
    covariance <- item_moments(lapply(columns, `[`, others), weight)$covariance
    on_item_scale(
      alpha_of_items(covariance), if (omega) omega_of_items(covariance, start) else 0, item_rest(covariance)
    )
  }, numeric(length(columns) + 2L))
  if (anyNA(figures)) return(NULL)
  share <- as.vector((size - 1) / size)
  off <- figures - t(apply(figures, 1, stats::ave, stratum))
  variance <- as.vector(off^2 %*% share)
  ends_of_items(about, omega, variance, length(group) - length(unique(stratum)), confidence)
}
