# Rows that are no cases: sums and averages of others, at the end or between groups, and the most that can be had.

summary_words <- paste0("^(", paste(c(
  "(grand |overall |sub-?|sub )?totals?", "sums?", "(over)?all", "means?", "averages?", "avg\\.?", "medians?",
  "(std|standard)\\.? ?dev(iation|\\.)?",
  "(gesamt|zwischen|end)?summen?", "gesamt", "insgesamt", "mittelwert", "durchschnitt",
  "(points?|marks?|score) possible", "possible (points?|marks?|score)", "(max(imum)?|min(imum)?)\\.? (points?|marks?|score)",
  "(highest|lowest)( possible)? (points?|marks?|score)", "(maximal|h\u00f6chst)punkt(e|zahl)", "max\\.? punkte",
  "(sous-?)?total( g[e\u00e9]n[e\u00e9]ral)?", "sommes?", "moyennes?",
  "(sub)?total general", "suma", "promedio", "medias?", "(sub)?totale", "somma", "soma", "m[e\u00e9]dia",
  "(sub)?totaal", "som", "gemiddelde"
), collapse = "|"), ")( (of|for|von|de|du|di|van) .*|:)?$")

#' What is said of rows that seem to be sums, averages or limits of others, or nothing
#' @noRd
summary_row_sentence <- function(data, rows) {
  found <- sort(unique(c(named_summaries(data), last_summaries(data), sums_between(data))))
  if (!length(found)) return(NULL)
  at <- as.integer(if (is.null(rows)) found else rows[found])
  shown <- paste(utils::head(at, 5), collapse = ", ")
  more <- if (length(at) > 5L) template(" and %d more", length(at) - 5L) else ""
  c(summary_row = if (length(at) == 1L) {
    template(
      "row %s holds sums, averages or limits of other rows; it counts as a case until a copy of the file leaves it out",
      shown
    )
  } else {
    template(
      "rows %s%s hold sums, averages or limits of other rows; they count as cases until a copy of the file leaves them out",
      shown, more
    )
  })
}

#' Rows whose text says so, such as "Subtotal" or "Mean"
#' @noRd
named_summaries <- function(data) {
  texts <- Filter(is.character, data)
  if (!length(texts) || nrow(data) > 1e5 || length(texts) == length(data)) return(integer())
  said <- Reduce(`|`, lapply(texts, function(text) {
    kinds <- unique(text)
    summary <- kinds[grepl(summary_words, trimws(kinds), ignore.case = TRUE, perl = TRUE)]
    # An answer that many give is an answer.
    here <- text %in% summary
    if (sum(here) > length(text) / 3) rep(FALSE, length(text)) else here
  }))
  which(said)
}

summed_columns <- function(data) Filter(function(column) is.double(column) && !is.object(column), data)

#' Up to three rows at the end that hold sums or means of all rows above them
#' @noRd
last_summaries <- function(data) {
  n <- nrow(data)
  numbers <- summed_columns(data)
  if (n < 4L || n > 1e5 || length(numbers) < 2L) return(integer())
  for (end in utils::head(seq(max(n - 3L, 3L), n - 1L), 3)) {
    tail <- seq(end + 1L, n)
    if (all(vapply(tail, function(row) sums_up(numbers, row, seq_len(end)), NA))) return(tail)
  }
  integer()
}

# Whether a row holds the sums, or the means with more decimals than any value, of other rows; most are settled by their
# first column.
sums_up <- function(numbers, row, others) {
  value <- vapply(numbers, `[`, 0, row)
  numbers <- numbers[!is.na(value)]
  value <- value[!is.na(value)]
  if (length(numbers) < 2L) return(FALSE)
  like_sum <- like_mean <- TRUE
  finer <- FALSE
  for (k in seq_along(numbers)) {
    above <- numbers[[k]][others]
    above <- above[!is.na(above)]
    if (length(above) < 3L) return(FALSE)
    like_sum <- like_sum && abs(value[k] - sum(above)) < 1e-9 * sum(abs(above)) && value[k] > max(above)
    places <- decimals_written(value[k])
    like_mean <- like_mean && abs(value[k] - mean(above)) <= 0.5001 * 10^-places
    if (!like_sum && !like_mean) return(FALSE)
    if (like_mean && !finer) finer <- places > max(decimals_written(unique(above)))
  }
  like_sum || finer
}

#' Rows that hold, in every column of numbers, the sum of the rows since the last such row; two of them or none
#' @noRd
sums_between <- function(data) {
  numbers <- summed_columns(data)
  n <- nrow(data)
  if (length(numbers) < 2L || n < 6L || n > 1e5) return(integer())
  found <- integer()
  start <- 1L
  repeat {
    row <- next_sum(numbers, start)
    if (is.na(row)) break
    found <- c(found, row)
    start <- row + 1L
  }
  if (length(found) > 1L && !any(vapply(numbers, anyNA, NA))) found else integer()
}

# The first row, two or more after the start, that holds the sum of those from the start on, in every column.
next_sum <- function(numbers, start) {
  n <- length(numbers[[1]])
  rows <- seq_len(n)
  rows <- rows[rows >= start + 2L]
  for (column in numbers) {
    if (!length(rows)) return(NA_integer_)
    # Few rows outlast the first column, so that the others are summed up to the last of them alone.
    sums <- cumsum(column[seq(start, max(rows) - 1L)])[rows - start]
    rows <- rows[which(sums != 0 & abs(column[rows] - sums) <= 1e-9 * abs(sums))]
  }
  rows[1]
}
