# Spearman's p where it is approximated (n = 15 and 18) against the exact permutation distribution.
library(unsere)
set.seed(7)

exact_and_approximate <- function(x, y) {
  a <- unsere:::mid_ranks(x)
  b <- unsere:::mid_ranks(y)
  if (length(unique(a)) < 2 || length(unique(b)) < 2) return(NULL)
  r <- unsere:::measure_pearson(a, b)$r
  c(
    exact = unsere:::core_exact_ranks(a, b, 1e8)$outside,
    ours = exp(unsere:::log_p_by_moments(unsere:::score_shape(a), unsere:::score_shape(b), length(a), r, "either")),
    student = unsere:::test_student(r, 1 - r^2, length(a))$p
  )
}

# The second score is tied to the first more or less closely, so that p comes out small as well as large.
tied <- function(n, values) {
  x <- rnorm(n)
  y <- x * runif(1, 0, 1.2) + rnorm(n)
  if (is.null(values)) list(x, y) else list(findInterval(x, values[[1]]), findInterval(y, values[[2]]))
}
five <- c(-1.2, -0.4, 0.4, 1.2)
kinds <- list(
  "15 no ties" = list(15, NULL, 60), "15 5-point by none" = list(15, list(five, seq(-3, 3, .001)), 200),
  "15 5-point by 5-point" = list(15, list(five, five), 200), "25 5-point by 5-point" = list(25, list(five, five), 60),
  "15 binary by 5-point" = list(15, list(0, five), 200)
)

rows <- lapply(names(kinds), function(kind) {
  made <- kinds[[kind]]
  found <- do.call(rbind, lapply(seq_len(made[[3]]), function(i) {
    pair <- tied(made[[1]], made[[2]])
    exact_and_approximate(pair[[1]], pair[[2]])
  }))
  found <- found[!is.nan(found[, "exact"]), , drop = FALSE]
  worst <- function(column, low, high) {
    inside <- found[, "exact"] > low & found[, "exact"] <= high
    if (any(inside)) sprintf("%.3f", max(abs(found[inside, column] / found[inside, "exact"] - 1))) else "-"
  }
  data.frame(
    scores = kind, pairs = nrow(found), "p > .05" = worst("ours", .05, 1), ".01 to .05" = worst("ours", .01, .05),
    ".001 to .01" = worst("ours", .001, .01), "below .001" = worst("ours", 0, .001),
    "Student: > .05" = worst("student", .05, 1), ".01 to .05 " = worst("student", .01, .05),
    ".001 to .01 " = worst("student", .001, .01), check.names = FALSE
  )
})
cat("Largest relative error of Spearman's p against the exact distribution\n\n")
options(width = 140)
print(do.call(rbind, rows), row.names = FALSE)
