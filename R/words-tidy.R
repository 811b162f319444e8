# Results as the tables that packages for models and tables expect: a row a term or pair, a row a model, a row a case; their
# columns go by the names that are custom there.

custom_names <- c(
  r = "estimate", se = "std.error", value = "statistic", p = "p.value", df = "parameter", ci_low = "conf.low",
  ci_high = "conf.high", n = "nobs", r_squared = "r.squared", adj_r_squared = "adj.r.squared", p_adjusted = "adj.p.value",
  statistic = "method", residual_sd = "sigma", i_squared = "i.squared"
)

#' Rows under the names that are custom, as a tibble where that package is there
#' @noRd
customary <- function(rows) {
  known <- names(rows) %in% names(custom_names)
  names(rows)[known] <- custom_names[names(rows)[known]]
  rownames(rows) <- NULL
  if (requireNamespace("tibble", quietly = TRUE)) tibble::as_tibble(rows) else rows
}

#' The standard error of r, from that of its z
#' @noRd
error_of_r <- function(result) {
  if (is.null(result$z_variance)) NA_real_ else sqrt(result$z_variance) * (1 - result$r^2)
}

#' @rawNamespace S3method(generics::tidy, unsere_result)
tidy.unsere_result <- function(x, ...) {
  rows <- as.data.frame(x)
  if ("difference" %in% names(rows) && !"r" %in% names(rows)) names(rows)[names(rows) == "difference"] <- "estimate"
  customary(rows)
}

#' @rawNamespace S3method(generics::tidy, unsere_relation)
tidy.unsere_relation <- function(x, ...) {
  rows <- as.data.frame(unclass(x)[c(
    "x", "y", "coefficient", "r", "statistic", "value", "df", "p", "ci_low", "ci_high", "n"
  )])
  customary(data.frame(rows[1:4], se = error_of_r(x), rows[-(1:4)], expect = x$expect))
}

#' @rawNamespace S3method(generics::tidy, unsere_line)
tidy.unsere_line <- function(x, ...) {
  rows <- x$terms[setdiff(names(x$terms), "log10_p")]
  names(rows)[names(rows) == "t"] <- "value"
  customary(rows)
}

#' @rawNamespace S3method(generics::glance, unsere_relation)
glance.unsere_relation <- function(x, ...) {
  customary(as.data.frame(unclass(x)[c("r_squared", "r", "value", "df", "p", "n")]))
}

#' @rawNamespace S3method(generics::glance, unsere_line)
glance.unsere_line <- function(x, ...) {
  test <- x$variance[1, ]
  customary(data.frame(
    r_squared = x$r_squared, adj_r_squared = x$adj_r_squared, residual_sd = x$residual_sd, value = test$f, p = test$p,
    df = test$df, df.residual = x$variance$df[2], n = x$n
  ))
}

#' @rawNamespace S3method(generics::glance, unsere_matrix)
glance.unsere_matrix <- function(x, ...) {
  of <- function(pick) if (all(is.na(x$pairs$n))) NA_real_ else pick(x$pairs$n, na.rm = TRUE)
  customary(data.frame(
    variables = nrow(x$variables), pairs = nrow(x$pairs), nobs = of(max), nobs_least = of(min), missing = x$missing,
    multiplicity = x$multiplicity, confidence = x$confidence
  ))
}

#' @rawNamespace S3method(generics::glance, unsere_pooled)
glance.unsere_pooled <- function(x, ...) {
  customary(as.data.frame(unclass(x)[c(
    "r", "ci_low", "ci_high", "value", "df", "p", "tau", "i_squared", "prediction_low", "prediction_high", "k", "n"
  )]))
}

#' @rawNamespace S3method(generics::augment, unsere_line)
augment.unsere_line <- function(x, ...) {
  out <- data.frame(sample_cases(x$sample), x$sample$x, x$sample$y, x$fitted, x$residuals)
  customary(stats::setNames(out, c("case", x$x, x$y, ".fitted", ".resid")))
}
