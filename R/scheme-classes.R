# Cases that come in classes which nobody declared and are alike in them: the interval and test over the classes.

#' The classes in which the cases of a pair are alike in both variables, and what they make of r
#'
#' Of classes within classes the larger; of two kinds that cross, such as regions and years, both (Cameron, Gelbach and
#' Miller 2011).
#' @param evidence A list: the coefficient's `record`, the `estimate`, `r`, `alpha`.
#' @return Figures: `group`, `classes`, `effect` (how many cases are worth one independent one), `icc_x`, `icc_y`, `n`,
#'   `low`, `high`, `p`, `df`, `value`; `by_values` where a measure's own values mark the classes; `across` and
#'   `classes_across` of a second kind; or `NULL`.
#' @noRd
clusters_of_sample <- function(sample, evidence) {
  if (!evidence$record$moments || evidence$estimate$unexplained == 0) return(NULL)
  x <- evidence$estimate$x / fitting_unit(evidence$estimate$x)
  y <- evidence$estimate$y / fitting_unit(evidence$estimate$y)
  x <- x - mean(x)
  y <- y - mean(y)
  first <- NULL
  for (classes in sample_classes(sample)) {
    beside <- if (!is.null(first)) crossing(first$group, classes$group) else "crossed"
    if (beside == "within" || !is.null(first) && classes$by_values) next
    found <- figures_of_classes(x, y, classes, sample, evidence)
    if (is.null(found)) next
    if (is.null(first) || beside == "around") first <- found else return(figures_of_both(x, y, first, found, evidence))
  }
  first$figures
}

# Whether the second of two kinds of classes lies within those of the first, around them, or across.
crossing <- function(first, second) {
  pairs <- length(unique(both_classes(first, second)))
  if (pairs == length(unique(second))) "within" else if (pairs == length(unique(first))) "around" else "crossed"
}

# A number for each class of the one in each of the other.
both_classes <- function(first, second) first * (max(second) + 1) + second

#' One kind of classes with its figures, where they tell of likeness
#' @return `classes`, with `figures`.
#' @noRd
figures_of_classes <- function(x, y, classes, sample, evidence) {
  worth <- 1
  sums <- group_sums(x, y, classes$group)
  if (classes$in_time) {
    # Periods are no independent classes where what they have in common goes on from one to the next.
    means <- sums[, 2:3] / sums[, 1]
    # What has the same mean in all periods is not alike in them.
    if (any(apply(abs(means), 2, max) < 1e-9 * c(max(abs(x)), max(abs(y))))) return(NULL)
    worth <- nrow(sums) / effective_cases(centred_scores(means[, 1]), centred_scores(means[, 2]))
  }
  figures <- clusters_of_sums(sums, classes$name, evidence, worth)
  if (is.null(figures)) return(NULL)
  if (classes$by_values) {
    alike <- are_alike_beyond(list(x, y)[sample$names != classes$name], classes, sample)
    if (!alike) return(NULL)
    figures$by_values <- TRUE
  } else if (!classes$in_time && is_made_of(sample, classes$name)) {
    return(NULL)
  }
  c(classes, list(figures = figures))
}

#' Two kinds of classes at once: the variances of z add up, less that of their common parts, with the degrees of freedom of
#' both (Satterthwaite)
#' @noRd
figures_of_both <- function(x, y, first, second, evidence) {
  figures <- first$figures
  single <- spread_of_sums(group_sums(x, y, both_classes(first$group, second$group)))
  parts <- c(figures$variance, second$figures$variance)
  variance <- max(parts, sum(parts) - single, na.rm = TRUE)
  told <- told_by_variance(variance, sum(parts)^2 / sum(parts^2 / c(figures$df, second$figures$df)), evidence)
  figures[names(told)] <- told
  figures$effect <- max(figures$effect, second$figures$effect, variance / single)
  c(figures, list(across = second$name, classes_across = second$figures$classes))
}

# Whether columns are alike within the classes that a measure's values mark, beyond what a straight line on it explains.
are_alike_beyond <- function(columns, classes, sample) {
  marks <- as.double(sample$more$column(classes$name)[sample$row])
  marks <- marks - mean(marks)
  beyond <- function(v) v - sum(marks * v) / sum(marks^2) * marks
  all(vapply(columns, function(v) group_likeness(beyond(v), classes$group)$p < .01, NA))
}

#' The same from the sums of the classes, as a database gives them too
#' @param sums As for [r_without_sums()]; `worth` how many of the classes are worth one independent one.
#' @noRd
clusters_of_sums <- function(sums, name, evidence, worth = 1) {
  like <- list(likeness_of_sums(sums[, c(1, 2, 4)]), likeness_of_sums(sums[, c(1, 3, 5)]))
  effect <- 1 + (like[[1]]$size - 1) * like[[1]]$icc * like[[2]]$icc
  if (!isTRUE(effect >= 1.1) || !isTRUE(max(like[[1]]$p, like[[2]]$p) <= 0.01)) return(NULL)
  m <- nrow(sums)
  if (m < 4L) return(NULL)
  told <- told_by_variance(worth * spread_of_sums(sums), max(1, m / worth - 1), evidence)
  if (is.na(told$low)) return(NULL)
  c(list(
    group = name, classes = m, effect = effect * worth, icc_x = round(like[[1]]$icc, 9), icc_y = round(like[[2]]$icc, 9),
    n = sum(sums[, 1])
  ), told)
}

# What a variance of z and its degrees of freedom make of r.
told_by_variance <- function(variance, df, evidence) {
  around <- interval_from_z(evidence$r, evidence$estimate$unexplained, variance, 1 - evidence$alpha, df)
  value <- fisher_z(evidence$r, evidence$estimate$unexplained) / sqrt(variance)
  list(
    low = around$ci_low, high = around$ci_high, p = p_two_sided(value, df), df = df, value = value, variance = variance
  )
}

# The variance of z by the jackknife over classes.
spread_of_sums <- function(sums) jackknife_variance(z_short_of_one(r_without_sums(sums)))

#' The test and interval over classes, as fields of a relation
#' @param figures From [clusters_of_sample()].
#' @return `NULL` where there are none.
#' @noRd
told_over_classes <- function(figures, expect) {
  if (is.null(figures$p)) return(NULL)
  log_p <- direct_log_p(log_p_two_sided(figures$value, figures$df), sign(figures$value), expect)
  c(new_test("t", figures$value, figures$df, log_p, "clusters"), list(
    ci_low = figures$low, ci_high = figures$high, ci_method = "clusters", z_variance = figures$variance
  ))
}
