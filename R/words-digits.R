# Numbers in full digits, for files that are read by machines.

shortest_digits <- function(x) {
  text <- sprintf("%.15g", x)
  lossy <- !is.na(x) & suppressWarnings(as.numeric(text)) != x
  text[lossy] <- sprintf("%.17g", x[lossy])
  text
}

unclass_list <- function(pairs) structure(pairs, class = "data.frame", matrix = NULL, scale = NULL)

#' p as JSON and CSV take it: where it is below what a double holds, written out from its logarithm, never as 0
#' @noRd
p_as_number <- function(result) {
  if (is.na(result$p) || result$p > 0) return(result$p)
  structure(written_p(result$log10_p), class = "json")
}

written_p <- function(log10_p) {
  power <- floor(log10_p)
  sprintf("%se%d", formatC(10^(log10_p - power), digits = 12, format = "g"), as.integer(power))
}

#' A column of p as JSON or CSV take it, each from its logarithm where it is below what a double holds
#' @noRd
written_column <- function(p, log10_p, form) {
  gone <- p %in% 0
  if (!any(gone)) return(p)
  json <- form == "json"
  text <- if (json) formatC(p, digits = 17, format = "g", width = 1) else shortest_digits(p)
  text[gone] <- written_p(log10_p[gone])
  text[is.na(p)] <- if (json) "null" else NA
  if (json) structure(as.list(text), class = "written") else text
}

rows_as_written <- function(rows, form) {
  rows$p <- written_column(rows$p, rows$log10_p, form)
  rows
}

# Columns of pairs that serve other questions, and are not written.
unwritten_columns <- c("log10_p", "log10_p_adjusted", "z_variance", "statistic")

#' The pairs of a matrix with every p as it is to be written; the logarithms then need not stand beside
#' @noRd
pairs_as_written <- function(pairs, form) {
  pairs$p <- written_column(pairs$p, pairs$log10_p, form)
  pairs$p_adjusted <- written_column(pairs$p_adjusted, pairs$log10_p_adjusted, form)
  pairs[setdiff(names(pairs), unwritten_columns)]
}
