# What a sentence tells of a relation whose cases are clustered: the interval and p over classes in place of the textbook's,
# so that no sentence claims what its own interval denies.

# The figures of the caution that cases come in classes, or `NULL`.
clusters_of <- function(result) {
  at <- match("clustered_cases", result$cautions$code)
  if (is.na(at)) NULL else result$cautions$figures[[at]]
}

#' A relation with the interval and p that its sentence tells
#' @noRd
over_classes <- function(result) {
  clusters <- clusters_of(result)
  if (is.null(clusters) || is_uninformative(clusters$low, clusters$high) || is.null(clusters$p)) return(result)
  result$ci_low <- clusters$low
  result$ci_high <- clusters$high
  result$ci_method <- "clusters"
  result$p_method <- "clusters"
  result$statistic <- "t"
  result$p <- switch(result$expect,
    either = clusters$p,
    if (identical(result$direction, result$expect)) clusters$p / 2 else 1 - clusters$p / 2
  )
  result
}

classes_clause <- function(result) {
  clusters <- clusters_of(result)
  say(
    "interval and p by the jackknife over the %d classes (%s) in which the cases are clustered", clusters$classes,
    label_of(result$sample$variables, clusters$group)
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
