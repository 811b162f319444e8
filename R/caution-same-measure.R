#' Both variables one measure: r of 1, the values equal or a linear copy
#' @noRd
doubt_same <- function(sample, found) {
  if (!found$record$one_scale || abs(found$r) < 1 - 1e-12) return(NULL)
  if (!found$record$linear && abs(r_plain(sample$x, sample$y)) < 1 - 1e-12) return(NULL)
  equal <- isTRUE(all.equal(sample$x, sample$y, tolerance = 1e-12))
  list(new_doubt("same_measure", "serious", list(equal = equal)))
}
