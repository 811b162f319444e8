#' Two groups of unequal spread
#' @noRd
caution_unequal_spreads <- function() {
  new_caution("unequal_spreads",
    place = 16, check = check_unequal, meaning = "Unequal variances.",
    evidence = function(f, pair) {
      template(
        "Unequal variances: SD %s with n = %s, and %s with n = %s. Welch's test allows for it: t(%s) = %s, %s.",
        shown(f$sd_zero, "number"), shown(f$n_zero, "count"), shown(f$sd_one, "number"), shown(f$n_one, "count"),
        shown(f$df, "decimals", 1), shown(f$t, "statistic"), shown(f$p, "p")
      )
    },
    advice = function(f, pair) template("Report Welch's test."),
    clause = function(f, digits) {
      template(
        "By Welch's test, which allows for unequal variances, it was %s.", shown(f$p, "p")
      )
    },
    clause_from = "warning"
  )
}

#' Two groups of unequal spread and size: the usual test then errs, Welch's does not
#' @noRd
check_unequal <- function(sample, evidence) {
  # The jackknife allows for it already.
  if (!identical(evidence$record$two_valued, 1L) || is_by_jackknife(evidence$interval)) return(NULL)
  e <- evidence$estimate
  ones <- if (two_valued(e$x) && all(e$x %in% 0:1)) e$x else e$y
  v <- if (identical(ones, e$x)) e$y else e$x
  parts <- split(v, ones)
  sizes <- lengths(parts)
  if (any(sizes < 4L)) return(NULL)
  welch <- test_welch(parts)
  if (any(welch$sds == 0)) return(NULL)
  pooled <- sqrt(sum((sizes - 1) * welch$sds^2) / (sum(sizes) - 2) * sum(1 / sizes))
  if (!isTRUE(abs(log(welch$se / pooled)) > log(1.15)) || is.na(welch$p)) return(NULL)
  # Absolute distances from the group's median compared (Brown & Forsythe 1974).
  distances <- unlist(lapply(parts, function(part) abs(part - stats::median(part))))
  if (p_of_r(r_plain(distances, rep(0:1, sizes)), sum(sizes) - 2) > 0.005) return(NULL)
  figures <- list(
    sd_zero = welch$sds[[1]], sd_one = welch$sds[[2]], n_zero = sizes[[1]], n_one = sizes[[2]], t = welch$t,
    df = welch$df, p = welch$p
  )
  list(new_finding(
    "unequal_spreads", if ((welch$p < evidence$alpha) != (evidence$p < evidence$alpha)) "serious" else "warning",
    figures
  ))
}
