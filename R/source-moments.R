# Moments: n, means and sums of squares and products of cases that need not be at hand.

#' @param book What is known of the variables, a row a variable; `sums` from the core; `ends` the smallest
#'   and the largest value of each, a column a variable.
#' @noRd
new_moments <- function(book, n, sums, ends) {
  structure(
    list(variables = book$variable, codebook = book, n = n, sums = sums, ends = ends),
    class = c("unsere_moments", "unsere_result")
  )
}

#' Merge moments of different cases
#'
#' @param a,b Moments from [gather_moments()] of the same variables and of cases that do not overlap.
#' @return Moments of all cases together.
#' @section Errors: `unsere_error_usage` if either is something else or when the variables differ.
#' @references Chan, T. F., Golub, G. H., & LeVeque, R. J. (1983). Algorithms for computing the sample
#'   variance. *The American Statistician*, 37, 242-247.
#' @examples
#' years <- as.data.frame(demo_study("town_years"))
#' halves <- split(years, years$year < 2009)
#' early <- gather_moments(function() {
#'   part <- halves$`TRUE`
#'   halves$`TRUE` <<- NULL
#'   part
#' }, "ebook_loans", "hives")
#' early
#' merge_moments(early, early)$n
#' @export
merge_moments <- function(a, b) {
  if (!inherits(a, "unsere_moments") || !inherits(b, "unsere_moments")) {
    abort_usage("Both must be moments.", "Make them with gather_moments().")
  }
  if (!identical(a$variables, b$variables)) {
    abort_usage("The two contain different variables.", "Gather both from the same ones, in the same order.")
  }
  ends <- rbind(pmin(a$ends[1, ], b$ends[1, ], na.rm = TRUE), pmax(a$ends[2, ], b$ends[2, ], na.rm = TRUE))
  new_moments(a$codebook, a$n + b$n, core_merge_moments(a$sums, b$sums), ends)
}

#' n, means, sums of squares and products, r and what is left of two variables, over the cases that have
#' both
#' @noRd
pair_of_moments <- function(moments, x, y) {
  at <- match(c(x, y), moments$variables)
  sums <- moments$sums
  p <- length(moments$variables)
  place <- at + (rev(at) - 1) * p
  s <- if (sums$complete) sums$sums[at] else sums$sums[place]
  q <- if (sums$complete) sums$products[at + (at - 1) * p] else sums$squares[place]
  scale <- sums$scale[at]
  table <- core_moments_table(sums)
  n <- table$pairs$n[place[1]]
  r <- table$pairs$r[place[1]]
  if (is.na(r) || n < 3) abort_undefined(
    problem("%s or %s does not vary, or they have too few cases in common.", x, y), "Check them."
  )
  list(
    n = n, alone = table$n[at], r = r, unexplained = table$pairs$unexplained[place[1]],
    mean = sums$centre[at] + s / n / scale, squares = pmax(0, q - s^2 / n) / scale^2,
    product = (sums$products[place[1]] - s[1] * s[2] / n) / prod(scale)
  )
}

#' Sums of squares and products about the means of variables whose cases are all complete
#' @noRd
products_of_moments <- function(moments, names) {
  p <- length(names)
  products <- matrix(0, p, p)
  for (i in seq_len(p)) for (j in seq_len(i - 1L)) {
    pair <- pair_of_moments(moments, names[i], names[j])
    if (any(pair$alone != pair$n)) {
      abort_usage("With missing values these moments do not allow control variables.", "Gather them from complete cases.")
    }
    products[i, j] <- products[j, i] <- pair$product
    products[cbind(c(i, j), c(i, j))] <- pair$squares
  }
  products
}

#' The moments of some of the variables
#' @noRd
part_of_moments <- function(moments, names) {
  at <- match(names, moments$variables)
  if (identical(at, seq_along(moments$variables))) return(moments)
  p <- length(moments$variables)
  square <- as.vector(outer(at, (at - 1) * p, `+`))
  sums <- moments$sums
  for (field in c("centre", "scale")) sums[[field]] <- sums[[field]][at]
  for (field in c("products", "squares", "counts")) {
    if (length(sums[[field]])) sums[[field]] <- sums[[field]][square]
  }
  sums$sums <- sums$sums[if (sums$complete) at else square]
  sums$columns <- as.double(length(at))
  new_moments(moments$codebook[at, ], moments$n, sums, moments$ends[, at, drop = FALSE])
}
