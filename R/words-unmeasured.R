# What is said of a confounder that nobody measured.

#' @param labels From names to labels inside a sentence.
#' @noRd
unmeasured_sentence <- function(unmeasured, digits, labels = identity) {
  if (is.null(unmeasured)) return(NULL)
  first <- say(
    "A variable nobody measured would make the correlation non-significant if it correlated at %s with both (product %s)",
    format_r(unmeasured$each, digits), format_r(unmeasured$impact, digits)
  )
  second <- if (!unmeasured$measured) {
    "."
  } else if (unmeasured$stronger == 1L) {
    say(
      "; one of the %s variables measured is as strong: %s (%s).", format_count(unmeasured$measured),
      labels(unmeasured$strongest), format_r(unmeasured$strongest_impact, digits)
    )
  } else if (unmeasured$stronger) {
    say(
      "; %s of the %s variables measured are as strong, first %s (%s).", format_count(unmeasured$stronger),
      format_count(unmeasured$measured), labels(unmeasured$strongest), format_r(unmeasured$strongest_impact, digits)
    )
  } else {
    say(
      "; none of the %s variables measured is as strong (strongest: %s, %s).", format_count(unmeasured$measured),
      labels(unmeasured$strongest), format_r(unmeasured$strongest_impact, digits)
    )
  }
  paste0(first, second, " ", say(
    "So would replacing %s%% of the cases (%s) by cases without a correlation.",
    format_decimals(100 * unmeasured$replaced, 0), format_count(unmeasured$cases)
  ))
}

unmeasured_of_relation <- function(result, digits = 2) {
  if (is.null(result$unmeasured)) return(NULL)
  labels <- result$sample$more$labels_of
  unmeasured_sentence(result$unmeasured, digits, function(name) {
    label <- labels(name)
    if (length(label)) small_inside(unname(label), FALSE) else name
  })
}
