# One column of numbers by itself.

summary_figures <- function(values) {
  n <- length(values)
  spread <- describe_column(values)
  ordered <- sort(values, method = "radix")
  quarters <- quantiles_of_sorted(ordered, c(0, .25, .5, .75, 1))
  # About the mean first: of values far from zero the mean itself is rounded.
  skewness <- if (n > 2 && spread$sd > 0) skewness_k(power_sums(values - spread$mean), n) else NA_real_
  list(
    mean = spread$mean, sd = spread$sd, min = quarters[1], q1 = quarters[2], median = quarters[3], q3 = quarters[4],
    max = quarters[5], skewness = skewness, distinct = sum(ordered[-1] != ordered[-n]) + 1L, outliers = count_far(ordered)
  )
}

#' The same of values that each stand for many cases
#' @param values Sorted, each once; `counts` of the cases.
#' @noRd
summary_of_counts <- function(values, counts) {
  n <- sum(counts)
  mean <- values[1] + sum((values - values[1]) * counts) / n
  d <- values - mean
  d <- d - sum(counts * d) / n # of values far from zero the mean itself is rounded
  squares <- sum(counts * d^2)
  up_to <- cumsum(counts)
  value_at <- function(places) values[findInterval(places - 0.5, up_to) + 1L]
  places <- (n - 1) * c(0, .25, .5, .75, 1) + 1
  low <- floor(places)
  quarters <- (1 - (places - low)) * value_at(low) + (places - low) * value_at(pmin(low + 1, n))
  width <- quarters[4] - quarters[2]
  beyond <- if (width == 0) {
    values != quarters[2]
  } else {
    (quarters[2] - values) / width > 1.5 | (values - quarters[4]) / width > 1.5
  }
  list(
    mean = mean, sd = if (n > 1) sqrt(squares / (n - 1)) else NA_real_, min = quarters[1], q1 = quarters[2],
    median = quarters[3], q3 = quarters[4], max = quarters[5],
    skewness = if (n > 2 && squares > 0) skewness_k(list(squares = squares, cubes = sum(counts * d^3)), n) else NA_real_,
    distinct = length(values), outliers = if (n < 4) 0 else sum(counts[beyond])
  )
}

# The values themselves or a way between neighbours: n - 1 steps from the least to the largest.
quantiles_of_sorted <- function(ordered, shares) {
  place <- (length(ordered) - 1) * shares + 1
  low <- floor(place + 4 * .Machine$double.eps)
  part <- place - low
  part[abs(part) < 4 * .Machine$double.eps] <- 0
  high <- pmin(low + 1, length(ordered))
  ifelse(part == 0, ordered[low], (1 - part) * ordered[low] + part * ordered[high])
}

#' How many sorted values lie far out, as [far_out()] has it
#' @noRd
count_far <- function(ordered) {
  n <- length(ordered)
  if (n < 4L) return(0L)
  quarters <- quantiles_of_sorted(ordered, c(.25, .75))
  width <- quarters[2] - quarters[1]
  if (width == 0) return(as.integer(sum(ordered != quarters[1])))
  as.integer(sum((quarters[1] - ordered) / width > 1.5) + sum((ordered - quarters[2]) / width > 1.5))
}

#' Which values lie more than one and a half times the middle half beyond it, and how many times
#' @references Tukey (1977), Exploratory Data Analysis.
#' @noRd
far_out <- function(values) {
  if (length(values) < 4L) return(list(far = logical(length(values)), distance = numeric(length(values))))
  quarters <- quantiles_of_sorted(sort(values, method = "radix"), c(.25, .75))
  width <- diff(quarters)
  beyond <- pmax(values - quarters[2], 0) + pmin(values - quarters[1], 0)
  distance <- if (width > 0) beyond / width else ifelse(beyond == 0, 0, sign(beyond) * Inf)
  list(far = abs(distance) > 1.5, distance = distance)
}

#' Sorted values against the quantiles of a normal distribution, with the band of 95 of 100 points
#' @references Blom (1958); order statistics: David & Nagaraja (2003).
#' @noRd
normal_quantiles <- function(values) {
  n <- length(values)
  spread <- measure_spread(values)
  i <- seq_len(n)
  place <- function(p) spread$mean + spread$sd * stats::qnorm(p)
  share <- (i - 0.375) / (n + 0.25)
  data.frame(
    normal = stats::qnorm(share), value = sort(values), line = place(share),
    low = place(stats::qbeta(.025, i, n + 1 - i)), high = place(stats::qbeta(.975, i, n + 1 - i))
  )
}

#' Values in standard deviations from their mean
#' @noRd
standard_scores <- function(values) {
  spread <- measure_spread(values)
  (values - spread$mean) / spread$sd
}
