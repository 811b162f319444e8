# A pair within groups, and what the groups' means take.

#' r of a pair within groups: what is left when each group's means are taken out
#'
#' @param a,b Numbers (or ranks), `group` as long; each of two cases or more counts.
#' @return A list: `r`, `df`, `p`, `by_group` (named, those of five cases or more), `enough`, `group` (of those), or
#'   `NULL` where fewer than two groups are large enough or nothing varies within them.
#' @noRd
relate_within <- function(a, b, group) {
  sizes <- table(group)
  large <- names(sizes)[sizes >= 2L]
  if (length(large) < 2L || !any(sizes >= 5L)) return(NULL)
  enough <- group %in% large
  group <- factor(group[enough], large)
  a <- a[enough]
  b <- b[enough]
  left_a <- a - stats::ave(a, group)
  left_b <- b - stats::ave(b, group)
  nothing <- function(residuals, all) sum(residuals^2) <= 1e-12 * sum((all - mean(all))^2)
  if (nothing(left_a, a) || nothing(left_b, b)) return(NULL)
  r <- clip(sum(left_a * left_b) / sqrt(sum(left_a^2) * sum(left_b^2)))
  df <- sum(enough) - length(large) - 1
  by_group <- vapply(names(sizes)[sizes >= 5L], function(kind) r_or_na(a[group == kind], b[group == kind]), 0)
  list(r = r, df = df, p = p_of_r(r, df), enough = enough, group = group, by_group = by_group)
}

#' The chance of means of groups as far apart as these, were there no groups
#' @noRd
group_share <- function(v, group) {
  within <- sum((v - stats::ave(v, group))^2)
  total <- sum((v - mean(v))^2)
  k <- nlevels(group)
  stats::pbeta(within / total, (length(v) - k) / 2, (k - 1) / 2)
}

clip <- function(r) pmax(-1 + 1e-12, pmin(1 - 1e-12, r))

r_or_na <- function(a, b) if (min(a) == max(a) || min(b) == max(b)) NA_real_ else r_plain(a, b)

#' Welch's test of two means, without presuming equal spreads
#' @param parts Two double vectors.
#' @return A list: `t`, `df`, `p` (either direction), `se` of the difference, `sds` of the two.
#' @references Welch (1947), Biometrika 34, 28-35.
#' @noRd
test_welch <- function(parts) {
  sds <- vapply(parts, function(part) measure_spread(part)$sd, 0)
  shares <- sds^2 / lengths(parts)
  se <- sqrt(sum(shares))
  t <- (mean(parts[[2]]) - mean(parts[[1]])) / se
  df <- sum(shares)^2 / sum(shares^2 / (lengths(parts) - 1))
  list(t = t, df = df, p = p_two_sided(t, df), se = se, sds = sds)
}
