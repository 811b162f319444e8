#' A curvilinear relation
#' @noRd
caution_curved <- function() {
  new_caution("curved",
    place = 11, check = check_bend, schemes = c("simple", "controlled"), meaning = "Curvilinear relationship.",
    evidence = function(f, pair) {
      if (f$direction == "wave") {
        return(template(
          "Curvilinear relationship: the points deviate from the line in waves, F(5, %d) = %s, %s.", f$df,
          shown(f$t, "statistic"), shown(f$p, "p")
        ))
      }
      if (!is.finite(f$t)) {
        return(template(
          "Curvilinear relationship: the points bend %s and lie on a curve without scatter.",
          template(f$direction)
        ))
      }
      template(
        "Curvilinear relationship (bending %s): a quadratic term is significant, t(%s) = %s, %s.",
        template(f$direction), shown(f$df, "df"),
        shown(f$t, "statistic"), shown(f$p, "p")
      )
    },
    clause = function(f, digits) {
      template(
        "The relationship is curvilinear; a quadratic term explains %s%% of the variance of %s (%s).",
        shown(round(f$explained, 2), "percent"), if (isTRUE(f$ranks)) template("the ranks of %s", f$name) else f$name,
        shown(f$p, "p")
      )
    }
  )
}

#' A bend that is statistically significant; where there is no clear r, or the curve changes sign among the cases, it
#'   is what there is
#' @noRd
check_bend <- function(sample, evidence) {
  ranks <- evidence$record$resistant && evidence$record$products
  x <- if (ranks) evidence$estimate$x else sample$x
  if (!(evidence$record$linear || ranks) || sample_size(sample) < 12L || count_kinds(x) < 4L) return(NULL)
  y <- if (ranks) evidence$estimate$y else sample$y
  residuals <- if (ranks) as.vector(freed(cbind(y), cbind(1, x - mean(x)))) else evidence$once$residuals
  test <- bend_test(x, residuals, 2L)
  if (is.na(test$p)) return(NULL)
  explained <- 1 - sum(residuals^2) / sum((y - mean(y))^2) / (1 + test$value^2 / test$df)
  if (test$p < 0.002 && is.finite(test$value)) test <- among_dependent(test, evidence$once$effect)
  clear <- evidence$p < evidence$alpha
  if (test$p >= 0.002) return(if (!ranks) check_wave(x, y, residuals, clear, sample$names[2], evidence$once))
  figures <- list(t = test$value, df = test$df, p = test$p, direction = test$direction)
  shapes <- c("linear", if (all(sample$x > 0)) "log", "quadratic")
  step <- if (ranks) next_step("draw scatter") else next_step("line", shape = shapes)
  straight <- clear && !turns_round(x, y)
  # Of ranks a bend within one direction is nothing to tell.
  if (ranks && (straight || explained < 0.1)) return(NULL)
  list(curve_finding(figures, explained, straight, sample$names[2], step, ranks))
}

# The test of a bend by the number of independent cases.
among_dependent <- function(test, effect) {
  if (effect == 1) return(test)
  test$df <- max(1, (test$df + 3) / effect - 3)
  test$value <- test$value / sqrt(effect)
  test$p <- p_two_sided(test$value, test$df)
  test
}

# A parabola that rises and falls among the cases, the one at least a third as far as the other.
turns_round <- function(x, y) {
  z <- (x - mean(x)) / max(abs(x - mean(x)))
  fitted <- qr.coef(qr(outer(z, 0:2, `^`)), y / max(abs(y)))
  ends <- stats::quantile(z, c(.05, .95), names = FALSE) + fitted[2] / (2 * fitted[3])
  isTRUE(ends[1] < 0 && ends[2] > 0 && min(ends^2) >= max(ends^2) / 3)
}

# A tenth of the variance in a curve beside no straight relation is another answer, not a matter of shape.
curve_finding <- function(figures, explained, straight, name, step, ranks = FALSE) {
  hidden <- !straight && explained >= 0.1
  if (hidden) figures <- c(figures, list(explained = explained, name = name), if (ranks) list(ranks = TRUE))
  new_finding("curved", if (hidden) "serious" else "warning", figures, step)
}

#' Points that wave about the line, up and down again: powers two to six together
#' @noRd
check_wave <- function(x, y, residuals, clear, name, once) {
  # A wave that matters shows in some thousands as well.
  if (length(x) > 5000L) {
    some <- round(seq(1, length(x), length.out = 5000L))
    x <- x[some]
    y <- y[some]
    residuals <- residuals[some]
    residuals <- residuals - mean(residuals)
  }
  n <- length(x)
  if (n < 30L || count_kinds(x) < 12L) return(NULL)
  z <- (x - mean(x)) / max(abs(x - mean(x)))
  rest <- sum(freed(cbind(residuals), outer(z, 0:6, `^`))^2)
  f <- (sum(residuals^2) - rest) / 5 / (rest / (n - 7))
  p <- stats::pf(f, 5, n - 7, lower.tail = FALSE)
  if (!isTRUE(p < 2e-5)) return(NULL)
  df <- n / once$effect - 7
  f <- f / once$effect
  p <- if (df >= 1) stats::pf(f, 5, df, lower.tail = FALSE) else 1
  if (p >= 2e-5) return(NULL)
  figures <- list(t = f, df = round(df), p = p, direction = "wave")
  list(curve_finding(figures, 1 - rest / sum((y - mean(y))^2), clear, name, next_step("draw scatter")))
}
