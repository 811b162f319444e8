# Names: of files as they are told, of columns as they are checked.

check_names <- function(names, file) {
  where <- if (is.null(file)) "the data" else file_name(file)
  if (!length(names)) abort_input(problem("%s has no column.", where), "Give a table with columns.")
  twice <- unique(names[duplicated(names)])
  if (length(twice)) {
    at <- which(names == twice[1])
    abort_input(
      problem("Columns %s of %s share the name \"%s\".", paste(at, collapse = " and "), where, twice[1]),
      "Give every column a name of its own."
    )
  }
}

#' A name for each column: one without a heading is called by its place, the first one "row", as it mostly counts or names
#' the cases
#' @return A list: `names`, `notes`.
#' @noRd
name_unnamed <- function(names) {
  names[is.na(names)] <- ""
  empty <- which(!nzchar(names))
  if (!length(empty)) return(list(names = names))
  for (at in empty) {
    free <- c(if (at == 1L) free_row_names, make.unique(c(names, sprintf("column_%d", at)), "_")[length(names) + 1L])
    names[at] <- setdiff(free, names)[1]
  }
  notes <- lapply(utils::head(empty, 4L), function(at) template("column %d is called \"%s\"", at, names[at]))
  more <- if (length(empty) > 4L) template("; and %d more", length(empty) - 4L) else ""
  list(names = names, notes = template("without a heading: %s%s", shown(notes, "parts", "; "), more))
}

free_row_names <- c("row", "row_name", "name_of_row")

#' Text that can be shown anywhere: line breaks as spaces, without the characters that steer terminals and spoil XML
#' @noRd
plain_text <- function(text) {
  odd <- which(grepl("[[:cntrl:]]", text))
  if (length(odd)) text[odd] <- gsub("[[:cntrl:]]", "", gsub("[\r\n\t]+", " ", text[odd]))
  text
}

# Lines and tabs stay; other marks that cannot be seen go, as documents do not take them.
without_control <- function(text) {
  odd <- which(grepl("[\001-\010\013\014\016-\037\177]", text, perl = TRUE))
  if (length(odd)) text[odd] <- gsub("[\001-\010\013\014\016-\037\177]", "", text[odd], perl = TRUE)
  text
}

file_name <- function(path) if (identical(path, "-")) "standard input" else basename(path)

#' The order of words in which the numbers in them count: Y7, Y8, Y10
#' @noRd
natural_order <- function(words, method = "auto") {
  if (!any(grepl("[0-9]", words))) return(order(words, method = method))
  parts <- regmatches(words, gregexpr("[0-9]+", words))
  padded <- words
  regmatches(padded, gregexpr("[0-9]+", words)) <- lapply(parts, function(digits) {
    paste0(strrep("0", pmax(0L, 15L - nchar(digits))), digits)
  })
  order(padded, words, method = method)
}

# Sorted; words with numbers in them by these.
in_order <- function(values, method = "auto") {
  if (is.character(values)) values[natural_order(values, method)] else sort(values)
}
