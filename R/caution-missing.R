#' Many cases left out because a value is missing
#' @noRd
doubt_missing <- function(sample, found) {
  dropped <- sum(sample$dropped[c("x", "y", "both")])
  missing_doubt(dropped, dropped + sample_size(sample))
}

missing_doubt <- function(dropped, all) {
  share <- dropped / all
  if (is.na(share) || share < 0.2) return(NULL)
  step <- next_step("look", pair = FALSE)
  list(new_doubt("many_missing", if (share >= 0.4) "warning" else "note", list(dropped = dropped, all = all), step))
}
