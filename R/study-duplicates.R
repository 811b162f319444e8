# Rows that repeat an earlier one.

#' How many rows repeat an earlier one in everything but the case's name, where chance does not make that many; up to 50,000
#' cases
#'
#' @return A list: `rows` (places of the repeats), `of` (places of the first ones), `named` (whether names differ); or
#'   `NULL`.
#' @noRd
repeated_rows <- function(data, book) {
  columns <- as.list(data)[book$variable[book$role != "case"]]
  n <- nrow(data)
  if (length(columns) < 2L || n < 8L || n > 5e4) return(NULL)
  codes <- lapply(columns, function(column) match(column, unique(column)))
  # What two rows share by chance, were the columns unrelated; related ones share more, so that many are asked for.
  log_chance <- sum(vapply(codes, function(code) log(sum((tabulate(code) / n)^2)), 0))
  # Columns go together, which makes likeness likelier: a quarter less allows for that.
  if (log(choose(n, 2)) + 0.75 * log_chance > log(0.05)) return(NULL)
  key <- Reduce(function(key, code) match(pair <- key * (n + 1) + code, unique(pair)), codes, rep(0, n))
  empty <- rowSums(vapply(columns, function(column) !is.na(column), logical(n))) < 2L
  again <- which(duplicated(key) & !empty)
  if (!length(again) || !beyond_likeness(columns, codes, again)) return(NULL)
  list(rows = again, of = match(key[again], key), named = any(book$role == "case"))
}

#' Whether more rows are alike than chance makes of answers that go together
#'
#' The items of a tight scale make many rows alike, and more that differ in one answer or two; what was entered twice has
#' none of those. From the least number of differences that is common one extrapolates to none: the counts of pairs fall
#' at least as fast towards it as there. Rows of one answer throughout say nothing.
#' @param again The places of rows that repeat another.
#' @noRd
beyond_likeness <- function(columns, codes, again, most = 500L) {
  again <- again[!are_straight(columns, again)]
  if (!length(again)) return(FALSE)
  n <- length(codes[[1]])
  rows <- even_places(n, most)
  differ <- Reduce(`+`, lapply(codes, function(code) outer(code[rows], code[rows], `!=`)))
  counts <- tabulate(differ[upper.tri(differ)], length(codes))
  common <- which(counts >= min(50L, max(counts) / 2))[1]
  if (is.na(common) || common == length(codes) || counts[common + 1L] <= counts[common]) return(TRUE)
  fall <- counts[common] / counts[common + 1L]
  # How the fall steepens counts by half.
  before <- if (common + 2L <= length(codes)) counts[common + 1L] / counts[common + 2L] else fall
  steeper <- min(1, sqrt(fall / before))^(common * (common + 1) / 2)
  expected <- counts[common] * fall^common * steeper * choose(n, 2) / choose(length(rows), 2)
  stats::ppois(length(again) - 1, expected, lower.tail = FALSE) < .01
}

# Seven in ten answers the same, as of who ticks one column down, or has everything.
are_straight <- function(columns, rows) {
  if (length(columns) < 5L) return(logical(length(rows)))
  cells <- vapply(columns, function(column) as.character(column[rows]), character(length(rows)))
  apply(matrix(cells, length(rows)), 1L, function(row) max(table(row, useNA = "ifany"))) >= .7 * length(columns)
}
