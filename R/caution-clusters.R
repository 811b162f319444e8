#' Cases that come in classes and are alike in them, in both variables: they tell less than as many drawn one by one
#' @noRd
doubt_clusters <- function(sample, found) {
  record <- found$record
  if (!record$moments || found$estimate$unexplained == 0) return(NULL)
  x <- found$estimate$x
  y <- found$estimate$y
  for (classes in sample_classes(sample)) {
    group <- classes$group
    like <- list(group_likeness(x, group), group_likeness(y, group))
    effect <- 1 + (like[[1]]$size - 1) * like[[1]]$icc * like[[2]]$icc
    if (!isTRUE(effect >= 1.1) || like[[1]]$p > 0.01 || like[[2]]$p > 0.01) next
    m <- max(group)
    around <- interval_jackknife(r_without_groups(x, y, group), found$r, found$estimate$unexplained, 1 - found$alpha, m - 1)
    if (is.na(around$ci_low)) next
    doubtful <- found$p < found$alpha && around$ci_low < 0 && around$ci_high > 0
    figures <- list(
      group = classes$name, classes = m, effect = effect, icc_x = like[[1]]$icc, icc_y = like[[2]]$icc, n = length(x),
      low = around$ci_low, high = around$ci_high
    )
    return(list(new_doubt("clustered_cases", if (doubtful) "serious" else "warning", figures)))
  }
  NULL
}
