# How often 95 % intervals of alpha (Feldt's, by leaving out persons, and the one of both that is told) and of omega hold the
# truth: one factor, items of equal and of unequal loadings, heavy tails, answers of five steps and of right or wrong.
library(unsere)
runs <- as.integer(Sys.getenv("RUNS", "400"))

as_drawn <- function(x) x
cover <- function(n, loadings, noise = stats::rnorm, given = as_drawn) {
  k <- length(loadings)
  draw <- function(n) {
    factor <- noise(n)
    given(vapply(loadings, function(l) l * factor + sqrt(1 - l^2) * noise(n), numeric(n)))
  }
  truth <- if (identical(given, as_drawn)) {
    covariance <- outer(loadings, loadings) + diag(1 - loadings^2)
    list(alpha = k / (k - 1) * (1 - k / sum(covariance)), omega = sum(loadings)^2 / sum(covariance))
  } else {
    check_items(as.data.frame(draw(1e6)), tidyselect::everything())
  }
  alpha <- truth$alpha
  omega <- truth$omega
  rowMeans(replicate(runs, {
    answers <- draw(n)
    found <- check_items(as.data.frame(answers), tidyselect::everything())
    ends <- rbind(
      c(found$alpha_low, found$alpha_high, alpha), c(found$alpha_jackknife, alpha),
      c(if (found$advised == "jackknife") found$alpha_jackknife else c(found$alpha_low, found$alpha_high), alpha),
      c(found$omega_low, found$omega_high, omega)
    )
    ends[, 1] <= ends[, 3] & ends[, 3] <= ends[, 2]
  }))
}
t5 <- function(n) stats::rt(n, 5) / sqrt(5 / 3)
steps <- function(x) 1 + (x > -1.2) + (x > -.4) + (x > .4) + (x > 1.2)
right <- function(x) (x > -.5) + 0
wanted <- list(
  "8 items, loadings .6, n = 50" = list(50, rep(.6, 8)),
  "8 items, loadings .6, n = 200" = list(200, rep(.6, 8)),
  "8 items, loadings .3 to .8, n = 100" = list(100, seq(.3, .8, length.out = 8)),
  "8 items, loadings .6, t with 5 df, n = 200" = list(200, rep(.6, 8), t5),
  "8 items, loadings .6, t with 5 df, n = 50" = list(50, rep(.6, 8), t5),
  "8 items, loadings .6, five steps, n = 100" = list(100, rep(.6, 8), stats::rnorm, steps),
  "8 items, loadings .6, right or wrong, n = 100" = list(100, rep(.6, 8), stats::rnorm, right),
  "65 items, loadings .5, n = 150" = list(150, rep(.5, 65))
)
RNGkind("L'Ecuyer-CMRG")
set.seed(22)
shares <- parallel::mclapply(wanted, function(one) do.call(cover, one), mc.cores = 2)
cat(sprintf("Share of 95 %% intervals that hold the truth, %d runs each\n\n", runs))
cat(sprintf("%-47s %7s %10s %7s %7s\n", "", "Feldt", "jackknife", "told", "omega"))
for (name in names(wanted)) {
  one <- shares[[name]]
  cat(sprintf("%-47s %7.3f %10.3f %7.3f %7.3f\n", name, one[1], one[2], one[3], one[4]))
}
