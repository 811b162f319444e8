# What is said of a confounder that nobody measured.

#' @param labels From names to labels inside a sentence.
#' @noRd
unmeasured_sentence <- function(found, digits, labels = identity) {
  if (is.null(found)) return(NULL)
  first <- say(
    "A variable nobody measured would make the correlation non-significant if it correlated at %s with both (product %s)",
    format_r(found$each, digits), format_r(found$impact, digits)
  )
  second <- if (!found$measured) {
    "."
  } else if (found$stronger == 1L) {
    say(
      "; one of the %s variables measured is as strong: %s (%s).", format_count(found$measured),
      labels(found$strongest), format_r(found$strongest_impact, digits)
    )
  } else if (found$stronger) {
    say(
      "; %s of the %s variables measured are as strong, first %s (%s).", format_count(found$stronger),
      format_count(found$measured), labels(found$strongest), format_r(found$strongest_impact, digits)
    )
  } else {
    say(
      "; none of the %s variables measured is as strong (strongest: %s, %s).", format_count(found$measured),
      labels(found$strongest), format_r(found$strongest_impact, digits)
    )
  }
  paste0(first, second, " ", say(
    "So would replacing %s%% of the cases (%s) by cases without a correlation.",
    format_decimals(100 * found$replaced, 0), format_count(found$cases)
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
