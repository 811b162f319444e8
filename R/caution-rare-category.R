#' A side of a binary variable that is nearly empty
#' @noRd
caution_rare_category <- function() {
  new_caution("rare_category",
    place = 23, check = check_rare, always = TRUE, meaning = "One category is rare.",
    evidence = function(f, pair) {
      template(
        "One category of \"%s\" has only %s.", shown(f$name, "heading"), shown(f$count, "cases")
      )
    },
    advice = function(f, pair) template("Interpret r with its interval; it rests on these few cases.")
  )
}

#' A side of a binary variable that is nearly empty
#' @noRd
check_rare <- function(sample, evidence) {
  doubts <- lapply(1:2, function(side) {
    v <- sample$columns[[side]]
    if (sample$variables$level[side] != "binary") return(NULL)
    small <- min(table(v))
    if (small >= 5L && small >= 0.1 * length(v)) return(NULL)
    figures <- list(name = sample$names[side], count = as.integer(small))
    new_finding("rare_category", if (small < 5L) "warning" else "note", figures)
  })
  Filter(Negate(is.null), doubts)
}
