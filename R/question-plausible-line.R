# The line of a pair with plausible values: that of each value, combined.

#' One line from those of several plausible values
#'
#' Estimates, standard errors and degrees of freedom of the terms by Rubin's rules, F of all slopes by Li, Raghunathan and
#' Rubin's D1.
#'
#' @param lines A line of each value; `sample` that of the values' means, which figures show.
#' @references Rubin (1987); Barnard & Rubin (1999), Biometrika 86, 948-955; Li, Raghunathan & Rubin (1991), Journal of
#'   the American Statistical Association 86, 1065-1073.
#' @noRd
combine_lines <- function(lines, sample, confidence) {
  line <- lines[[1]]
  m <- length(lines)
  unit <- line$basis$unit
  centre <- line$basis$centre
  moved <- lapply(lines, function(each) terms_about(each$basis, centre, unit))
  centred <- rowMeans(vapply(moved, `[[`, numeric(nrow(line$terms)), "centred"))
  within <- Reduce(`+`, lapply(moved, `[[`, "covariance")) / m
  away <- vapply(moved, function(each) each$centred - centred, centred)
  between <- (1 + 1 / m) * tcrossprod(away) / (m - 1)
  spread <- sqrt(mean(vapply(lines, function(each) (each$residual_sd / unit[["y"]])^2, 0)))
  raw <- lapply(lines, function(each) each$terms$estimate)
  rows <- lapply(seq_along(centred), function(k) {
    combine_values(
      vapply(raw, `[`, 0, k), vapply(lines, function(each) each$terms$se[k]^2, 0), line$basis$df
    )
  })
  line[c("terms", "variance")] <- list(
    combined_terms(line$terms$term, rows, confidence), combined_variance(lines, centred, within, between)
  )
  line$basis <- list(
    centre = centre, centred = centred, centred_covariance = (within + between) / spread^2, unit = unit,
    residual_sd = spread, df = min(vapply(rows, `[[`, 0, "df"))
  )
  r <- vapply(lines, `[[`, 0, "r")
  line$r <- tanh(mean(fisher_z(r, (1 - r) * (1 + r))))
  line$r_squared <- if (anyNA(r)) mean(vapply(lines, `[[`, 0, "r_squared")) else line$r^2
  line$adj_r_squared <- 1 - (1 - line$r_squared) * (line$n - 1) / (line$n - nrow(line$terms))
  line$residual_sd <- spread * unit[["y"]]
  line$x <- sample$names[1]
  line$y <- sample$names[2]
  line$sample <- sample
  line$fitted <- line_at(line$basis, line_score(line, sample$x), confidence)$fit
  line$residuals <- sample$y - line$fitted
  line$plausible <- m
  line
}

# The terms of a line, and their covariance, about another centre and in other units.
terms_about <- function(basis, centre, unit) {
  k <- length(basis$centred)
  units <- term_units(basis$unit, k) / term_units(unit, k)
  old <- recentring(basis$centre * basis$unit[["x"]] / unit[["x"]], k)
  change <- solve(recentring(centre, k)) %*% old %*% diag(units, k)
  covariance <- basis$residual_sd^2 * basis$centred_covariance
  list(centred = as.vector(change %*% basis$centred), covariance = change %*% covariance %*% t(change))
}

combined_terms <- function(names, rows, confidence) {
  of <- function(field) vapply(rows, `[[`, 0, field)
  se <- sqrt(of("variance"))
  half <- stats::qt((1 + confidence) / 2, of("df")) * se
  log_p <- log_p_two_sided(of("value") / se, of("df"))
  data.frame(
    term = names, estimate = of("value"), se = se, t = of("value") / se, df = of("df"), p = exp(log_p),
    ci_low = of("value") - half, ci_high = of("value") + half, log10_p = log_p / log(10)
  )
}

combined_variance <- function(lines, centred, within, between) {
  k <- length(centred) - 1L
  m <- length(lines)
  inner <- solve(within[-1, -1, drop = FALSE])
  share <- sum(diag(between[-1, -1, drop = FALSE] %*% inner)) / k
  f <- sum(centred[-1] * (inner %*% centred[-1])) / (k * (1 + share))
  t <- k * (m - 1)
  df <- if (t > 4) {
    4 + (t - 4) * (1 + (1 - 2 / t) / share)^2
  } else {
    t * (1 + 1 / k) * (1 + 1 / share)^2 / 2
  }
  df <- min(df, lines[[1]]$basis$df)
  log_p <- stats::pf(f, k, df, lower.tail = FALSE, log.p = TRUE)
  variance <- lines[[1]]$variance
  variance$ss <- rowMeans(vapply(lines, function(line) line$variance$ss, numeric(3)))
  variance$ms <- NA_real_ # of the squares it would give another F than that of the values combined
  variance$df[2] <- df
  variance[1, c("f", "p", "log10_p")] <- c(f, exp(log_p), log_p / log(10))
  variance
}
