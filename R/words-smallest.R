# What is said of the smallest correlation that matters.

smallest_sentence <- function(result, digits = 2) {
  if (is.null(result$smallest) || is.na(result$smallest_verdict)) return(NULL)
  size <- format_r(result$smallest, digits)
  inner <- say(
    "%s%% CI %s", percent(result$smallest_confidence),
    format_interval(result$smallest_low, result$smallest_high, max(2, digits))
  )
  significant <- is_below(result$p, result$tested_at)
  switch(result$smallest_verdict,
    larger = say("The correlation exceeded %s in size, the smallest that matters.", size),
    smaller = if (significant) {
      say(
        paste(
          "Although significant, the correlation was smaller in size than %s, the smallest that matters",
          "(two one-sided tests, %s)."
        ), size, inner
      )
    } else {
      say(
        "The correlation was smaller in size than %s, the smallest that matters (two one-sided tests, %s).", size, inner
      )
    },
    uncertain = say(
      "Whether the correlation exceeds %s, the smallest that matters, remains open (two one-sided tests, %s).", size, inner
    ),
    inconclusive = say(
      "The data are inconclusive: neither zero nor a size of %s, the smallest that matters, is ruled out (%s).", size, inner
    )
  )
}

#' The verdict beside the estimate
#' @noRd
smallest_clause <- function(x) {
  if (is.null(x$smallest)) return(NULL)
  if (is.na(x$smallest_verdict)) return(say("%s: no verdict without an interval", format_r(x$smallest)))
  verdict <- switch(x$smallest_verdict,
    larger = say("r is larger in size"),
    smaller = say("r is smaller in size"),
    uncertain = say("r may be smaller or larger in size"),
    inconclusive = say("r may be zero, smaller or larger in size")
  )
  say(
    "%s: %s; two one-sided tests at the %s%% level, %s%% interval %s", format_r(x$smallest), verdict,
    percent(alpha_of(x$tested_at)), percent(x$smallest_confidence), format_interval(x$smallest_low, x$smallest_high)
  )
}

#' The verdict on a difference of two correlations
#' @noRd
smallest_difference_sentence <- function(result, digits = 2) {
  if (is.null(result$smallest) || is.na(result$smallest_verdict)) return(NULL)
  size <- format_r(result$smallest, digits)
  inner <- say(
    "%s%% CI %s", percent(result$smallest_confidence), format_interval(result$smallest_low, result$smallest_high, digits)
  )
  switch(result$smallest_verdict,
    larger = say("The difference exceeded %s in size, the smallest that matters.", size),
    smaller = say(
      "The difference was smaller in size than %s, the smallest that matters (two one-sided tests, %s).", size, inner
    ),
    uncertain = say(
      "Whether the difference exceeds %s, the smallest that matters, remains open (two one-sided tests, %s).", size, inner
    ),
    inconclusive = say(
      "The data are inconclusive: neither no difference nor one of %s, the smallest that matters, is ruled out (%s).", size,
      inner
    )
  )
}
