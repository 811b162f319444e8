# The same pair under many choices: influential cases, and a test of all choices at once.

#' The cases without which Fisher's z moves far: by more than four times the spread of such moves in normal data
#' @return Places.
#' @noRd
find_influential <- function(x, y, limit = 4) {
  which(abs(influence_on_z(x, y)) > limit)
}

#' The median of z over all choices, with what is left of y beyond the controls dealt out anew
#'
#' What is left keeps its place within `unit`. A choice is a list: `rows` (places among the cases), `controls` (a matrix over
#' these rows, or `NULL`), `x` (scores), `y` (a column of `outcomes`), `scores` (what makes ranks of values, or `NULL`).
#' @param outcomes A list: for each y its `values` and its `fitted` (from all controls), over all cases.
#' @return Medians, one for each time.
#' @references Freedman & Lane (1983), Journal of Business & Economic Statistics 1, 292-298; Simonsohn, Simmons & Nelson
#'   (2020), Nature Human Behaviour 4, 1208-1214.
#' @noRd
medians_of_choices <- function(choices, outcomes, unit, times) {
  n <- length(unit)
  step <- max(1L, min(times, floor(4e6 / n)))
  groups <- split(seq_len(n), unit)
  done <- numeric()
  while (length(done) < times) {
    count <- min(step, times - length(done))
    order <- matrix(seq_len(n), n, count)
    for (group in groups) {
      order[group, ] <- vapply(seq_len(count), function(k) group[sample.int(length(group))], integer(length(group)))
    }
    dealt <- lapply(outcomes, function(y) y$fitted + matrix((y$values - y$fitted)[order], n))
    z <- vapply(choices, function(choice) {
      z_of_choice(choice, dealt[[choice$y]][choice$rows, , drop = FALSE])
    }, numeric(count))
    done <- c(done, apply(matrix(z, count), 1, stats::median))
  }
  done
}

#' Fisher's z of a choice with several columns in the place of y
#' @noRd
z_of_choice <- function(choice, y) {
  if (!is.null(choice$scores)) y <- apply(y, 2, choice$scores)
  basis <- qr(cbind(rep(1, nrow(y)), choice$controls), tol = 1e-9)
  x <- qr.resid(basis, choice$x)
  y <- qr.resid(basis, y)
  r <- drop(crossprod(x, y)) / sqrt(sum(x^2) * colSums(y^2))
  atanh(clip(r))
}

#' How far each decision moves r: the largest difference between the means of its options
#' @param rows A data frame of options, a column a decision; `z` of each choice.
#' @noRd
weight_of_decisions <- function(rows, z) {
  differences <- lapply(names(rows), function(name) {
    means <- tapply(z, rows[[name]], mean)
    data.frame(
      decision = name, high = names(means)[which.max(means)], low = names(means)[which.min(means)],
      r_high = tanh(max(means)), r_low = tanh(min(means)), difference = tanh(max(means)) - tanh(min(means))
    )
  })
  differences <- do.call(rbind, differences)
  differences[order(-differences$difference), ]
}
