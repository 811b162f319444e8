# What is reported of a relation whose cases are not independent: the interval and p over classes, or by the effective number
# of times, rows or places, in place of the textbook's, so that no sentence claims what its own interval denies.

# The figures of a caution that a result has, or `NULL`.
figures_of <- function(result, code) {
  at <- match(code, result$cautions$code)
  if (is.na(at)) NULL else result$cautions$figures[[at]]
}

# The cautions that bring an interval and a p, and the way each is found.
dependent_cases <- c(
  clustered_cases = "clusters", shared_trend = "effective size", serial_dependence = "effective size",
  alike_neighbours = "effective size"
)

#' The interval and p that stand in place of the textbook's
#' @return `NULL`, or the figures of the caution: `low`, `high`, `p`, `df`, `value`, and `method`.
#' @noRd
dependence_of <- function(result) {
  for (code in names(dependent_cases)) {
    figures <- figures_of(result, code)
    clusters <- code == "clustered_cases"
    if (is.null(figures$low) || is.null(figures$p) || clusters && is_uninformative(figures$low, figures$high)) next
    # An interval that allows for more stays.
    if (!clusters && isTRUE(result$ci_high - result$ci_low > figures$high - figures$low)) next
    return(c(figures, method = dependent_cases[[code]]))
  }
  NULL
}

#' A relation with the interval and p that its sentence reports; `dependence` holds where they are from, `independent` what
#' they stand for
#' @noRd
as_reported <- function(result) {
  if (!is.null(result$dependence)) return(result)
  figures <- dependence_of(result)
  if (is.null(figures)) return(result)
  result$dependence <- figures
  result$independent <- result[c("ci_low", "ci_high", "p")]
  result[c("ci_low", "ci_high", "df", "value")] <- figures[c("low", "high", "df", "value")]
  result$ci_method <- result$p_method <- figures$method
  result$statistic <- "t"
  result$p <- switch(result$expect,
    either = figures$p,
    if (identical(result$direction, result$expect)) figures$p / 2 else 1 - figures$p / 2
  )
  result
}

# The same as fields of a document; nothing where the cases are independent.
reported_fields <- function(result) {
  reported <- as_reported(result)
  if (is.null(reported$dependence)) return(NULL)
  c(unclass(reported)[c("ci_low", "ci_high", "p", "df")], list(method = reported$ci_method))
}

#' How the interval and p of a sentence were found where the cases are not independent; else nothing
#' @param whole Whether in a sentence of its own, for a reader without statistics.
#' @noRd
dependence_clause <- function(result, whole = FALSE) {
  figures <- result$dependence
  if (is.null(figures)) return(NULL)
  if (figures$method == "clusters") return(say(
    if (whole) {
      "Interval and p allow for the %d classes (%s) in which the cases are clustered."
    } else {
      "interval and p by the jackknife over the %d classes (%s) in which the cases are clustered"
    },
    figures$classes, label_of(result$sample$variables, figures$group)
  ))
  effective <- format_count(effective_of(figures))
  if (!whole) return(say("interval and p by the effective sample size of %s (autocorrelation)", effective))
  say(
    "Interval and p allow for autocorrelation: %s cases have an effective sample size of %s.", format_count(figures$n),
    effective
  )
}

#' How many sets a result was pooled over, where there were several
#' @noRd
sets_sentence <- function(x) {
  if (is.null(x$sets)) return(NULL)
  if (x$imputed) return(say("Estimates are pooled over %d completed data sets by Rubin's rules.", as.integer(x$sets)))
  say("Estimates are pooled over %d plausible values by Rubin's rules.", as.integer(x$sets))
}

sets_fields <- function(x) unclass(x)[intersect(c("sets", "imputed"), names(x))]
