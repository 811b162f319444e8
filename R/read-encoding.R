# From bytes to UTF-8 text: byte-order marks, encodings, and files that are no text at all.

#' The path of a UTF-8 text with the same content: the file itself, or a copy in the session's own folder
#'
#' @return A list: `path`, `encoding`, `copied`.
#' @noRd
as_utf8_file <- function(path, encoding, shown) {
  bytes <- readBin(path, "raw", min(file.size(path), 4e6))
  mark <- byte_order_mark(bytes)
  guessed <- is.null(encoding) && is.null(mark)
  if (is.null(encoding)) encoding <- if (is.null(mark)) guess_encoding(bytes, path, shown) else mark
  if (toupper(encoding) %in% c("UTF-8", "UTF8", "ASCII") && (is.null(mark) || mark == "UTF-8")) {
    if (!guessed) check_utf8(path, bytes, shown)
    return(list(path = path, encoding = "UTF-8", copied = FALSE))
  }
  all_bytes <- readBin(path, "raw", file.size(path))
  text <- tryCatch(iconv(list(all_bytes), encoding, "UTF-8")[[1]], error = function(e) abort_encoding(encoding, shown))
  if (is.na(text)) abort_encoding(encoding, shown)
  copy <- tempfile(fileext = ".csv")
  decoded <- charToRaw(sub("^\ufeff", "", text))
  writeBin(decoded, copy)
  check_copied(copy, length(decoded))
  list(path = copy, encoding = encoding, copied = TRUE)
}

#' What comes out of somewhere bit by bit, as a file
#' @param read Gives the next bytes; none at the end, `NULL` where it cannot go on.
#' @return A list: `path` and `length`, above `most` where it went on beyond that; no length where it could not go on.
#' @noRd
copy_of_input <- function(read, most = Inf) {
  copy <- tempfile(fileext = ".csv")
  output <- file(copy, open = "wb")
  length <- 0
  repeat {
    bytes <- read()
    if (is.null(bytes)) length <- NULL
    if (!length(bytes) || length > most) break
    writeBin(bytes, output)
    length <- length + length(bytes)
  }
  close(output)
  if (!is.null(length)) check_copied(copy, length)
  list(path = copy, length = length)
}

#' A copy is whole, or the disk is full: what a part of a file says is not what the file says
#' @noRd
check_copied <- function(copy, bytes) {
  if (isTRUE(file.size(copy) == bytes)) return(invisible())
  unlink(copy)
  abort_input(
    problem("There is no space left in %s for a copy to read from.", dirname(copy)),
    "Free some space there, or name another folder in the variable TMPDIR."
  )
}

byte_order_mark <- function(bytes) {
  first <- as.integer(utils::head(bytes, 3))
  if (identical(first, c(239L, 187L, 191L))) return("UTF-8")
  if (identical(first[1:2], c(255L, 254L))) return("UTF-16LE")
  if (identical(first[1:2], c(254L, 255L))) return("UTF-16BE")
  NULL
}

guess_encoding <- function(bytes, path, shown) {
  if (length(grepRaw(as.raw(0), bytes, fixed = TRUE))) {
    # Two bytes a letter, without the mark that says so.
    first <- utils::head(bytes, 2000L) == as.raw(0)
    odd <- seq_along(first) %% 2L == 1L
    if (mean(first[!odd]) > 0.5 && !any(first[odd])) return("UTF-16LE")
    if (mean(first[odd]) > 0.5 && !any(first[!odd])) return("UTF-16BE")
    abort_input(
      problem("%s is not a text file.", file_name(shown)),
      "Delimited text was expected; a workbook needs its own ending, such as .xlsx or .ods."
    )
  }
  if (validUTF8(rawToChar(bytes)) ||
    validUTF8(rawToChar(whole_characters(bytes, file.size(path))))) "UTF-8" else "windows-1252"
}

# The first part of a long file may end inside a character.
whole_characters <- function(bytes, size) {
  if (length(bytes) == size) return(bytes)
  from <- max(1L, length(bytes) - 65535L)
  last <- max(which(bytes[from:length(bytes)] == as.raw(10)), 0L)
  if (last > 0) bytes[seq_len(from - 1L + last)] else bytes
}

check_utf8 <- function(path, bytes, shown) {
  if (!validUTF8(rawToChar(whole_characters(bytes[bytes != as.raw(0)], file.size(path))))) {
    abort_encoding("UTF-8", shown)
  }
}

abort_encoding <- function(encoding, shown) {
  abort_input(
    problem("%s cannot be decoded as %s.", file_name(shown), encoding),
    "Give its encoding, for example encoding = \"windows-1252\", or leave it to be found."
  )
}
