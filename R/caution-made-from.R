#' A column beside the pair whose groups are made from its values, so that what holds within them says nothing
#' @noRd
caution_made_from <- function() {
  new_caution("made_from",
    place = 9, meaning = "A column of groups is made from the values.",
    evidence = function(f, pair) template(
      "%s looks made from these values, as grades are from points: its groups were not looked into.",
      shown(f$group, "Label")
    )
  )
}
