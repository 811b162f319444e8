#' A bend that is clear of chance; where there is no clear r, or the curve turns round among the cases, it is what there is
#' @noRd
doubt_curve <- function(sample, found) {
  ranks <- found$record$resistant && found$record$products
  x <- if (ranks) found$estimate$x else sample$x
  if (!(found$record$linear || ranks) || sample_size(sample) < 12L || count_kinds(x) < 4L) return(NULL)
  y <- if (ranks) found$estimate$y else sample$y
  left <- if (ranks) as.vector(freed(cbind(y), cbind(1, x - mean(x)))) else found$once$left
  test <- bend_test(x, left, 2L)
  if (is.na(test$p)) return(NULL)
  clear <- found$p < found$alpha
  name <- if (ranks) say("the ranks of %s", sample$names[2]) else sample$names[2]
  if (test$p >= 0.002) return(if (!ranks) doubt_wave(x, y, left, clear, name))
  explained <- 1 - sum(left^2) / sum((y - mean(y))^2) / (1 + test$value^2 / test$df)
  figures <- list(t = test$value, df = test$df, p = test$p, direction = test$direction)
  shapes <- c("linear", if (all(sample$x > 0)) "log", "quadratic")
  step <- if (ranks) next_step("draw scatter") else next_step("line", shape = shapes)
  straight <- clear && !turns_round(x, y)
  # Of ranks a bend within one direction is nothing to tell.
  if (ranks && (straight || explained < 0.1)) return(NULL)
  list(curve_doubt(figures, explained, straight, name, step))
}

# A parabola that rises and falls among the cases, the one at least a third as far as the other.
turns_round <- function(x, y) {
  z <- (x - mean(x)) / max(abs(x - mean(x)))
  fitted <- qr.coef(qr(outer(z, 0:2, `^`)), y / max(abs(y)))
  ends <- stats::quantile(z, c(.05, .95), names = FALSE) + fitted[2] / (2 * fitted[3])
  isTRUE(ends[1] < 0 && ends[2] > 0 && min(ends^2) >= max(ends^2) / 3)
}

# A tenth of the variance in a curve beside no straight relation is another answer, not a matter of shape.
curve_doubt <- function(figures, explained, straight, name, step) {
  hidden <- !straight && explained >= 0.1
  if (hidden) figures <- c(figures, list(explained = explained, name = name))
  new_doubt("curved", if (hidden) "serious" else "warning", figures, step)
}

#' Points that wave about the line, up and down again: powers two to six together
#' @noRd
doubt_wave <- function(x, y, left, clear, name) {
  # A wave that matters shows in some thousands as well.
  if (length(x) > 5000L) {
    some <- round(seq(1, length(x), length.out = 5000L))
    x <- x[some]
    y <- y[some]
    left <- left[some]
    left <- left - mean(left)
  }
  n <- length(x)
  if (n < 30L || count_kinds(x) < 12L) return(NULL)
  z <- (x - mean(x)) / max(abs(x - mean(x)))
  rest <- sum(freed(cbind(left), outer(z, 0:6, `^`))^2)
  f <- (sum(left^2) - rest) / 5 / (rest / (n - 7))
  p <- stats::pf(f, 5, n - 7, lower.tail = FALSE)
  if (!isTRUE(p < 2e-5)) return(NULL)
  figures <- list(t = f, df = n - 7, p = p, direction = "wave")
  list(curve_doubt(figures, 1 - rest / sum((y - mean(y))^2), clear, name, next_step("draw scatter")))
}
