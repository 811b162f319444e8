# Two r of the same cases with one variable in common, the sizes compared, under the scheme of the cases.

comparison_fields <- c("difference", "ci_low", "ci_high", "statistic", "value", "df", "p")

#' @param a,b Evidence of two predictors of one outcome, the outcome second; `interval` "analytic" for the textbook's alone;
#'   `worth` how many independent cases theirs are worth.
#' @return A list: `difference` of the sizes, `ci_low`, `ci_high`, `statistic`, `value`, `df`, `p`, `spread` (a
#'   function that gives the standard error by the jackknife, or the design).
#' @noRd
compare_sizes <- function(a, b, confidence, interval, worth = a$n) {
  difference <- abs(a$r) - abs(b$r)
  records <- lapply(list(a, b), function(each) coefficient_record(each$estimate$coefficient))
  if (!all(vapply(records, `[[`, NA, "products"))) {
    return(c(difference = difference, no_difference()))
  }
  if (a$scheme == "design") {
    columns <- cbind(a$estimate$x, b$estimate$x, a$estimate$y)
    comparison <- difference_by_design(
      columns, c(1L, 3L), c(2L, 3L), sample_design(a$sample), records[[1]]$resistant, confidence, sign(c(a$r, b$r))
    )
    return(c(difference = difference, comparison[comparison_fields[-1]], spread = function() comparison$spread))
  }
  between <- r_plain(a$estimate$x, b$estimate$x) * sign(a$r) * sign(b$r)
  sizes <- lapply(list(a, b), function(each) {
    # Of cases that are not independent as many count for the limits as for the test.
    if (worth < each$n) return(fisher_limits(abs(each$r), max(worth, 4), confidence))
    ends <- sort(unlist(each$interval[c("ci_low", "ci_high")]) * if (each$r < 0) -1 else 1, na.last = TRUE)
    list(r = abs(each$r), ci_low = ends[[1]], ci_high = ends[[2]])
  })
  tested <- test_williams(sizes[[1]]$r, sizes[[2]]$r, between, max(worth, 4))
  limits <- interval_difference(
    sizes[[1]], sizes[[2]], correlation_of_shared(sizes[[1]]$r, sizes[[2]]$r, between)
  )
  without <- function() {
    replicates <- Map(function(record, each) sign(each$r) * left_out_each(record, each$estimate), records, list(a, b))
    replicates[[1]] - replicates[[2]]
  }
  is_auto <- interval == "auto" && a$n >= least_for_route
  robust <- if (is_auto) robust_difference(difference, without(), tested$error, confidence)
  comparison <- if (is.null(robust)) c(limits, tested) else robust
  c(
    list(difference = difference), comparison[comparison_fields[-1]],
    spread = function() sqrt(jackknife_variance(without()))
  )
}

fisher_limits <- function(r, n, confidence) c(list(r = r), interval_fisher(r, (1 - r) * (1 + r), n, confidence))

no_difference <- function() {
  list(
    ci_low = NA_real_, ci_high = NA_real_, statistic = NA_character_, value = NA_real_, df = NA_real_, p = NA_real_,
    spread = function() NA_real_
  )
}

#' The comparisons of each plausible value combined, with the spread that the jackknife, or the design, gives each
#' @noRd
combine_differences <- function(each, confidence) {
  differences <- vapply(each, `[[`, 0, "difference")
  spreads <- vapply(each, function(of) of$spread(), 0)
  if (anyNA(spreads)) return(c(difference = mean(differences), no_difference()))
  df <- if (identical(each[[1]]$statistic, "t by units")) each[[1]]$df else each[[1]]$df + 1
  combined <- combine_values(differences, spreads^2, df)
  spread <- sqrt(combined$variance)
  tested <- difference_by_jackknife(combined$value, spread, combined$df, confidence)
  list(
    difference = combined$value, ci_low = tested$ci_low, ci_high = tested$ci_high, statistic = "t",
    value = combined$value / spread, df = combined$df, p = tested$p
  )
}

left_out_each <- function(record, estimate) or_default(record$without_each, each_without)(estimate)
