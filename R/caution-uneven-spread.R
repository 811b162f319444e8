#' Residuals that are spread unequally
#' @noRd
caution_uneven_spread <- function() {
  new_caution("uneven_spread",
    place = 12, check = check_spread, schemes = c("simple", "controlled"),
    meaning = "Heteroscedastic residuals.",
    evidence = function(f, pair) {
      template(
        "Heteroscedastic residuals: the spread of %s about the line changes along %s, %s times as wide %s, %s.",
        shown(pair$y, "label"),
        shown(pair$x, "label"), shown(f$ratio, "number", 2),
        template(if (is.null(f$from_middle)) "in the upper third as in the lower" else "far from its middle as near it"),
        shown(f$p, "p")
      )
    },
    advice = function(f, pair) {
      if (isTRUE(f$dependent)) return(template("p and the interval are approximate."))
      if (isTRUE(f$met)) return(template("The jackknife interval and test allow for it."))
      template(
        "p and the textbook interval are approximate; the jackknife interval allows for it."
      )
    }
  )
}

#' A spread about the line that changes along x
#' @noRd
check_spread <- function(sample, evidence) {
  if (!evidence$record$linear || sample_size(sample) < 20L) return(NULL)
  residuals <- evidence$once$residuals
  if (min(residuals^2) == max(residuals^2) || sum(residuals^2) < 1e-20 * sum(sample$y^2)) return(NULL)
  met <- is_by_jackknife(evidence$interval)
  # Of cases that are alike the jackknife would say nothing of that.
  dependent <- evidence$once$effect > 1
  step <- if (!met && !dependent) next_step("relate", interval = "jackknife")
  finding <- function(...) {
    known <- if (met) list(met = TRUE) else if (dependent) list(dependent = TRUE)
    list(new_finding("uneven_spread", if (met) "note" else "warning", c(list(...), known), step))
  }
  spread_along <- function(score, limit) {
    test <- spread_test(score, residuals)
    if (test$p >= limit || !dependent) return(test)
    test$value <- test$value / evidence$once$effect
    test$p <- stats::pchisq(test$value, 1, lower.tail = FALSE)
    test
  }
  test <- spread_along(sample$x, 0.004)
  if (test$p < 0.004 && max(test$ratio, 1 / test$ratio) >= 1.3) {
    return(finding(value = test$value, p = test$p, ratio = test$ratio))
  }
  # Narrow in the middle and wide at both ends, or the other way round.
  away <- spread_along(abs(sample$x - mean(sample$x)), 0.002)
  if (away$p >= 0.002 || max(away$ratio, 1 / away$ratio) < 1.3) return(NULL)
  finding(value = away$value, p = away$p, ratio = away$ratio, from_middle = TRUE)
}
