#' Several groups of unequal spread
#' @noRd
caution_unequal_groups <- function() {
  new_caution("unequal_groups",
    place = 16, check = check_unequal_groups, of_groups = TRUE, meaning = "Unequal variances.",
    evidence = function(f, pair) {
      template(
        "Unequal variances: SD from %s (n = %s) to %s (n = %s). Welch's test allows for it: F(%s) = %s, %s.",
        shown(f$sd_least, "number"), shown(f$n_least, "count"), shown(f$sd_most, "number"), shown(f$n_most, "count"),
        joined(shown(f$df, "count"), ", ", shown(f$df_residual, "decimals", 1)), shown(f$value, "statistic"), shown(f$p, "p")
      )
    },
    advice = function(f, pair) template("Report Welch's test."),
    clause = function(f, digits) {
      template(
        "Welch's test, which allows for unequal spreads, gave F(%s) = %s, %s.",
        joined(shown(f$df, "count"), ", ", shown(f$df_residual, "decimals", 1)), shown(f$value, "statistic"), shown(f$p, "p")
      )
    },
    clause_from = "warning"
  )
}

#' Groups of unequal spread, by Brown and Forsythe's test, whose sizes differ as well or whose Welch test says another thing
#' @references Brown & Forsythe (1974), Journal of the American Statistical Association 69; Welch (1951), Biometrika 38.
#' @noRd
check_unequal_groups <- function(sample, evidence) {
  if (evidence$record$categories != 1L || evidence$estimate$unexplained == 0) return(NULL)
  parts <- split(evidence$estimate$values, evidence$estimate$group)
  sizes <- lengths(parts)
  sds <- vapply(parts, stats::sd, 0)
  if (any(sizes < 4L) || any(sds == 0)) return(NULL)
  distances <- unlist(lapply(parts, function(part) abs(part - stats::median(part))))
  about <- divide_among(distances, rep(seq_along(parts), sizes))
  total <- about$between + about$within
  if (total == 0 || test_f(about$within / total, about$df, about$df_residual)$p > 0.005) return(NULL)
  welch <- test_welch_groups(parts)
  other <- (welch$p < evidence$alpha) != (evidence$p < evidence$alpha)
  if (!other && abs(log10(welch$p) - log10(max(evidence$p, 1e-300))) < 0.3) return(NULL)
  figures <- list(
    sd_least = min(sds), sd_most = max(sds), n_least = sizes[[which.min(sds)]], n_most = sizes[[which.max(sds)]],
    df = welch$df, df_residual = welch$df_residual, value = welch$value, p = welch$p
  )
  list(new_finding("unequal_groups", if (other) "serious" else "warning", figures))
}
