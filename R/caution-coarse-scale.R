#' A scale of few values, taken for a measurement
#' @noRd
caution_coarse_scale <- function() {
  new_caution("coarse_scale",
    place = 22, check = check_coarse, schemes = c("simple", "design"), always = TRUE,
    meaning = "Few distinct values.",
    evidence = function(f, pair) template("%s takes only %d values.", shown(f$name, "Label"), f$values)
  )
}

#' A scale of few values, taken for a measurement
#' @noRd
check_coarse <- function(sample, evidence) {
  if (!evidence$record$linear) return(NULL)
  few <- vapply(sample$columns, count_kinds, 0L)
  step <- next_step("relate", coefficient = resistant_record()$name)
  # Two groups as x are no scale: the slope is their difference.
  groups <- c(!is.null(sample$coding[[1]]$one), FALSE)
  lapply(which(unname(few) <= 5L & !groups), function(side) {
    new_finding("coarse_scale", "note", list(name = sample$names[side], values = few[[side]]), step)
  })
}
