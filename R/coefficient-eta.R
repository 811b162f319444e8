#' Eta, the correlation ratio: numbers, or ranks of a scale, by groups without an order
#' @references Pearson (1905), Drapers' Company Research Memoirs, Biometric Series II; Fisher (1925), Statistical Methods for
#'   Research Workers; Kelley (1935), Proceedings of the National Academy of Sciences 21; Steiger (2004), Psychological
#'   Methods 9.
#' @noRd
record_eta <- function() {
  new_coefficient(
    name = "eta", place = 6, symbol = c("\u03b7", "eta"), adjective = "eta",
    suits = function(levels) sum(levels == "nominal") == 1L && !"binary" %in% levels,
    why = "one variable has unordered categories",
    categories = 1L, signed = FALSE, one_scale = FALSE, products = FALSE, without_each = NULL,
    estimate = estimate_eta,
    tests = list(
      analytic = function(e, expect, draws) test_f(e$unexplained, e$division$df, e$division$df_residual),
      permutation = function(e, expect, draws) {
        about <- e$division
        reached <- core_shuffle_between(about$v, e$group, about$kinds, draws$resamples, draws$seed, draws$threads)
        shuffled_share(reached, test_f(e$unexplained, about$df, about$df_residual), draws$resamples)
      }
    ),
    intervals = list(analytic = function(e, confidence, draws) {
      interval_noncentral_f(e$unexplained, e$division$df, e$division$df_residual, confidence)
    }),
    matrix = NULL, statistic = NULL, z_variance = NULL, scale = eta_scale, details = details_of_eta,
    words = list(
      r_squared = "the variance of the numbers", mixture = "eta among %s", mixture_level = "nominal",
      look_also = c(
        "Check the mean and the number of cases of each group.",
        "Eta has no direction: it shows how far apart the groups are, not which is higher."
      )
    ),
    method = paste(
      "Eta, the square root of the proportion of variance between groups (for an ordinal variable, of its ranks); F",
      "test; 90% interval by the noncentral F distribution, which corresponds to a test at 5% because eta cannot be",
      "negative; epsilon squared is that proportion corrected for chance."
    ),
    sources = c(
      "Fisher (1925), Statistical Methods for Research Workers",
      "Kelley (1935), Proceedings of the National Academy of Sciences 21", "Steiger (2004), Psychological Methods 9"
    )
  )
}

#' @section Errors: `unsere_error_undefined` for one group alone, or numbers that do not vary.
#' @noRd
estimate_eta <- function(sample) {
  side <- side_of_groups(sample)
  at <- match(side, c("x", "y"))
  groups <- groups_of_column(sample[[side]], sample$coding[[side]], sample$names[at])
  other <- setdiff(c("x", "y"), side)
  values <- sample[[other]]
  check_pair(sample$x, sample$y, sample$names)
  ordered <- sample$variables$level[3L - at] == "ordinal"
  division <- divide_among(if (ordered) mid_ranks(values) else values, groups$code)
  total <- division$between + division$within
  unexplained <- if (division$within <= 1e-28 * total) 0 else division$within / total
  new_estimate(
    "eta", as.double(sample$x), as.double(sample$y), sqrt(division$between / total), unexplained,
    group = groups$code, kinds = groups$kinds, division = division, values = values, side = side, ranked = ordered
  )
}

#' The side whose groups eta takes: the one without an order, else the binary one
#' @noRd
side_of_groups <- function(sample) {
  level <- sample$variables$level
  c("x", "y")[c(which(level == "nominal"), which(level == "binary"))[1]]
}

details_of_eta <- function(estimate) {
  about <- estimate$division
  parts <- split(estimate$values, estimate$group)
  list(
    group_means = data.frame(
      value = estimate$kinds, n = lengths(parts), mean = vapply(parts, mean, 0),
      sd = vapply(parts, stats::sd, 0), row.names = NULL
    ),
    df_residual = about$df_residual, epsilon_squared = epsilon_squared(estimate$unexplained, about$df, about$df_residual)
  )
}

# Cohen's f of .10, .25 and .40 as eta.
eta_scale <- function(scale, estimate) {
  if (!identical(scale$name, "cohen")) return(scale)
  f <- c(small = 0.10, medium = 0.25, large = 0.40)
  utils::modifyList(scale, list(cuts = f / sqrt(1 + f^2)))
}

#' The share of shuffles that reach what was seen
#' @references Dwass (1957); Phipson & Smyth (2010).
#' @noRd
shuffled_share <- function(reached, test, resamples) {
  p <- (reached + 1) / (resamples + 1)
  utils::modifyList(test, list(p = p, log10_p = log10(p), p_method = "permutation"))
}
