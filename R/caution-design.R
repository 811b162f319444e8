#' A design that was declared, and that these figures do not honour
#' @noRd
doubt_design <- function(sample) {
  if (is.null(sample$more$design)) return(NULL)
  list(new_doubt("design_ignored", "warning", list(), next_step("relate")))
}
