#' Bring in a file of cases and variables
#'
#' Reads delimited text (comma, semicolon or tab, found by itself). The file is never changed.
#'
#' @param path The path of the file; `"-"` reads standard input.
#' @param sheet Not used for delimited text.
#' @param header_row The row of the headings, counted from 1; rows above it are passed over.
#' @param codebook The path of a codebook (CSV) or a data frame, as for [as_study()]. When `NULL`, a file
#'   `codebook.csv` in the same folder is used if there is one.
#' @param missing_codes Values that stand for "no answer", as for [as_study()].
#' @param decimal The decimal mark, `"."` or `","`; found by itself when `NULL`.
#' @return A study (class `unsere_study`); its `provenance` says which file, how many rows and what was decided.
#' @section Errors: `unsere_error_input` when the file is not there, is empty, or cannot be read as a table.
#' @examples
#' study <- read_study(demo_file("learners.csv"))
#' study
#' @export
read_study <- function(path, sheet = NULL, header_row = 1L, codebook = NULL, missing_codes = NULL, decimal = NULL) {
  check_path(path)
  if (identical(path, "-")) {
    source <- copy_of_standard_input()
    on.exit(unlink(source))
  } else {
    source <- path
  }
  data <- read_delimited(source, header_row, decimal, shown = path)
  build_study(data, codebook, missing_codes, list(file = path, first_row = header_row + 1L))
}

check_path <- function(path) {
  if (!is.character(path) || length(path) != 1L || is.na(path)) {
    abort_usage("`path` must be one string.", "For example read_study(\"learners.csv\").")
  }
  if (identical(path, "-")) return(invisible())
  if (!file.exists(path)) {
    folder <- dirname(path)
    near <- if (dir.exists(folder)) nearest_names(basename(path), list.files(folder))
    hint <- if (length(near)) sprintf("In that folder: %s.",
      paste(near, collapse = ", ")) else "Check the name and the folder."
    abort_input(sprintf("There is no file %s.", path), hint)
  }
  if (dir.exists(path)) abort_input(sprintf("%s is a folder.", path), "Give the name of a file in it.")
  if (file.access(path, 4) != 0) abort_input(sprintf("%s may not be read.", path), "Ask for permission to read it.")
}

copy_of_standard_input <- function() {
  copy <- tempfile(fileext = ".csv")
  input <- file("stdin", open = "rb")
  on.exit(close(input))
  output <- file(copy, open = "wb")
  repeat {
    bytes <- readBin(input, "raw", 1e6)
    if (!length(bytes)) break
    writeBin(bytes, output)
  }
  close(output)
  copy
}
