# The jackknife: what the data themselves say of how far r may be off, whatever the distribution, and whether cases come in
# classes.

#' The interval of r on the z scale, with the spread that z has when each unit in turn is left out
#'
#' @param replicates r without each unit; `df` of Student's t.
#' @return An interval; `NA` when n < 4 or the points lie on a line.
#' @references Wolter (2007), Introduction to Variance Estimation, chapter 4; Shao & Tu (1995), The Jackknife and Bootstrap.
#' @noRd
interval_jackknife <- function(replicates, r, unexplained, confidence, df = length(replicates) - 2) {
  if (length(replicates) < 4L) return(no_interval())
  variance <- jackknife_variance(z_short_of_one(replicates))
  limits <- interval_from_z(r, unexplained, variance, confidence, df)
  if (is.na(limits$ci_low)) no_interval() else c(limits, ci_method = "jackknife")
}

# Fisher's z of r that may be 1 without a case.
z_short_of_one <- function(r) atanh(pmin(pmax(r, -1 + 1e-15), 1 - 1e-15))

#' The variance of a figure by its values without each case in turn
#' @noRd
jackknife_variance <- function(replicates) {
  replicates <- replicates[!is.na(replicates)]
  (length(replicates) - 1) / length(replicates) * sum((replicates - mean(replicates))^2)
}

#' A difference of two r, tested with the spread that it has when each case in turn is left out
#' @noRd
difference_by_jackknife <- function(difference, spread, df, confidence) {
  if (!isTRUE(spread > 0) || df < 1) return(list(ci_low = NA_real_, ci_high = NA_real_, p = NA_real_, df = df))
  half <- stats::qt((1 + confidence) / 2, df) * spread
  list(
    ci_low = max(-2, difference - half), ci_high = min(2, difference + half), p = p_two_sided(difference / spread, df),
    df = df
  )
}

#' r without each group in turn, from the moments of the groups
#' @param group Whole numbers from 1 on.
#' @noRd
r_without_groups <- function(x, y, group) {
  x <- x / fitting_unit(x)
  y <- y / fitting_unit(y)
  r_without_sums(group_sums(x - mean(x), y - mean(y), group))
}

#' The same from the sums of the groups
#' @param sums A row a group: n, sums of x and y (about their means), of their squares and of their product.
#' @noRd
r_without_sums <- function(sums) {
  rest <- matrix(colSums(sums), nrow(sums), 6, byrow = TRUE) - sums
  n <- rest[, 1]
  product <- rest[, 6] - rest[, 2] * rest[, 3] / n
  squares <- (rest[, 4] - rest[, 2]^2 / n) * (rest[, 5] - rest[, 3]^2 / n)
  unname(ifelse(squares > 0, product / sqrt(pmax(squares, 0)), NA_real_))
}

#' How alike the cases of a group are in one variable
#'
#' @return A list: `icc`, the intraclass correlation (at least 0), and `p` of the groups' means being as far apart as they
#'   are.
#' @references Fisher (1925), Statistical Methods for Research Workers, chapter 7.
#' @noRd
group_likeness <- function(v, group) {
  v <- v / fitting_unit(v)
  v <- v - mean(v)
  likeness_of_sums(unname(rowsum(cbind(1, v, v^2), group)))
}

#' The same from the sums of the groups: n, sum and sum of squares of each
#' @noRd
likeness_of_sums <- function(sums) {
  components <- variance_of_sums(sums)
  list(
    icc = max(components$icc, 0),
    p = stats::pf(components$between / components$within, components$df[1], components$df[2], lower.tail = FALSE),
    size = components$usual
  )
}

#' The analysis of variance of groups from n, sum and sum of squares of each
#' @return A list: `between` and `within` (mean squares), `df` of each, `usual` (the size of a group that counts), `icc`.
#' @noRd
variance_of_sums <- function(sums) {
  n <- sum(sums[, 1])
  m <- nrow(sums)
  within <- max(0, sum(sums[, 3] - sums[, 2]^2 / sums[, 1])) / (n - m)
  between <- (sum(sums[, 2]^2 / sums[, 1]) - sum(sums[, 2])^2 / n) / (m - 1)
  usual <- (n - sum(sums[, 1]^2) / n) / (m - 1)
  icc <- (between - within) / (between + (usual - 1) * within)
  list(between = between, within = within, df = c(m - 1, n - m), usual = usual, icc = icc)
}

# Of each group: n, sums of x and y, of their squares and of their product; with weights, weighted.
group_sums <- function(x, y, group, weight = 1) unname(rowsum(weight * cbind(1, x, y, x^2, y^2, x * y), group))

#' How far each case moves Fisher's z, in units of 1 / n
#' @return Zeros where the points lie on a line.
#' @noRd
influence_on_z <- function(x, y) {
  standard <- function(v) (v - mean(v)) / sqrt(mean((v - mean(v))^2))
  x <- standard(x)
  y <- standard(y)
  r <- mean(x * y)
  if (!isTRUE(abs(r) < 1)) return(numeric(length(x)))
  (x * y - r * (x^2 + y^2) / 2) / (1 - r^2)
}
