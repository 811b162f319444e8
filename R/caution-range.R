#' A small part of the range that the codebook declares: r of the whole range may be larger
#' @noRd
doubt_range <- function(sample, found) {
  doubts <- lapply(1:2, function(side) {
    declared <- sample$variables$range[side]
    values <- sample$columns[[side]]
    if (is.na(declared) || sample$variables$level[side] == "binary" || length(values) < 20L) return(NULL)
    ends <- parse_range(declared, sample$names[side])
    used <- range(values)
    share <- diff(used) / diff(ends)
    if (share >= .5) return(NULL)
    figures <- list(name = sample$names[side], low = used[1], high = used[2], range = declared, share = share)
    new_doubt("restricted_range", "warning", figures)
  })
  Filter(Negate(is.null), doubts)
}
