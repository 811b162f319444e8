#' Groups without an order that hold few cases
#' @noRd
caution_small_groups <- function() {
  new_caution("small_groups",
    place = 23, check = check_small_groups, of_groups = TRUE, meaning = "Small groups.",
    evidence = function(f, pair) {
      template(
        "Small groups: fewer than five cases each in %d of the %d groups of %s (%s).", f$small, f$groups,
        shown(f$name, "label"), shown(f$which, "several", f$groups)
      )
    },
    advice = function(f, pair) template("Combine related groups, or select the larger ones with where.")
  )
}

#' Groups of fewer than five cases
#' @noRd
check_small_groups <- function(sample, evidence) {
  findings <- lapply(1:2, function(side) {
    if (sample$variables$level[side] != "nominal") return(NULL)
    groups <- groups_of_column(sample$columns[[side]], sample$coding[[side]], sample$names[side])
    small <- which(tabulate(groups$code) < 5L)
    if (!length(small)) return(NULL)
    new_finding("small_groups", "note", list(
      name = sample$names[side], groups = length(groups$kinds), small = length(small), which = groups$kinds[small]
    ))
  })
  Filter(Negate(is.null), findings)
}
