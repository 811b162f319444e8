# JSON of results with very many rows, a part at a time.

many_rows <- 20000L

#' Hand a result's JSON to `write`, piece by piece
#' @param write Takes a text without a line end of its own, or its bytes.
#' @noRd
stream_json <- function(result, door, write, threads = 2L) {
  if (!inherits(result, "unsere_matrix") || nrow(result$pairs) <= many_rows) {
    return(write(paste0(as_json(result, door), "\n")))
  }
  pairs <- result$pairs
  result$pairs <- pairs[1, ]
  fields <- json_fields(result, door)
  result$pairs <- pairs
  fields$notes <- or_default(many(matrix_notes(result)), list())
  fields$sentence <- in_words(result)
  fields$pairs <- "@pairs@"
  around <- strsplit(json_text(fields), "\"@pairs@\"", fixed = TRUE)[[1]]
  write(paste0(around[1], "[\n"))
  columns <- json_columns(pairs)
  for (from in seq(0, nrow(pairs) - 1, by = many_rows)) {
    count <- min(many_rows, nrow(pairs) - from)
    rows <- core_json_rows(columns$keys, columns$columns, columns$texts, columns$logs, from, count, 4L, threads)
    write(rows)
    if (from + count < nrow(pairs)) write(",\n")
  }
  write(paste0("\n  ]", around[2], "\n"))
}

#' The columns of pairs as the core writes them: numbers, or places in a list of texts
#' @noRd
json_columns <- function(pairs) {
  keys <- setdiff(names(pairs), unwritten_columns)
  word <- function(text) if (is.na(text)) "null" else as.character(jsonlite::toJSON(text, auto_unbox = TRUE))
  parts <- lapply(pairs[keys], function(column) {
    if (is.logical(column)) return(list(column = column + 1L, texts = c("false", "true")))
    if (!is.character(column)) return(list(column = column))
    kinds <- unique(column)
    list(column = match(column, kinds), texts = vapply(kinds, word, "", USE.NAMES = FALSE))
  })
  logs <- list(p = pairs$log10_p, p_adjusted = pairs$log10_p_adjusted)
  list(
    keys = keys, columns = unname(lapply(parts, `[[`, "column")), texts = unname(lapply(parts, `[[`, "texts")),
    logs = lapply(keys, function(key) logs[[key]])
  )
}
