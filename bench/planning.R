# Planned power beside the share of clear tests in simulated studies of normal data, at the levels .05 and .01. Pearson's r
# and the point-biserial are tested by Student's t; for the ranks the first value is sought that relate() itself calls clear.
library(unsere)
runs <- as.integer(Sys.getenv("RUNS", "20000"))
set.seed(21)

normal <- function(n, rho, count) {
  x <- matrix(rnorm(n * count), n)
  list(x = x, y = rho * x + sqrt(1 - rho^2) * matrix(rnorm(n * count), n))
}
place_of_each <- function(v) {
  v[order(v)] <- seq_along(v)
  v
}
ranks <- function(values) apply(values, 2, place_of_each)
products <- function(x, y) {
  x <- sweep(x, 2, colMeans(x))
  y <- sweep(y, 2, colMeans(y))
  colSums(x * y) / sqrt(colSums(x^2) * colSums(y^2))
}
pairs_in_order <- function(x, y) {
  n <- nrow(x)
  total <- 0
  for (i in seq_len(n - 1)) for (j in (i + 1):n) total <- total + sign(x[i, ] - x[j, ]) * sign(y[i, ] - y[j, ])
  total / (n * (n - 1) / 2)
}

by_t <- function(r, n, level) mean(2 * pt(-abs(r * sqrt((n - 2) / (1 - r^2))), n - 2) < level)
# The p of a rank coefficient without ties hangs on its size alone.
by_relate <- function(coefficient) {
  function(r, n, level, data) share_by_relate(coefficient, r, level, data)
}
share_by_relate <- function(coefficient, r, level, data) {
  sizes <- sort(unique(round(abs(r), 9)))
  clear <- function(k) {
    at <- which.min(abs(abs(r) - sizes[k]))
    relate(data.frame(x = data$x[, at], y = data$y[, at]), x, y, coefficient = coefficient)$p < level
  }
  low <- 1
  high <- length(sizes) + 1
  while (low < high) {
    middle <- (low + high) %/% 2
    if (clear(middle)) high <- middle else low <- middle + 1
  }
  if (low > length(sizes)) 0 else mean(abs(r) > sizes[low] - 1e-8)
}

kinds <- list(
  pearson = list(
    draw = normal, r = products, share = function(r, n, level, data) by_t(r, n, level), n = c(10, 30, 100, 1000)
  ),
  "point-biserial" = list(
    draw = function(n, rho, count) {
      g <- rep(0:1, length.out = n)
      list(x = matrix(g, n, count), y = matrix(rnorm(n * count), n) + g * 2 * rho / sqrt(1 - rho^2))
    }, r = products, share = function(r, n, level, data) by_t(r, n, level), n = c(10, 30, 100, 1000)
  ),
  spearman = list(
    draw = function(n, rho, count) lapply(normal(n, 2 * sin(pi * rho / 6), count), ranks), r = products,
    share = by_relate("spearman"), n = c(10, 12, 15, 20, 30, 100, 1000)
  ),
  "tau-b" = list(
    draw = function(n, rho, count) normal(n, sin(pi * rho / 2), count), r = pairs_in_order, share = by_relate("tau-b"),
    n = c(10, 12, 15, 20, 30, 100)
  )
)
rows <- NULL
for (kind in names(kinds)) for (n in kinds[[kind]]$n) for (rho in c(0.1, 0.3, 0.5, 0.7, 0.85)) {
  count <- max(1000, min(runs, 2e6 / n))
  data <- kinds[[kind]]$draw(n, rho, count)
  r <- kinds[[kind]]$r(data$x, data$y)
  at <- function(level) c(plan_size(kind, r = rho, n = n, alpha = level)$power, kinds[[kind]]$share(r, n, level, data))
  usual <- at(0.05)
  strict <- at(0.01)
  rows <- rbind(rows, data.frame(
    coefficient = kind, n, r = rho, planned = round(usual[1], 3), simulated = round(usual[2], 3),
    "planned .01" = round(strict[1], 3), "simulated .01" = round(strict[2], 3), runs = count, check.names = FALSE
  ))
}
print(rows, row.names = FALSE)
cat("\nLargest difference, at .05 and .01, of those with 20,000 runs:\n")
many <- rows[rows$runs >= 20000, ]
for (kind in names(kinds)) {
  own <- many[many$coefficient == kind, ]
  cat(sprintf(
    "%-15s %.3f  %.3f\n", kind, max(abs(own$planned - own$simulated)),
    max(abs(own[["planned .01"]] - own[["simulated .01"]]))
  ))
}

# With classes: relate() itself, under the design, on normal data with the planned intraclass correlation in both variables.
class_runs <- as.integer(Sys.getenv("CLASS_RUNS", "2000"))
class_sizes <- function(classes, mean, cv) {
  if (cv == 0) return(rep(mean, classes))
  pmax(2, round(rgamma(classes, 1 / cv^2, 1 / (cv^2 * mean))))
}
clear_with_classes <- function(classes, size, cv, icc, r, strata) {
  mean(replicate(class_runs, {
    class <- rep(seq_len(classes), class_sizes(classes, size, cv))
    of_class <- rnorm(classes)
    of_case <- rnorm(length(class))
    with <- function(v) r * v + sqrt(1 - r^2) * rnorm(length(v))
    data <- data.frame(
      x = sqrt(icc) * of_class[class] + sqrt(1 - icc) * of_case,
      y = sqrt(icc) * with(of_class)[class] + sqrt(1 - icc) * with(of_case), class, stratum = (class - 1) %% strata
    )
    relate(set_design(data, cluster = class, stratum = if (strata > 1) "stratum"), x, y)$p < .05
  }))
}
plans <- expand.grid(size = c(10, 25), classes = c(4, 8, 15, 40), cv = c(0, 0.5), icc = c(0.1, 0.3), strata = 1)
plans <- rbind(plans, data.frame(size = 20, classes = c(8, 20), cv = 0, icc = 0.2, strata = 2))
plans$r <- mapply(function(size, classes, cv, icc, strata) {
  max(0.1, round(plan_size(
    n = size * classes, classes = classes, icc = icc, class_cv = cv, strata = strata, power = 0.7
  )$r, 2))
}, plans$size, plans$classes, plans$cv, plans$icc, plans$strata)
plans$planned <- mapply(function(size, classes, cv, icc, strata, r) {
  plan_size(r = r, n = size * classes, classes = classes, icc = icc, class_cv = cv, strata = strata)$power
}, plans$size, plans$classes, plans$cv, plans$icc, plans$strata, plans$r)
plans$simulated <- unlist(parallel::mcmapply(clear_with_classes,
  plans$classes, plans$size, plans$cv, plans$icc, plans$r, plans$strata,
  mc.cores = 2, mc.preschedule = FALSE
))
cat(sprintf("\nWith classes, %d runs each:\n", class_runs))
print(transform(plans, planned = round(planned, 3), simulated = round(simulated, 3)), row.names = FALSE)
