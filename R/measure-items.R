# Items meant as one scale: what each adds, and how reliable their sum is. All from pairwise moments.

#' Moments of items: each pair over the persons who answered both
#'
#' @param columns A list of double vectors, missing values as `NA`; `weight` of each person, or `NULL`.
#' @return A list: `covariance`, `n` (matrices), `complete` (a matrix of the persons who answered all), `at` (their places).
#' @noRd
item_moments <- function(columns, weight = NULL) {
  x <- do.call(cbind, columns)
  if (is.null(weight)) return(plain_item_moments(columns, x))
  known <- !is.na(x)
  x0 <- sweep(x, 2, colMeans(x, na.rm = TRUE))
  n <- crossprod(known)
  x0[!known] <- 0
  heavy <- known * weight
  total <- crossprod(heavy, known)
  sums <- crossprod(x0, heavy)
  # About the means of each pair's own persons; of weighted ones as many as there are.
  covariance <- (crossprod(x0, x0 * weight) - sums * t(sums) / total) / (total * (n - 1) / n)
  whole <- which(rowSums(!known) == 0)
  list(covariance = covariance, n = n, complete = x[whole, , drop = FALSE], at = whole)
}

# The same of persons who count alike, by the kernels of the matrix.
plain_item_moments <- function(columns, x) {
  moments <- core_moments(unname(lapply(columns, as.double)), 2L)
  k <- length(columns)
  names <- list(names(columns), names(columns))
  square <- function(values) matrix(values, k, k, dimnames = names)
  upper <- function(values) {
    values[lower.tri(values)] <- t(values)[lower.tri(values)]
    values
  }
  products <- upper(square(moments$products))
  scales <- outer(moments$scale, moments$scale)
  if (moments$complete) {
    n <- square(moments$rows)
    covariance <- (products - tcrossprod(moments$sums) / moments$rows) / (moments$rows - 1) / scales
    return(list(covariance = covariance, n = n, complete = x, at = seq_len(nrow(x))))
  }
  n <- square(moments$counts)
  sums <- square(moments$sums)
  diag(products) <- diag(square(moments$squares))
  covariance <- (products - sums * t(sums) / n) / (n - 1) / scales
  whole <- which(!is.na(rowSums(x)))
  list(covariance = covariance, n = n, complete = x[whole, , drop = FALSE], at = whole)
}

#' The correlation of each item with the sum of the others
#' @noRd
item_rest <- function(covariance) {
  with_all <- rowSums(covariance)
  own <- diag(covariance)
  rest <- sum(covariance) - 2 * with_all + own
  ifelse(own > 0 & rest > 0, (with_all - own) / sqrt(pmax(own * rest, 0)), NA_real_)
}

#' Cronbach's alpha of a covariance matrix
#' @references Cronbach, L. J. (1951), Psychometrika 16, 297-334.
#' @noRd
alpha_of_items <- function(covariance) {
  k <- ncol(covariance)
  if (k < 2L) return(NA_real_)
  k / (k - 1) * (1 - sum(diag(covariance)) / sum(covariance))
}

#' Alpha without each item in turn
#' @noRd
alpha_without_each <- function(covariance) {
  k <- ncol(covariance)
  own <- diag(covariance)
  total <- sum(covariance) - 2 * rowSums(covariance) + own
  if (k < 3L) return(rep(NA_real_, k))
  (k - 1) / (k - 2) * (1 - (sum(own) - own) / total)
}

#' An interval of alpha for normal scores
#' @references Feldt, L. S. (1965), Psychometrika 30, 357-370.
#' @noRd
interval_feldt <- function(alpha, n, k, confidence) {
  half <- (1 - confidence) / 2
  f <- stats::qf(c(1 - half, half), n - 1, (n - 1) * (k - 1))
  1 - (1 - alpha) * f
}

#' Sums of the covariance without each person in turn: of its diagonal, and of all of it
#' @param x Persons who answered all, a row each.
#' @noRd
alpha_without_persons <- function(x) {
  n <- nrow(x)
  k <- ncol(x)
  means <- colMeans(x)
  total <- squares <- numeric(n)
  for (j in seq_len(k)) {
    off <- x[, j] - means[j]
    total <- total + off
    squares <- squares + off^2
  }
  share <- n / (n - 1)
  own <- sum(squares) - squares * share
  all <- sum(total^2) - total^2 * share
  k / (k - 1) * (1 - own / all)
}

#' The interval of alpha by leaving out one person at a time, on the scale of log(1 - alpha)
#' @noRd
interval_alpha_jackknife <- function(alpha, x, confidence) {
  if (nrow(x) < 5L) return(c(NA_real_, NA_real_))
  replicates <- log(pmax(1 - alpha_without_persons(x), 1e-12))
  half <- stats::qt((1 + confidence) / 2, nrow(x) - 1) * sqrt(jackknife_variance(replicates))
  1 - exp(log(1 - alpha) + c(half, -half))
}

#' The loadings of one factor that leave the least in the correlations off the diagonal
#' @param start Loadings to begin with, or `NULL`; from there it is settled once they move by less than a hundred-millionth.
#' @return Loadings of the items in units of their standard deviations; `NA` where it does not settle.
#' @references Harman, H. H., & Jones, W. H. (1966), Psychometrika 31, 351-368.
#' @noRd
one_factor <- function(r, start = NULL) {
  k <- ncol(r)
  if (k < 3L || anyNA(r)) return(rep(NA_real_, k))
  # The first direction to begin with, or where one like it settled.
  loading <- start
  if (is.null(start)) {
    first <- eigen(r, symmetric = TRUE)
    loading <- first$vectors[, 1] * sqrt(max(first$values[1], 0)) * 0.9
  }
  if (sum(loading) < 0) loading <- -loading
  storage.mode(r) <- storage.mode(loading) <- "double"
  core_one_factor(r, loading, if (is.null(start)) 1e-12 else 1e-8, 5000L)
}

#' Omega: the share of the sum's variance that one factor brings
#' @references McDonald, R. P. (1999). Test theory. Erlbaum.
#' @noRd
omega_of_items <- function(covariance, start = NULL) {
  spread <- sqrt(diag(covariance))
  sum(item_loadings(covariance, start) * spread)^2 / sum(covariance)
}

item_loadings <- function(covariance, start = NULL) {
  spread <- sqrt(diag(covariance))
  one_factor(covariance / outer(spread, spread), start)
}

# Persons are left out one at a time, of many in so many parts.
most_parts <- 200L

#' Alpha, omega and each item's r with the rest, with intervals by leaving out units, or persons
#'
#' @param x Persons who answered all, a row each; `design` as for [perturbed_sums()] over them; `about` a list: the `alpha`,
#'   `omega` and `rest` that the intervals lie about.
#' @return A list: `alpha`, `omega` (two ends each), `rest` (a matrix, a row an item).
#' @noRd
intervals_of_items <- function(x, design, confidence, about, omega = TRUE) {
  k <- ncol(x)
  perturbed <- perturbed_sums(x, design)
  start <- if (omega) item_loadings(centred_products(perturbed$whole, k)$products)
  figures <- function(of) {
    share <- if (omega) omega_of_items(of$products, start) else 0
    on_item_scale(alpha_of_items(of$products), share, item_rest(of$products))
  }
  estimates <- perturb_figures(perturbed, k, figures)
  ends_of_items(about, omega, diag(estimates$covariance), perturbed$df, confidence)
}

# log(1 - alpha), log(1 - omega) and the z of the items with the rest: the scales on which they are taken for normal.
on_item_scale <- function(alpha, omega, rest) c(log(pmax(1 - c(alpha, omega), 1e-12)), atanh(clip(rest)))

ends_of_items <- function(about, omega, variance, df, confidence) {
  half <- stats::qt((1 + confidence) / 2, df) * sqrt(variance)
  ends <- on_item_scale(about$alpha, if (omega) about$omega else 0, about$rest) + unname(cbind(-half, half))
  list(
    alpha = rev(1 - exp(ends[1, ])), omega = if (omega) rev(1 - exp(ends[2, ])) else c(NA_real_, NA_real_),
    rest = tanh(ends[-(1:2), , drop = FALSE])
  )
}

# Persons as units of a design of their own, in at most so many parts; of many items in few, as each part has a factor found.
persons_as_units <- function(n, items) {
  parts <- min(n, if (items <= most_with_omega) most_parts else 20L)
  list(weight = rep(1, n), unit = (seq_len(n) - 1L) %% parts + 1L, stratum = rep(1L, n))
}

most_with_omega <- 60L
most_in_parts <- 200L

#' The reliability of a scale of another length
#' @references Spearman (1910), Brown (1910), British Journal of Psychology 3.
#' @noRd
at_other_length <- function(reliability, times) times * reliability / (1 + (times - 1) * reliability)

#' The interval of a share
#' @references Wilson (1927), Journal of the American Statistical Association 22, 209-212.
#' @noRd
interval_wilson <- function(share, n, confidence) {
  z <- stats::qnorm((1 + confidence) / 2)
  middle <- (share + z^2 / (2 * n)) / (1 + z^2 / n)
  half <- z / (1 + z^2 / n) * sqrt(share * (1 - share) / n + z^2 / (4 * n^2))
  cbind(middle - half, middle + half)
}
