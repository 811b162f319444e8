#' One or two values far from all others, whether or not they move r: a mistyped one may pull the line as it likes
#' @noRd
doubt_far <- function(sample, found) {
  if (sample_size(sample) < 10L || length(sample_codes(sample))) return(NULL)
  unlist(lapply(1:2, function(side) {
    values <- sample$columns[[side]]
    if (!is.null(sample$coding[[side]]$one) || sample$variables$level[side] == "ordinal") return(NULL)
    ordered <- sort(values, method = "radix")
    n <- length(ordered)
    for (k in 1:2) {
      ends <- list(
        low = list(far = seq_len(k), rest = (k + 1L):n),
        high = list(far = n - seq_len(k) + 1L, rest = 1L:(n - k))
      )
      for (end in ends) {
        rest <- range(ordered[end$rest])
        gap <- min(abs(outer(ordered[end$far], rest, `-`)))
        if (diff(rest) == 0 || gap <= 1.5 * diff(rest)) next
        at <- which(values %in% ordered[end$far])[seq_len(k)]
        figures <- list(
          name = sample$names[side], cases = sample_cases(sample, at), values = values[at], low = rest[1], high = rest[2]
        )
        return(list(new_doubt("far_value", "warning", figures, next_step("draw box"))))
      }
    }
    NULL
  }), recursive = FALSE)
}
