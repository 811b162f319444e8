#' A spread about the line that changes along x
#' @noRd
doubt_spread <- function(sample, found) {
  if (!found$record$linear || sample_size(sample) < 20L) return(NULL)
  left <- found$once$left
  if (min(left^2) == max(left^2) || sum(left^2) < 1e-20 * sum(sample$y^2)) return(NULL)
  test <- spread_test(sample$x, left)
  step <- next_step("relate", interval = "jackknife")
  if (test$p < 0.004 && max(test$ratio, 1 / test$ratio) >= 1.3) {
    return(list(new_doubt("uneven_spread", "warning", list(value = test$value, p = test$p, ratio = test$ratio), step)))
  }
  # Narrow in the middle and wide at both ends, or the other way round.
  away <- spread_test(abs(sample$x - mean(sample$x)), left)
  if (away$p >= 0.002 || max(away$ratio, 1 / away$ratio) < 1.3) return(NULL)
  figures <- list(value = away$value, p = away$p, ratio = away$ratio, from_middle = TRUE)
  list(new_doubt("uneven_spread", "warning", figures, step))
}
