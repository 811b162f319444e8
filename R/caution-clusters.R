#' Cases that come in classes and are alike in them, in both variables: they tell less than as many drawn one by one
#' @noRd
doubt_clusters <- function(sample, found) {
  if (!found$record$moments || found$estimate$unexplained == 0) return(NULL)
  x <- found$estimate$x / fitting_unit(found$estimate$x)
  y <- found$estimate$y / fitting_unit(found$estimate$y)
  for (classes in sample_classes(sample)) {
    told <- clusters_of_sums(group_sums(x - mean(x), y - mean(y), classes$group), classes$name, found)
    if (!is.null(told)) return(list(told))
  }
  NULL
}

#' The same from the sums of the classes, as a database gives them too
#' @param sums As for [r_without_sums()].
#' @noRd
clusters_of_sums <- function(sums, name, found) {
  like <- list(likeness_of_sums(sums[, c(1, 2, 4)]), likeness_of_sums(sums[, c(1, 3, 5)]))
  effect <- 1 + (like[[1]]$size - 1) * like[[1]]$icc * like[[2]]$icc
  if (!isTRUE(effect >= 1.1) || like[[1]]$p > 0.01 || like[[2]]$p > 0.01) return(NULL)
  m <- nrow(sums)
  around <- interval_jackknife(r_without_sums(sums), found$r, found$estimate$unexplained, 1 - found$alpha, m - 1)
  if (is.na(around$ci_low)) return(NULL)
  doubtful <- found$p < found$alpha && around$ci_low < 0 && around$ci_high > 0
  new_doubt("clustered_cases", if (doubtful) "serious" else "warning", list(
    group = name, classes = m, effect = effect, icc_x = like[[1]]$icc, icc_y = like[[2]]$icc, n = sum(sums[, 1]),
    low = around$ci_low, high = around$ci_high
  ))
}
