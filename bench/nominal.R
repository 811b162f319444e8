# How often the 90 % intervals of eta and Cramer's V hold what they are of, and how often their tests at 5 % err.
#
# `Rscript bench/nominal.R [RUNS]`; 2,000 runs a row by default. Eta: groups of fixed or chance sizes, of normal and other
# values; the truth is the root of the share of the variance between the groups. V: tables drawn from a joint distribution
# whose own V is the truth.
suppressPackageStartupMessages(library(unsere))
house <- asNamespace("unsere")
runs <- c(as.integer(commandArgs(TRUE)), 2000L)[1]
set.seed(1935)

# Means of k groups of these shares, spread so that the share between them is eta squared beside a variance of 1 within.
means_for <- function(eta, shares) {
  base <- seq_along(shares)^1.3
  base <- base - sum(shares * base)
  base / sqrt(sum(shares * base^2)) * sqrt(eta^2 / (1 - eta^2))
}

noise <- list(
  normal = stats::rnorm,
  "t, 5 df" = function(n) stats::rt(n, 5) / sqrt(5 / 3),
  lognormal = function(n) (exp(stats::rnorm(n) / 2) - exp(1 / 8)) / sqrt(exp(1 / 2) - exp(1 / 4)),
  "5 points" = function(n) sample(c(-1.414, -0.707, 0, 0.707, 1.414), n, TRUE)
)

eta_row <- function(kind, k, n, eta, fixed, unequal = FALSE) {
  shares <- if (unequal) (k:1) / sum(k:1) else rep(1 / k, k)
  means <- means_for(eta, shares)
  # Spreads that rise with the group, their mean square still 1.
  spread <- if (kind == "uneven") sqrt((1:k) / sum(shares * (1:k))) else rep(1, k)
  draw <- noise[[if (kind == "uneven") "normal" else kind]]
  sizes <- pmax(2, round(n * shares))
  out <- replicate(runs, {
    group <- if (fixed) rep(seq_len(k), sizes) else sample(k, n, TRUE, shares)
    group <- match(group, sort(unique(group)))
    values <- means[group] + spread[group] * draw(length(group))
    about <- house$divide_among(values, group)
    left <- about$within / (about$within + about$between)
    around <- house$interval_noncentral_f(left, about$df, about$df_residual, 0.9)
    c(
      held = around$ci_low <= eta && eta <= around$ci_high,
      p = house$test_f(left, about$df, about$df_residual)$p < 0.05,
      low = around$ci_low > 0
    )
  })
  data.frame(
    values = kind, groups = k, n = n, sizes = if (fixed) "fixed" else "chance", unequal = unequal, eta = eta,
    held = mean(out["held", ]), significant = mean(out["p", ]), agree = mean(out["p", ] == out["low", ])
  )
}

# A joint distribution of uniform margins whose V is the one wanted: independence and a diagonal mixed.
joint_for <- function(v, rows, columns) {
  m <- min(rows, columns)
  match <- outer(seq_len(rows), seq_len(columns), function(i, j) (i - 1) %% m == (j - 1) %% m) + 0
  match <- match / sum(match)
  apart <- outer(rowSums(match), colSums(match))
  of <- function(w) w * match + (1 - w) * apart
  size <- function(p) sqrt(sum((p - apart)^2 / apart) / (m - 1))
  if (v == 0) return(apart)
  of(stats::uniroot(function(w) size(of(w)) - v, c(0, 1))$root)
}

v_row <- function(rows, columns, n, v) {
  joint <- joint_for(v, rows, columns)
  out <- replicate(runs, {
    cell <- sample(length(joint), n, TRUE, joint)
    x <- (cell - 1) %% rows + 1
    y <- (cell - 1) %/% rows + 1
    x <- match(x, sort(unique(x)))
    y <- match(y, sort(unique(y)))
    if (max(x) < 2 || max(y) < 2) return(c(NA, NA, NA))
    table <- house$compare_counts(x, y)
    around <- house$interval_noncentral_chi(table$value, table$df, n, table$steps, 0.9)
    p <- stats::pchisq(table$value, table$df, lower.tail = FALSE)
    c(around$ci_low <= v && v <= around$ci_high, p < 0.05, abs(house$corrected_v(table) - v))
  })
  data.frame(
    table = paste(rows, "by", columns), n = n, v = v, held = mean(out[1, ], na.rm = TRUE),
    significant = mean(out[2, ], na.rm = TRUE)
  )
}

of_eta <- do.call(rbind, c(
  lapply(c(0, .2, .4, .7), function(eta) {
    do.call(rbind, lapply(c(30, 100, 300), function(n) {
      rbind(eta_row("normal", 4, n, eta, TRUE), eta_row("normal", 4, n, eta, FALSE, unequal = TRUE))
    }))
  }),
  lapply(c("t, 5 df", "lognormal", "5 points", "uneven"), function(kind) {
    do.call(rbind, lapply(c(0, .4), function(eta) {
      rbind(eta_row(kind, 4, 100, eta, FALSE), eta_row(kind, 8, 100, eta, FALSE, unequal = TRUE))
    }))
  })
))
cat("Eta, 90 % interval by the noncentral F\n")
print(format(of_eta, digits = 3), row.names = FALSE)

of_v <- do.call(rbind, lapply(c(0, .1, .3, .5, .7), function(v) {
  do.call(rbind, lapply(c(50, 200, 1000), function(n) {
    rbind(v_row(2, 3, n, v), v_row(3, 4, n, v), v_row(6, 6, n, v))
  }))
}))
cat("\nCramer's V, 90 % interval by the noncentral chi-squared\n")
print(format(of_v, digits = 3), row.names = FALSE)
