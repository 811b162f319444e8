# What lies between groups and what lies within them: r of the groups' means, r about them, and how alike the cases of a
# group are, each with the interval that leaving out one group at a time gives.

#' @param x,y Double vectors; `group` whole numbers from 1 on, each of two cases or more; `weight` of each case.
#' @return A list: `levels` (a data frame: `level`, `r`, `n`, `ci_low`, `ci_high`, `df`, `p`), `likeness` (a data
#'   frame: `side`,
#'   `icc`, `ci_low`, `ci_high`).
#' @references Snijders, T. A. B., & Bosker, R. J. (2012). Multilevel analysis, chapter 3; Fisher (1925) for the intraclass
#'   correlation of an analysis of variance.
#' @noRd
measure_between <- function(x, y, group, confidence, weight = rep(1, length(x))) {
  m <- max(group)
  x <- x / fitting_unit(x)
  y <- y / fitting_unit(y)
  sums <- group_sums(x - mean(x), y - mean(y), group, weight / mean(weight))
  kinds <- list(all = r_of_all, between = r_of_means, within = r_within)
  rows <- lapply(names(kinds), function(kind) {
    r <- kinds[[kind]](sums)
    replicates <- vapply(seq_len(m), function(k) kinds[[kind]](sums[-k, , drop = FALSE]), 0)
    df <- m - if (kind == "between") 2 else 1
    around <- interval_jackknife(replicates, r, (1 - r) * (1 + r), confidence, df)
    z <- atanh(clip(replicates))
    value <- atanh(clip(r)) / sqrt(jackknife_variance(z))
    data.frame(
      level = kind, r = r, n = if (kind == "between") m else length(x), ci_low = around$ci_low, ci_high = around$ci_high,
      df = df, p = if (is.finite(value) && df > 0) p_two_sided(value, df) else NA_real_
    )
  })
  likeness <- lapply(list(x = c(2L, 4L), y = c(3L, 5L)), function(of) {
    sums_of_one <- sums[, c(1L, of)]
    icc <- max(0, icc_of_sums(sums_of_one))
    data.frame(icc = icc, icc_interval(sums_of_one, icc, confidence))
  })
  list(levels = do.call(rbind, rows), likeness = cbind(side = c("x", "y"), do.call(rbind, likeness)))
}

r_of_parts <- function(xx, yy, xy) if (xx > 0 && yy > 0) clip(xy / (sqrt(xx) * sqrt(yy))) else NA_real_

r_of_all <- function(sums) {
  t <- colSums(sums)
  r_of_parts(t[4] - t[2]^2 / t[1], t[5] - t[3]^2 / t[1], t[6] - t[2] * t[3] / t[1])
}

# Each group's mean counts once, however many cases it has.
r_of_means <- function(sums) {
  a <- sums[, 2] / sums[, 1]
  b <- sums[, 3] / sums[, 1]
  a <- a - mean(a)
  b <- b - mean(b)
  r_of_parts(sum(a^2), sum(b^2), sum(a * b))
}

r_within <- function(sums) {
  r_of_parts(
    sum(sums[, 4] - sums[, 2]^2 / sums[, 1]), sum(sums[, 5] - sums[, 3]^2 / sums[, 1]),
    sum(sums[, 6] - sums[, 2] * sums[, 3] / sums[, 1])
  )
}

#' The intraclass correlation of an analysis of variance, from n, sums and sums of squares of each group
#' @noRd
icc_of_sums <- function(sums) variance_of_sums(sums)$icc

#' The interval of an intraclass correlation: the jackknife of the logarithm of F, corrected for its bias
#'
#' F is that of the groups' means, each counting once, so that groups of unequal size are allowed for (Thomas & Hultquist
#' 1978); its logarithm is nearly symmetric (Arvesen & Layard 1975).
#' @noRd
icc_interval <- function(sums, icc, confidence) {
  m <- nrow(sums)
  ratio <- log_f_of_means(sums)
  replicates <- vapply(seq_len(m), function(k) log_f_of_means(sums[-k, , drop = FALSE]), 0)
  middle <- ratio - (m - 1) * (mean(replicates) - ratio)
  if (!is.finite(middle)) return(data.frame(ci_low = NA_real_, ci_high = NA_real_))
  half <- stats::qt((1 + confidence) / 2, m - 1) * sqrt(jackknife_variance(replicates))
  f <- exp(middle + c(-half, half))
  ends <- pmin(1, pmax(0, (f - 1) / (f - 1 + usual_size(sums))))
  data.frame(ci_low = min(ends[1], icc), ci_high = max(ends[2], icc))
}

usual_size <- function(sums) 1 / mean(1 / sums[, 1])

log_f_of_means <- function(sums) {
  within <- sum(sums[, 3] - sums[, 2]^2 / sums[, 1]) / (sum(sums[, 1]) - nrow(sums))
  log(usual_size(sums) * stats::var(sums[, 2] / sums[, 1]) / within)
}
