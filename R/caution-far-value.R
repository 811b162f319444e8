#' An outlier in one variable
#' @noRd
caution_far_value <- function() {
  new_caution("far_value",
    place = 15, check = check_far, schemes = c("simple", "design"),
    meaning = "Outlier.",
    evidence = function(f, pair) {
      template(
        "%s of %s (%s far from all others, which run from %s to %s.",
        shown(lapply(f$values, shown, "number", 5), "both"), shown(f$name, "label"),
        joined(
          shown(lapply(f$cases, shown, "case"), "parts", ", "),
          template(if (length(f$values) > 1) ") lie" else ") lies")
        ),
        shown(f$low, "number", 5), shown(f$high, "number", 5)
      )
    },
    advice = function(f, pair) template("Check whether it is correct before interpreting r or a line.")
  )
}

#' One or two values far from all others, whether or not they move r: a mistyped one may pull the line as it likes
#' @noRd
check_far <- function(sample, evidence) {
  if (sample_size(sample) < 10L || length(sample_codes(sample))) return(NULL)
  unlist(lapply(1:2, function(side) {
    values <- sample$columns[[side]]
    if (!is.null(sample$coding[[side]]$one) || sample$variables$level[side] == "ordinal") return(NULL)
    n <- length(values)
    # The three lowest and the three highest, in order; those between are of no account.
    ends <- sort(values, partial = c(1:3, n - 2:0))[c(1:3, n - 2:0)]
    for (k in 1:2) {
      for (low in c(TRUE, FALSE)) {
        out <- if (low) seq_len(k) else 7L - seq_len(k)
        rest <- range(ends[-out])
        gap <- min(abs(outer(ends[out], rest, `-`)))
        if (diff(rest) == 0 || gap <= 1.5 * diff(rest)) next
        at <- which(values %in% ends[out])[seq_len(k)]
        figures <- list(
          name = sample$names[side], cases = sample_cases(sample, at), values = values[at], low = rest[1], high = rest[2]
        )
        return(list(new_finding("far_value", "warning", figures, next_step("draw box"))))
      }
    }
    NULL
  }), recursive = FALSE)
}
