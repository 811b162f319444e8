#' Many cases at an end of the scale
#' @noRd
doubt_ends <- function(sample, found) {
  doubts <- lapply(1:2, function(side) {
    v <- sample$columns[[side]]
    if (sample$variables$level[side] != "numeric" || length(v) < 20L || length(unique(v)) < 8L) return(NULL)
    ends <- range(v)
    share <- c(mean(v == ends[1]), mean(v == ends[2]))
    if (max(share) < 0.15) return(NULL)
    at <- which.max(share)
    figures <- list(name = sample$names[side], value = ends[at], share = share[at], end = c("lowest", "highest")[at])
    new_doubt("floor_or_ceiling", "warning", figures, next_step("draw scatter"))
  })
  Filter(Negate(is.null), doubts)
}
