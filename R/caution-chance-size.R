#' An association of groups that is mostly what chance puts there
#' @noRd
caution_chance_size <- function() {
  new_caution("chance_size",
    place = 22, check = check_chance_size, of_groups = TRUE,
    meaning = "With so many groups, chance alone makes the estimate large.",
    evidence = function(f, pair) {
      template(
        "%s lies above its own interval: with so many groups for %d cases chance alone makes it about %s.",
        template(f$symbol), f$n, shown(f$expected, "r")
      )
    },
    advice = function(f, pair) template("Report the interval and the figure corrected for chance, or combine groups."),
    clause = function(f, digits) {
      template(
        "With so many groups chance alone makes %s about %s.", template(f$symbol), shown(f$expected, "r", digits)
      )
    },
    clause_from = "warning"
  )
}

#' An estimate above its own interval: what the population's would be is less than what groups of chance give
#' @noRd
check_chance_size <- function(sample, evidence) {
  estimate <- evidence$estimate
  if (!isTRUE(estimate$r > evidence$interval$ci_high)) return(NULL)
  of_eta <- evidence$record$categories == 1L
  expected <- if (of_eta) {
    estimate$division$df / (estimate$n - 1)
  } else {
    estimate$table$df / ((estimate$n - 1) * estimate$table$steps)
  }
  figures <- list(symbol = if (of_eta) "Eta" else "V", n = estimate$n, expected = sqrt(expected))
  list(new_finding("chance_size", "warning", figures))
}
