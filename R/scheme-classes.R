# Cases that come in classes which nobody declared and are alike in them: the interval and test over the classes.

#' The classes in which the cases of a pair are alike in both variables, and what they make of r
#'
#' @param evidence A list: the coefficient's `record`, the `estimate`, `r`, `alpha`.
#' @return Figures: `group`, `classes`, `effect` (how many cases are worth one independent one), `icc_x`, `icc_y`, `n`,
#'   `low`, `high`, `p`, `df`, `value`, and `by_values` where a measure's own values mark the classes; or `NULL`.
#' @noRd
clusters_of_sample <- function(sample, evidence) {
  if (!evidence$record$moments || evidence$estimate$unexplained == 0) return(NULL)
  x <- evidence$estimate$x / fitting_unit(evidence$estimate$x)
  y <- evidence$estimate$y / fitting_unit(evidence$estimate$y)
  for (classes in sample_classes(sample)) {
    figures <- clusters_of_sums(group_sums(x - mean(x), y - mean(y), classes$group), classes$name, evidence)
    if (is.null(figures)) next
    if (!classes$by_values && !is_made_of(sample, classes$name)) return(figures)
    if (classes$by_values && are_alike_beyond(list(x, y)[sample$names != classes$name], classes, sample)) {
      return(c(figures, by_values = TRUE))
    }
  }
  NULL
}

# Whether columns are alike within the classes that a measure's values mark, beyond what a straight line on it explains.
are_alike_beyond <- function(columns, classes, sample) {
  marks <- as.double(sample$more$column(classes$name)[sample$row])
  marks <- marks - mean(marks)
  beyond <- function(v) v - sum(marks * v) / sum(marks^2) * marks
  all(vapply(columns, function(v) group_likeness(beyond(v), classes$group)$p < .01, NA))
}

#' The same from the sums of the classes, as a database gives them too
#' @param sums As for [r_without_sums()].
#' @noRd
clusters_of_sums <- function(sums, name, evidence) {
  like <- list(likeness_of_sums(sums[, c(1, 2, 4)]), likeness_of_sums(sums[, c(1, 3, 5)]))
  effect <- 1 + (like[[1]]$size - 1) * like[[1]]$icc * like[[2]]$icc
  if (!isTRUE(effect >= 1.1) || like[[1]]$p > 0.01 || like[[2]]$p > 0.01) return(NULL)
  m <- nrow(sums)
  around <- interval_jackknife(r_without_sums(sums), evidence$r, evidence$estimate$unexplained, 1 - evidence$alpha, m - 1)
  if (is.na(around$ci_low)) return(NULL)
  ends <- atanh(c(around$ci_low, around$ci_high))
  value <- 2 * mean(ends) / diff(ends) * stats::qt(1 - evidence$alpha / 2, m - 1)
  list(
    group = name, classes = m, effect = effect, icc_x = round(like[[1]]$icc, 9), icc_y = round(like[[2]]$icc, 9),
    n = sum(sums[, 1]), low = around$ci_low, high = around$ci_high, p = p_two_sided(value, m - 1), df = m - 1, value = value
  )
}

#' The test and interval over classes, as fields of a relation
#' @param figures From [clusters_of_sample()].
#' @return `NULL` where the classes are too few for an interval.
#' @noRd
told_over_classes <- function(figures, confidence, expect) {
  if (is.null(figures$p) || is_uninformative(figures$low, figures$high)) return(NULL)
  log_p <- direct_log_p(log_p_two_sided(figures$value, figures$df), sign(figures$value), expect)
  # The limits lie on both sides of z by t times its standard error.
  reach <- diff(atanh(c(figures$low, figures$high))) / 2
  c(new_test("t", figures$value, figures$df, log_p, "clusters"), list(
    ci_low = figures$low, ci_high = figures$high, ci_method = "clusters",
    z_variance = (reach / stats::qt((1 + confidence) / 2, figures$df))^2
  ))
}
