#' A side of a binary variable that is nearly empty
#' @noRd
doubt_rare <- function(sample, found) {
  doubts <- lapply(1:2, function(side) {
    v <- sample$columns[[side]]
    if (sample$variables$level[side] != "binary") return(NULL)
    small <- min(table(v))
    if (small >= 5L && small >= 0.1 * length(v)) return(NULL)
    figures <- list(name = sample$names[side], count = as.integer(small))
    new_doubt("rare_category", if (small < 5L) "warning" else "note", figures)
  })
  Filter(Negate(is.null), doubts)
}
