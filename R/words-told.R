# How the interval and p of a result were found where its cases are not independent, or where several sets were pooled.

#' How the interval and p of a sentence were found where the cases are not independent; else nothing
#' @param whole Whether in a sentence of its own, for a reader without statistics.
#' @noRd
dependence_clause <- function(result, whole = FALSE) {
  if (identical(result$ci_method, "clusters")) {
    figures <- result$cautions$figures[[match("clustered_cases", result$cautions$code)]]
    group <- label_of(result$sample$variables, figures$group)
    if (!is.null(figures$across)) {
      return(say(
        if (whole) {
          "Interval and p allow for the %d classes (%s) and %d classes (%s) in which the cases are clustered."
        } else {
          "interval and p by the jackknife over the %d classes (%s) and %d classes (%s) in which the cases are clustered"
        },
        figures$classes, group, figures$classes_across, label_of(result$sample$variables, figures$across)
      ))
    }
    return(say(
      if (whole) {
        "Interval and p allow for the %d classes (%s) in which the cases are clustered."
      } else {
        "interval and p by the jackknife over the %d classes (%s) in which the cases are clustered"
      },
      figures$classes, group
    ))
  }
  if (!identical(result$ci_method, "effective size")) return(NULL)
  effective <- format_count(effective_of(list(effective = result$n_effective)))
  if (!whole) return(say("interval and p by the effective sample size of %s (autocorrelation)", effective))
  say(
    "Interval and p allow for autocorrelation: %s cases have an effective sample size of %s.", format_count(result$n),
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
