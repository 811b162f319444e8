# Text and bytes into a file, to the last one.

# In UTF-8 whatever the locale.
write_lines <- function(text, path) {
  whole <- if (length(text)) paste0(paste(enc2utf8(as.character(text)), collapse = "\n"), "\n") else ""
  write_bytes(charToRaw(whole), path)
}

#' @section Errors: where a byte is not taken, with what the system says.
#' @noRd
write_bytes <- function(bytes, path, append = FALSE) {
  trouble <- core_write_bytes(path.expand(enc2native(path)), bytes, append)
  if (nzchar(trouble)) stop(trouble, call. = FALSE)
  invisible()
}

settle_file <- function(path) {
  trouble <- core_settle_file(path.expand(enc2native(path)))
  if (nzchar(trouble)) stop(trouble, call. = FALSE)
}
