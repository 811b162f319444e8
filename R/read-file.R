# A file before it is read: whether it is there, what it is, and whether it stays the same.

file_state <- function(path) file.info(path, extra_cols = FALSE)[c("size", "mtime")]

# What stands after the last point of a file's name, in small letters, and what stands before it. R's package for it takes
# longer to load than a small file to read.
file_ending <- function(path) ifelse(grepl("[.][[:alnum:]]+$", path), tolower(sub("^.*[.]", "", path)), "")
file_stem <- function(path) sub("[.][[:alnum:]]+$", "", basename(path))

file_kind <- function(path) {
  ending <- file_ending(path)
  known <- c(xlsx = "xlsx", xlsm = "xlsx", ods = "ods", parquet = "parquet", json = "json", jsonl = "json", ndjson = "json")
  if (ending %in% names(known)) return(known[[ending]])
  # What programs save as .xls is often a page, or a newer workbook.
  if (ending == "xls") {
    first <- tryCatch(as.integer(readBin(path, "raw", 4L)), error = function(e) 0L)
    if (identical(first[1:2], c(80L, 75L))) return("xlsx")
    if (!identical(first, c(208L, 207L, 17L, 224L))) return("text")
  }
  if (ending %in% c("xls", "sav", "dta", "rds", "pdf", "doc", "docx", "numbers", "zip")) {
    abort_input(
      problem("Files that end in .%s cannot be read.", ending),
      "Save it as .xlsx, .ods, .csv, .parquet or .json."
    )
  }
  "text"
}

# A tab is hard to type.
as_delimiter <- function(text) if (is_word(text) && text %in% c("tab", "\\t")) "\t" else text

check_reading <- function(header_row, decimal, delimiter) {
  if (!is.null(header_row) && (!is_whole(header_row) || header_row < 1)) {
    abort_usage("`header_row` must be one whole number from 1 on.", "The rows are counted from 1.")
  }
  if (!is.null(decimal)) one_of(decimal, c(".", ","), "decimal")
  if (!is.null(delimiter)) one_of(delimiter, c(",", ";", "\t", "|", "spaces"), "delimiter")
}

check_path <- function(path) {
  if (!is.character(path) || length(path) != 1L || is.na(path)) {
    abort_usage("`path` must be one string.", "For example read_study(\"learners.csv\").")
  }
  if (identical(path, "-")) return(invisible())
  if (!file.exists(path)) {
    folder <- dirname(path)
    near <- if (dir.exists(folder)) nearest_names(basename(path), list.files(folder))
    hint <- if (length(near)) sprintf(
      "In that folder: %s.",
      paste(near, collapse = ", ")
    ) else "Check the name and the folder."
    abort_input(problem("There is no file %s.", path), hint)
  }
  if (dir.exists(path)) abort_input(problem("%s is a folder.", path), "Give the name of a file in it.")
  if (file.access(path, 4) != 0) abort_input(problem("%s may not be read.", path), "Ask for permission to read it.")
}

#' What comes through standard input or a pipe, as a file
#' @noRd
copy_of_stream <- function(path) {
  input <- file(path, open = "rb", raw = path != "stdin")
  on.exit(close(input))
  copy_of_input(function() readBin(input, "raw", 1e6))$path
}
