# Results as delimited text.

#' CSV with as many digits as give each number back exactly, what is not defined as an empty cell
#' @noRd
as_csv <- function(data) {
  cells <- lapply(data, function(column) {
    text <- if (is.double(column)) shortest_digits(column) else quote_text(as.character(column))
    text[is.na(column) | (is.double(column) & !is.finite(unclass(column)))] <- ""
    text
  })
  c(paste(quote_text(names(data)), collapse = ","), do.call(paste, c(unname(cells), sep = ",")))
}

csv_fields <- function(result) {
  if (inherits(result, "unsere_matrix")) return(pairs_as_written(result$pairs, "csv"))
  if (inherits(result, "unsere_matrices")) return(pairs_as_written(as.data.frame(result), "csv"))
  if (inherits(result, "unsere_pair_list")) return(unclass_list(result))
  data <- as.data.frame(result)
  if (inherits(result, "unsere_line")) data <- rows_as_written(data, "csv")
  if (inherits(result, "unsere_lines")) data$equation <- lines_equations(result)
  if (inherits(result, "unsere_relation") && result$p %in% 0) data$p <- unclass(p_as_number(result))
  data
}

# Text that a spreadsheet would compute is led by an apostrophe: see guard_text().
quote_text <- function(text) {
  text <- guard_text(text)
  odd <- grepl("[\",\n\r;]", text)
  text[odd] <- paste0("\"", gsub("\"", "\"\"", text[odd], fixed = TRUE), "\"")
  text
}
