#' A bend that is clear of chance
#' @noRd
doubt_curve <- function(sample, found) {
  if (!found$record$linear || sample_size(sample) < 12L || count_kinds(sample$x) < 4L) return(NULL)
  left <- found$once$left
  test <- bend_test(sample$x, left, 2L)
  if (is.na(test$p)) return(NULL)
  if (test$p >= 0.002) return(doubt_wave(sample$x, left))
  figures <- list(t = test$value, df = test$df, p = test$p, direction = test$direction)
  shapes <- c("linear", if (all(sample$x > 0)) "log", "quadratic")
  list(new_doubt("curved", "warning", figures, next_step("line", shape = shapes)))
}

#' Points that wave about the line, up and down again: powers two to six together
#' @noRd
doubt_wave <- function(x, left) {
  # A wave that matters shows in some thousands as well.
  if (length(x) > 5000L) {
    some <- round(seq(1, length(x), length.out = 5000L))
    x <- x[some]
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
  list(new_doubt("curved", "warning", list(t = f, df = n - 7, p = p, direction = "wave"), next_step("draw scatter")))
}
