# Names: of files as they are told, of columns as they are checked.

check_names <- function(names, file) {
  where <- if (is.null(file)) "the data" else file_name(file)
  if (!length(names)) abort_input(sprintf("%s has no column.", where), "Give a table with columns.")
  empty <- which(is.na(names) | !nzchar(trimws(names)))
  if (length(empty)) {
    abort_input(sprintf("Column %d of %s has no name.", empty[1], where), "Give every column a heading.")
  }
  twice <- unique(names[duplicated(names)])
  if (length(twice)) {
    at <- which(names == twice[1])
    abort_input(
      sprintf("Columns %s of %s share the name \"%s\".", paste(at, collapse = " and "), where, twice[1]),
      "Give every column a name of its own."
    )
  }
}

#' Text that can be shown anywhere: line breaks as spaces, without the characters that steer terminals and spoil XML
#' @noRd
plain_text <- function(text) {
  odd <- which(grepl("[[:cntrl:]]", text))
  if (length(odd)) text[odd] <- gsub("[[:cntrl:]]", "", gsub("[\r\n\t]+", " ", text[odd]))
  text
}

file_name <- function(path) if (identical(path, "-")) "standard input" else basename(path)
