#' A bend that is clear of chance
#' @noRd
doubt_curve <- function(sample, found) {
  if (!found$record$linear || sample_size(sample) < 12L || length(unique(sample$x)) < 4L) return(NULL)
  left <- as.vector(freed(cbind(sample$y), cbind(1, sample$x - mean(sample$x))))
  test <- bend_test(sample$x, left, 2L)
  if (is.na(test$p) || test$p >= 0.002) return(NULL)
  figures <- list(t = test$value, df = test$df, p = test$p, direction = test$direction)
  shapes <- c("linear", if (all(sample$x > 0)) "log", "quadratic")
  list(new_doubt("curved", "warning", figures, next_step("line", shape = shapes)))
}
