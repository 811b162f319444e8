#' Delimited text as a data frame: the delimiter and the decimal mark are found from the first lines
#' @noRd
read_delimited <- function(path, header_row = 1L, decimal = NULL, shown = path) {
  if (file.size(path) == 0) abort_input(sprintf("%s is empty.", file_name(shown)),
    "Give a file with a heading row and cases.")
  lines <- readLines(path, n = header_row + 50L, warn = FALSE, encoding = "UTF-8")
  if (length(lines) < header_row) {
    abort_input(
      sprintf("%s has %d rows; the headings cannot be in row %d.", file_name(shown), length(lines), header_row),
      "Give another header row."
    )
  }
  lines <- lines[header_row:length(lines)]
  separator <- find_separator(lines[nzchar(lines)])
  if (is.null(decimal)) decimal <- find_decimal(lines[-1], separator)
  headings <- scan(text = lines[1], what = "", sep = separator, quote = "\"", quiet = TRUE, encoding = "UTF-8")
  data <- read_table_text(path, header_row, separator, decimal, shown)
  if (length(headings) == length(data)) names(data) <- trimws(sub("^\ufeff", "", headings))
  if (nrow(data) == 0) abort_input(sprintf("%s has headings but no case.", file_name(shown)), "Give a file with cases.")
  data
}

read_table_text <- function(path, header_row, separator, decimal, shown) {
  problem <- NULL
  data <- tryCatch(
    withCallingHandlers(
      data.table::fread(
        file = path, sep = separator, dec = decimal, skip = header_row - 1L, header = TRUE, na.strings = blank_marks,
        strip.white = TRUE, blank.lines.skip = TRUE, encoding = "UTF-8", integer64 = "double", data.table = FALSE,
        check.names = FALSE, showProgress = FALSE
      ),
      warning = function(w) {
        problem <<- conditionMessage(w)
        invokeRestart("muffleWarning")
      }
    ),
    error = function(e) {
      abort_input(sprintf("%s cannot be read as a table.", file_name(shown)), first_line(conditionMessage(e)))
    }
  )
  if (!is.null(problem)) abort_ragged(path, separator, header_row, shown, problem)
  data
}

first_line <- function(text) trimws(strsplit(text, "\n", fixed = TRUE)[[1]][1])

abort_ragged <- function(path, separator, header_row, shown, problem) {
  fields <- utils::count.fields(path, sep = separator, quote = "\"", skip = header_row - 1L, blank.lines.skip = FALSE,
    comment.char = ""
  )
  wrong <- which(!is.na(fields) & fields > 0 & fields != fields[1])
  if (!length(wrong)) abort_input(sprintf("%s cannot be read as a table.", file_name(shown)), first_line(problem))
  row <- wrong[1]
  abort_input(
    sprintf("Row %d of %s has %d fields where the headings have %d.", row + header_row - 1L, file_name(shown),
      fields[row], fields[1]
    ),
    "Look for a delimiter inside a text that is not in quotes."
  )
}

find_separator <- function(lines) {
  bare <- gsub("\"[^\"]*\"", "", utils::head(lines, 50))
  counts <- vapply(c(",", ";", "\t"), function(mark) {
    found <- lengths(regmatches(bare, gregexpr(mark, bare, fixed = TRUE)))
    if (length(found) && found[1] > 0) mean(found == found[1]) + min(found[1], 100) / 1000 else 0
  }, 0)
  if (all(counts == 0)) "," else names(counts)[which.max(counts)]
}

find_decimal <- function(lines, separator) {
  if (separator == ",") return(".")
  with_comma <- sum(grepl("[0-9],[0-9]", lines))
  with_point <- sum(grepl("[0-9][.][0-9]", lines))
  if (with_comma > with_point) "," else "."
}
