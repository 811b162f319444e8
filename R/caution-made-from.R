#' A column beside the pair whose groups are made from its values, so that what holds within them says nothing
#' @noRd
caution_made_from <- function() {
  new_caution("made_from",
    place = 9, meaning = "A grouping variable is derived from the pair.",
    evidence = function(f, pair) {
      template(
        "%s appears to be derived from these variables, as grades from points; it was not used as a group.",
        shown(f$group, "Label")
      )
    }
  )
}
