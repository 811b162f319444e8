#' Which coefficient suits two levels of measurement, and why
#' @noRd
choose_coefficient <- function(levels) {
  kinds <- sort(levels)
  if (all(kinds == "binary")) {
    return(list(coefficient = "phi", reason = "both variables are binary, which is what phi is for"))
  }
  if ("ordinal" %in% kinds) {
    return(list(
      coefficient = "spearman",
      reason = "an ordinal variable has an order but no even steps, so ranks are correlated"
    ))
  }
  if ("binary" %in% kinds) {
    return(list(
      coefficient = "point-biserial",
      reason = "one variable is binary and the other numeric: r with the binary one as 0 and 1"
    ))
  }
  list(coefficient = "pearson", reason = "both variables are numeric")
}

#' The coefficient for a pair: chosen by level, or as asked for where the variables allow it
#' @noRd
settle_coefficient <- function(coefficient, pair) {
  one_of(coefficient, c("auto", coefficient_names), "coefficient")
  levels <- pair$variables$level
  if (coefficient == "auto") return(choose_coefficient(levels))
  two_valued <- vapply(list(pair$x, pair$y), function(values) length(unique(values)) == 2L, NA)
  needed <- c("point-biserial" = 1L, phi = 2L)[coefficient]
  if (!is.na(needed) && sum(two_valued) != needed) {
    abort_usage(
      sprintf("%s takes %s; %s is %s and %s is %s.", capital(coefficient),
        c("one binary variable and one that is not", "two binary variables")[needed], pair$x_name, levels[1],
          pair$y_name,
        levels[2]
      ),
      sprintf("For this pair: %s.", choose_coefficient(levels)$coefficient)
    )
  }
  list(coefficient = coefficient, reason = "it was asked for by name")
}

#' A binary variable as 0 and 1, whatever two numbers it holds
#' @noRd
as_zero_one <- function(values) {
  kinds <- sort(unique(values))
  if (length(kinds) == 2L && !identical(kinds, c(0, 1))) as.double(values == kinds[2]) else values
}

zero_one_pair <- function(pair) {
  for (side in c("x", "y")) {
    values <- pair[[side]]
    if (length(unique(values)) != 2L) next
    if (is.null(pair$coding[[side]]$one)) {
      kinds <- sort(unique(values))
      pair$coding[[side]] <- list(zero = format(kinds[1]), one = format(kinds[2]))
    }
    pair[[side]] <- as_zero_one(values)
  }
  pair
}
