# Relations with groups without an order, in words: eta and Cramer's V.

takes_groups <- function(result) coefficient_record(result$coefficient)$categories > 0L

#' @export
in_words.unsere_group_relation <- function(result, digits = 2, ...) {
  figures <- c(
    groups_estimate(result, digits), interval_clause(result, digits), groups_statistic(result), p_clause(result),
    corrected_estimate(result, digits)
  )
  paste(c(
    begin(sprintf("%s, %s.", claim_of_groups(result), paste(figures, collapse = ", ")), result$sample$variables),
    relation_clauses(result, digits)
  ), collapse = " ")
}

groups_estimate <- function(result, digits) {
  size <- sprintf("%s = %s", coefficient_symbol(result$coefficient), format_r(result$r, digits_for(result, digits)))
  if (is_eta(result)) size else c(size, sprintf("n = %s", format_count(result$n)))
}

is_eta <- function(result) coefficient_record(result$coefficient)$categories == 1L

# "F(4, 217) = 11.23", "chi2(8) = 14.2".
groups_statistic <- function(result) {
  if (is.na(result$value)) return(NULL)
  df <- paste(c(format_df(result$df), if (is_eta(result)) format_df(result$df_residual)), collapse = ", ")
  sprintf("%s(%s) = %s", statistic_symbol(result$statistic), df, format_statistic(result$value))
}

# What the estimate is without what chance adds to it.
corrected_estimate <- function(result, digits = 2) {
  if (is_eta(result)) {
    if (is.na(result$epsilon_squared)) return(NULL)
    epsilon <- if (writes_utf8()) "\u03b5" else "epsilon"
    return(sprintf("%s%s = %s", epsilon, glyphs()$squared, format_r(max(0, result$epsilon_squared), digits)))
  }
  if (!is.na(result$bias_corrected)) say("bias-corrected V = %s", format_r(result$bias_corrected, digits))
}

claim_of_groups <- function(result) {
  variables <- result$sample$variables
  if (!is_eta(result)) {
    x <- inside_of(variables, result$x)
    y <- inside_of(variables, result$y)
    if (is_clear(result)) return(say("%s and %s were significantly associated", x, y))
    return(say("%s and %s were not significantly associated", x, y))
  }
  sides <- sides_of_groups(result)
  other <- inside_of(variables, sides$other)
  groups <- inside_of(variables, sides$groups)
  if (is.na(result$p)) return(say("%s did not vary within the groups of %s", other, groups))
  if (is_clear(result)) return(say("%s differed significantly between the groups of %s", other, groups))
  say("%s did not differ significantly between the groups of %s", other, groups)
}

#' Which variable of an eta holds the groups, and which the numbers
#' @noRd
sides_of_groups <- function(result) {
  names <- c(x = result$x, y = result$y)
  side <- result$estimate$side
  list(groups = names[[side]], other = names[[setdiff(c("x", "y"), side)]])
}

#' The largest and the smallest mean, in words
#' @noRd
means_clause <- function(result) {
  means <- result$group_means
  if (is.null(means)) return(NULL)
  decimals <- decimals_for(means$sd[!is.na(means$sd)], 3)
  one <- function(row) {
    say("%s (\"%s\", n = %s)", format_decimals(means$mean[row], decimals), means$value[row], format_count(means$n[row]))
  }
  say(
    "%d groups; means from %s to %s", nrow(means), one(which.min(means$mean)), one(which.max(means$mean))
  )
}

#' What of the variance lies between the groups
#' @noRd
share_clause <- function(result) {
  if (!is_eta(result)) return(NULL)
  text <- say("%s of %s lies between the groups", format_r(result$r_squared), say(
    if (result$estimate$ranked) "the variance of the ranks" else "the variance"
  ))
  if (is.na(result$epsilon_squared)) return(text)
  paste(text, say("%s when corrected for chance", format_r(max(0, result$epsilon_squared))), sep = "; ")
}

#' The groups of an eta as a table; the counts of a V
#' @noRd
groups_cells <- function(result) {
  means <- result$group_means
  if (!is.null(means)) {
    decimals <- decimals_for(means$sd[!is.na(means$sd)], 3)
    return(list(
      group = means$value, n = format_count(means$n), mean = format_decimals(means$mean, decimals),
      sd = format_decimals(means$sd, decimals)
    ))
  }
  counts <- result$counts
  if (is.null(counts)) return(NULL)
  rows <- unique(counts$x)
  columns <- unique(counts$y)
  n <- matrix(counts$n, length(rows))
  cells <- c(list(rows), lapply(seq_along(columns), function(k) {
    sprintf("%s (%s %%)", format_count(n[, k]), format_decimals(100 * n[, k] / rowSums(n), 0))
  }), list(format_count(rowSums(n))))
  stats::setNames(cells, c(" ", columns, say("all")))
}

groups_caption <- function(result) {
  variables <- result$sample$variables
  if (is_eta(result)) {
    sides <- sides_of_groups(result)
    return(say("%s by %s.", label_of(variables, sides$other), inside_of(variables, sides$groups)))
  }
  say(
    "Counts, and percent of each row: %s down, %s across.", inside_of(variables, result$x), inside_of(variables, result$y)
  )
}

#' That table for the terminal, where it is small enough to be read there
#' @noRd
groups_lines <- function(result) {
  if (!takes_groups(result)) return(NULL)
  cells <- groups_cells(result)
  if (is.null(cells) || length(cells) > 9L || length(cells[[1]]) > 30L) return(NULL)
  cells[[1]] <- shorten(cells[[1]], 28)
  names(cells) <- shorten(names(cells), 14)
  c("", say("The groups"), set_table(cells, left_aligned = 1L))
}

groups_evidence <- function(x) {
  if (is.na(x$p)) return(say("no test: there is no variance within the groups"))
  p <- format_p_clause(x$p)
  how <- switch(x$p_method,
    exact = say("exact, over all tables with these margins"),
    permutation = say("by %s random permutations (seed %s)", format_count(x$resamples), format(x$seed, digits = 17))
  )
  paste(c(groups_statistic(x), paste(c(p, how), collapse = " ")), collapse = ", ")
}

#' The level of the intervals of a matrix
#' @noRd
interval_confidence <- function(matrix) interval_level(coefficient_record(matrix$pairs$coefficient[1]), matrix$confidence)
