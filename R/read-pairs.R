# Cells that hold two measurements with a stroke between them, as a blood pressure of 118/76 does: each becomes a variable of
# its own. Marks out of a maximum ("7/10") are read as one number elsewhere.

#' The columns of a table with each of two measurements in a cell as a variable
#'
#' @param data A data frame as it came in.
#' @return A list: `data`, `decisions`.
#' @noRd
split_pairs <- function(data) {
  texts <- names(data)[vapply(data, is.character, NA)]
  decisions <- NULL
  for (name in texts) {
    values <- two_in_cells(name, data[[name]])
    if (is.null(values)) next
    names <- new_names(paste(name, pair_words(name)), names(data))
    at <- match(name, names(data))
    data <- with_columns_after(data, at, stats::setNames(values, names))[-at]
    decisions <- c(decisions, pairs = template(
      "%s: two numbers in each cell, a variable each: %s and %s", name, names[1], names[2]
    ))
  }
  list(data = data, decisions = decisions)
}

pressure_words <- paste0(
  "blood ?pressure|^bp$|\\bbp\\b|blutdruck|\\brr\\b|tension art|pression art|presi[o\u00f3]n art|",
  "pressione art"
)

# A blood pressure is measured as the heart contracts and as it rests.
pair_words <- function(name) {
  if (grepl(pressure_words, tolower(name), perl = TRUE)) c("systolic", "diastolic") else c("1", "2")
}

# The two, where all but a few cells hold two whole numbers or decimals, both vary, and the second is no maximum of the
# first.
two_in_cells <- function(name, column) {
  form <- "^ *([0-9]{1,4}([.,][0-9]+)?) ?/ ?([0-9]{1,3}([.,][0-9]+)?) *([a-zA-Z]{1,5})?$"
  # The first cells settle it for most columns.
  stroke_first <- function(cells) all(grepl("/", utils::head(cells[!is_blank(cells)], 3L), fixed = TRUE))
  if (!stroke_first(utils::head(column, 1000L)) || !stroke_first(column)) return(NULL)
  text <- trimws(column)
  given <- which(!is_blank(text))
  if (length(given) < 8L) return(NULL)
  if (named_like(gsub("[^[:alnum:]]+", " ", name), time_words)) return(NULL)
  fits <- grepl(form, text)
  if (sum(fits) < 0.95 * length(given)) return(NULL)
  part <- function(place) {
    numbers <- suppressWarnings(as.numeric(sub(",", ".", sub(form, place, text), fixed = TRUE)))
    replace(numbers, !fits, NA)
  }
  values <- list(part("\\1"), part("\\3"))
  above <- mean(values[[1]] > values[[2]], na.rm = TRUE)
  if (above < 0.5 || any(vapply(values, function(v) length(unique(v[fits])), 0L) < 4L)) return(NULL)
  values
}
