# Several r pooled: a model of their z with a variance between groups, estimated by restricted maximum likelihood.

#' The random-effects model of several z
#'
#' The covariance of their errors is turned to its axes first, so that errors which depend on one another
#' (the same persons in several waves) are no other case than those which do not.
#'
#' @param z Fisher's z of each group; `covariance` of their errors: their variances, or a matrix.
#' @param terms A matrix, a column a term of the mean; default: the mean alone.
#' @return A list: `tau2`, `tau2_low`, `tau2_high`, `estimate` and `covariance` of the terms (by Hartung and
#'   Knapp, the factor not below 1), `df`, `q`, `q_df`, `q_p`, `i_squared`, `weights` (shares of the
#'   groups).
#' @references Hedges & Vevea (1998), Psychological Methods 3, 486-504; Hartung & Knapp (2001), Statistics
#'   in Medicine 20, 1771-1782; Knapp & Hartung (2003), Statistics in Medicine 22, 2693-2710; Viechtbauer
#'   (2007), Statistics in Medicine 26, 37-52; Higgins & Thompson (2002), Statistics in Medicine 21,
#'   1539-1558.
#' @noRd
fit_pooled <- function(z, covariance, confidence = 0.95, terms = matrix(1, length(z), 1)) {
  model <- pooled_axes(z, covariance, terms)
  df <- length(z) - ncol(terms)
  tau2 <- largest_likelihood(model)
  fitted <- weigh_pooled(model, tau2)
  fixed <- weigh_pooled(model, 0)
  typical <- df / fixed$trace
  limits <- limits_of_spread(model, df, confidence)
  factor <- if (df > 0) max(1, fitted$q / df) else NA_real_
  list(
    tau2 = tau2, tau2_low = limits[1], tau2_high = limits[2], estimate = fitted$estimate,
    covariance = fitted$covariance * factor, df = df, q = fixed$q, q_df = df,
    q_p = stats::pchisq(fixed$q, df, lower.tail = FALSE), i_squared = tau2 / (tau2 + typical),
    weights = drop(model$axes %*% (fitted$weight * model$terms[, 1])) / sum(fitted$weight * model$terms[, 1]^2)
  )
}

pooled_axes <- function(z, covariance, terms) {
  if (!is.matrix(covariance)) return(list(z = z, terms = terms, variance = covariance, axes = diag(length(z))))
  turned <- eigen(covariance, symmetric = TRUE)
  list(
    z = drop(crossprod(turned$vectors, z)), terms = crossprod(turned$vectors, terms),
    variance = pmax(turned$values, turned$values[1] * 1e-12), axes = turned$vectors
  )
}

#' The terms and what is left, weighted for a variance between groups
#' @return A list with `likelihood` (restricted, its logarithm) and `slope` of it, `trace` of the matrix
#'   that takes out the terms.
#' @noRd
weigh_pooled <- function(model, tau2) {
  weight <- 1 / (model$variance + tau2)
  information <- crossprod(model$terms, weight * model$terms)
  covariance <- solve(information)
  estimate <- drop(covariance %*% crossprod(model$terms, weight * model$z))
  residuals <- drop(model$z - model$terms %*% estimate)
  q <- sum(weight * residuals^2)
  trace <- sum(weight) - sum(covariance * crossprod(model$terms, weight^2 * model$terms))
  list(
    weight = weight, estimate = estimate, covariance = covariance, q = q, trace = trace,
    likelihood = -0.5 * (sum(-log(weight)) + as.double(determinant(information)$modulus) + q),
    slope = -0.5 * (trace - sum((weight * residuals)^2))
  )
}

largest_likelihood <- function(model) {
  if (length(model$z) <= ncol(model$terms)) return(NA_real_)
  most <- 10 * (stats::var(model$z) + max(model$variance))
  tried <- c(0, most * 10^seq(-6, 0, length.out = 49))
  at <- which.max(vapply(tried, function(tau2) weigh_pooled(model, tau2)$likelihood, 0))
  slope <- function(tau2) weigh_pooled(model, tau2)$slope
  ends <- tried[c(max(1L, at - 1L), min(length(tried), at + 1L))]
  if (slope(ends[1]) <= 0) return(ends[1])
  stats::uniroot(slope, ends, tol = most * 1e-14)$root
}

#' Limits of the variance between groups: those for which the weighted distances are neither too large nor
#' too small
#' @noRd
limits_of_spread <- function(model, df, confidence) {
  if (df < 1) return(c(NA_real_, NA_real_))
  at <- function(share) spread_at_distance(model, stats::qchisq(share, df), 1e-14)
  c(at((1 + confidence) / 2), at((1 - confidence) / 2))
}

#' The variance between groups at which the weighted distances come to a figure, 0 where they are less
#' anyway
#' @noRd
spread_at_distance <- function(model, goal, precision) {
  distance <- function(tau2) weigh_pooled(model, tau2)$q
  if (distance(0) <= goal) return(0)
  most <- stats::var(model$z) + max(model$variance)
  while (distance(most) > goal) most <- most * 4
  stats::uniroot(function(tau2) distance(tau2) - goal, c(0, most), tol = most * precision)$root
}

#' The mean, its interval and test, and where the textbook expects a new group's r
#' @param fit From [fit_pooled()] with the mean alone.
#' @references Higgins, Thompson & Spiegelhalter (2009), Journal of the Royal Statistical Society A 172,
#'   137-159.
#' @noRd
pooled_mean <- function(fit, confidence) {
  error <- sqrt(fit$covariance[1])
  half <- stats::qt((1 + confidence) / 2, fit$df) * error
  value <- fit$estimate / error
  predicted_df <- if (fit$df > 1) fit$df - 1 else NA_real_
  far <- stats::qt((1 + confidence) / 2, predicted_df) * sqrt(fit$tau2 + error^2)
  list(
    r = tanh(fit$estimate), ci_low = tanh(fit$estimate - half), ci_high = tanh(fit$estimate + half), value = value,
    df = fit$df, p = p_two_sided(value, fit$df),
    textbook = list(low = tanh(fit$estimate - far), high = tanh(fit$estimate + far), df = predicted_df)
  )
}

#' Where a new group's r is expected, tau being unknown
#'
#' The textbook's interval takes tau for known; with few groups it is often estimated as zero, and the
#' interval holds too few new groups (`bench/pooled.R`). Here each tau counts by how well it agrees with the
#' distances between the groups.
#' @return Two limits; `NA` for fewer than three groups.
#' @references Nagashima, Noma & Furukawa (2019), Statistical Methods in Medical Research 28, 1689-1702.
#' @noRd
expected_in_new <- function(z, covariance, confidence, steps = 100L) {
  model <- pooled_axes(z, covariance, matrix(1, length(z), 1))
  df <- length(z) - 1
  if (df < 2) return(c(NA_real_, NA_real_))
  shares <- (seq_len(steps) - 0.5) / steps
  parts <- lapply(shares, function(share) {
    tau2 <- spread_at_distance(model, stats::qchisq(share, df), 1e-9)
    at <- weigh_pooled(model, tau2)
    c(at$estimate, sqrt(max(1, at$q / df) * at$covariance[1]), sqrt(tau2))
  })
  parts <- do.call(rbind, parts)
  centre <- outer(parts[, 2], stats::qt(shares, df)) + parts[, 1]
  spread <- pmax(parts[, 3], parts[, 2] / 20)
  below <- function(value) mean(stats::pnorm((value - centre) / spread))
  far <- range(centre) + c(-9, 9) * max(spread)
  limit <- function(share) stats::uniroot(function(value) below(value) - share, far, tol = 1e-7)$root
  tanh(c(limit((1 - confidence) / 2), limit((1 + confidence) / 2)))
}

#' The mean and the spread without each group
#' @noRd
pooled_without <- function(z, covariance, confidence) {
  if (length(z) < 3L) return(data.frame(r = rep(NA_real_, length(z)), tau = NA_real_, p = NA_real_))
  do.call(rbind, lapply(seq_along(z), function(k) {
    fit <- fit_pooled(z[-k], if (is.matrix(covariance)) covariance[-k, -k] else covariance[-k], confidence)
    data.frame(r = tanh(fit$estimate), tau = sqrt(fit$tau2), p = pooled_mean(fit, confidence)$p)
  }))
}

#' What a term of the mean adds: a slope and its test, or the test of several groups of groups
#'
#' @param values Numbers, or words of at least two kinds, one for each group.
#' @return A list: `kind` (`"slope"` or `"kinds"`), `estimate`, `se`, `statistic`, `value`, `df`, `df2`,
#'   `p`, `tau` left, and `shown`, a data frame of `at` and the mean r there with its limits.
#' @noRd
pooled_moderator <- function(z, covariance, values, confidence) {
  numbers <- is.numeric(values)
  kinds <- if (!numbers) sort(unique(values))
  terms <- if (numbers) cbind(1, values - mean(values)) else outer(values, kinds, `==`) + 0
  if (length(z) - ncol(terms) < 1L || qr(terms)$rank < ncol(terms) || ncol(terms) < 2L) return(NULL)
  fit <- fit_pooled(z, covariance, confidence, terms)
  at <- if (numbers) range(values) else kinds
  points <- if (numbers) cbind(1, at - mean(values)) else diag(length(kinds))
  half <- stats::qt((1 + confidence) / 2, fit$df) * sqrt(rowSums((points %*% fit$covariance) * points))
  centre <- drop(points %*% fit$estimate)
  # All differences between kinds at once.
  contrast <- if (numbers) rbind(c(0, 1)) else cbind(-1, diag(length(kinds) - 1L))
  apart <- drop(contrast %*% fit$estimate)
  value <- sum(apart * solve(contrast %*% fit$covariance %*% t(contrast), apart)) / nrow(contrast)
  list(
    kind = if (numbers) "slope" else "kinds", estimate = if (numbers) apart else NA_real_,
    se = if (numbers) sqrt(fit$covariance[2, 2]) else NA_real_, statistic = if (numbers) "t" else "F",
    value = if (numbers) sign(apart) * sqrt(value) else value, df = if (numbers) fit$df else nrow(contrast),
    df2 = if (numbers) NA_real_ else fit$df, p = stats::pf(value, nrow(contrast), fit$df, lower.tail = FALSE),
    tau = sqrt(fit$tau2), shown = data.frame(
      at = if (numbers) format(signif(at, 6), trim = TRUE) else at, r = tanh(centre), ci_low = tanh(centre - half),
      ci_high = tanh(centre + half)
    )
  )
}

#' Whether small groups show another r than large ones
#' @references Egger, Davey Smith, Schneider & Minder (1997), British Medical Journal 315, 629-634.
#' @noRd
pooled_asymmetry <- function(z, variance, confidence) {
  error <- sqrt(variance)
  if (length(z) < 10L || max(error) < 1.2 * min(error)) return(NULL)
  pooled_moderator(z, variance, error, confidence)[c("estimate", "value", "df", "p")]
}

#' How alike the errors of several r are that share persons, from the influence of each person
#'
#' @param scores For each group a list: `x`, `y` (scores of its cases), `person` (their names).
#' @return A matrix of correlations of the errors.
#' @noRd
likeness_of_errors <- function(scores) {
  persons <- unique(unlist(lapply(scores, `[[`, "person")))
  influence <- vapply(scores, function(group) {
    sums <- rowsum(influence_on_z(group$x, group$y), match(group$person, persons))
    whole <- numeric(length(persons))
    whole[as.integer(rownames(sums))] <- sums
    whole
  }, numeric(length(persons)))
  products <- crossprod(influence)
  size <- sqrt(diag(products))
  products / outer(size, size)
}
