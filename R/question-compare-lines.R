#' Compare regression lines
#'
#' Compares two or more lines of one pair, such as a straight and a logarithmic one, or levels and changes,
#' and states which fits better and why.
#'
#' @param ... Two lines or more from [fit_line()]; their names are used if they have any.
#' @return A comparison (class `unsere_lines`), a list of `lines` (a data frame, one row per line: `line`,
#'   `shape`, `n`, `r_squared`, `adj_r_squared`, `residual_sd`, `aicc`, `weight`), `same_y` (whether all
#'   lines have the same values of y, so that `aicc` and `weight` can be compared), `curve` (the test of the
#'   quadratic term, if a straight and a quadratic line of the same cases are compared: `t`, `df`, `p`) and
#'   `words`.
#' @section Errors: `unsere_error_usage` for fewer than two lines or anything else.
#' @references Akaike, H. (1974). A new look at the statistical model identification. *IEEE Transactions on
#'   Automatic Control*, 19, 716-723. Hurvich, C. M., & Tsai, C.-L. (1989). Regression and time series model
#'   selection in small samples. *Biometrika*, 76, 297-307.
#' @examples
#' learners <- demo_study("learners")
#' shapes <- c("linear", "log", "quadratic")
#' lines <- lapply(shapes, function(shape) {
#'   fit_line(learners, practice_hours, speaking_score, shape = shape)
#' })
#' do.call(compare_lines, lines)
#'
#' years <- derive(demo_study("town_years"),
#'   more_loans = "change(ebook_loans)",
#'   more_hives = "change(hives)"
#' )
#' compare_lines(
#'   levels = fit_line(years, ebook_loans, hives), changes = fit_line(years, more_loans, more_hives)
#' )
#' @export
compare_lines <- function(...) {
  lines <- list(...)
  if (length(lines) < 2L || !all(vapply(lines, inherits, NA, "unsere_line"))) {
    abort_usage("A comparison needs two lines or more.", "Make them with fit_line().")
  }
  shapes <- vapply(lines, `[[`, "", "shape")
  given <- if (is.null(names(lines))) rep("", length(lines)) else names(lines)
  labels <- ifelse(nzchar(given), given, shapes)
  same_y <- all(vapply(lines[-1], function(line) same_response(lines[[1]], line), NA))
  aicc <- vapply(lines, line_aicc, 0)
  field <- function(name, type) vapply(lines, `[[`, type, name)
  rows <- data.frame(
    line = make.unique(labels, sep = " "), shape = shapes, n = field("n", 0L), r_squared = field("r_squared", 0),
    adj_r_squared = field("adj_r_squared", 0), residual_sd = field("residual_sd", 0),
    aicc = if (same_y) aicc else NA_real_, weight = if (same_y) akaike_weights(aicc) else NA_real_
  )
  new_result("lines", list(
    lines = rows, same_y = same_y, curve = curve_test(lines, shapes), originals = stats::setNames(lines, rows$line)
  ), c("lines", "same_y", "curve"))
}

same_response <- function(a, b) {
  a$y == b$y && identical(a$sample$y, b$sample$y) && a$x == b$x && identical(a$sample$x, b$sample$x)
}

#' Akaike's criterion with the correction for few cases; the residual variance counts as a parameter
#' @noRd
line_aicc <- function(line) {
  k <- nrow(line$terms) + 1
  n <- line$n
  n * log(line$residual_sd^2 * line$basis$df / n) + 2 * k + if (n > k + 1) 2 * k * (k + 1) / (n - k - 1) else Inf
}

akaike_weights <- function(aicc) {
  share <- exp(-(aicc - min(aicc)) / 2)
  share[is.nan(share)] <- 1
  share / sum(share)
}

curve_test <- function(lines, shapes) {
  curved <- which(shapes == "quadratic")
  straight <- which(shapes == "linear")
  if (!length(curved) || !length(straight) || !same_response(lines[[straight[1]]], lines[[curved[1]]])) return(NULL)
  lines[[curved[1]]]$terms[3, c("t", "df", "p")]
}
