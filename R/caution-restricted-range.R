#' A restricted range
#' @noRd
caution_restricted_range <- function() {
  new_caution("restricted_range",
    place = 18, check = check_narrow_range, meaning = "Restricted range.",
    evidence = function(f, pair) {
      template(
        paste(
          "Restricted range: %s runs from %s to %s here, %s of its range of %s; over the whole range r may be",
          "larger."
        ), shown(f$name, "Label"),
        shown(f$low, "number"), shown(f$high, "number"), sprintf("%.0f %%", 100 * f$share), f$range
      )
    },
    advice = function(f, pair) template("Draw conclusions about cases like these only.")
  )
}

#' A small part of the range that the codebook declares: r of the whole range may be larger
#' @noRd
check_narrow_range <- function(sample, evidence) {
  doubts <- lapply(1:2, function(side) {
    declared <- sample$variables$range[side]
    values <- sample$columns[[side]]
    if (is.na(declared) || sample$variables$level[side] == "binary" || length(values) < 20L) return(NULL)
    ends <- parse_range(declared, sample$names[side])
    used <- range(values)
    share <- diff(used) / diff(ends)
    if (share >= .5) return(NULL)
    figures <- list(name = sample$names[side], low = used[1], high = used[2], range = declared, share = share)
    new_finding("restricted_range", "warning", figures)
  })
  Filter(Negate(is.null), doubts)
}
