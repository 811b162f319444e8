#' Checked before anything is computed: the form of the output, and where it goes
#' @noRd
check_output <- function(options, file) {
  if (!is.null(options$format)) one_of(options$format, c("text", "json", "csv", "markdown"), "--format")
  if (!is.null(options$out)) check_target(options$out, file)
}

#' Write a result in the form asked for, to the screen or to a file
#' @noRd
put_result <- function(result, options) {
  form <- if (is.null(options$format)) "text" else options$format
  lines <- switch(form,
    text = format(result), json = as_json(result), csv = as_csv(csv_fields(result)), markdown = as_markdown(result)
  )
  if (is.null(options$out)) return(writeLines(enc2native(lines)))
  replace_file(lines, options$out)
  note(options, sprintf("Written to %s.", options$out))
}

note <- function(options, text) if (!isTRUE(options$quiet)) message(text)

check_target <- function(path, file = NULL) {
  if (!is.null(file) && file.exists(path) && identical(normalizePath(path), normalizePath(file, mustWork = FALSE))) {
    abort_usage(sprintf("%s is the data file; it is never written to.", path), "Give --out another name.")
  }
  if (!dir.exists(dirname(path))) abort_input(sprintf("There is no folder %s.", dirname(path)), "Make it first.")
  if (dir.exists(path)) abort_input(sprintf("%s is a folder.", path), "Give the name of a file.")
  if (file.access(dirname(path), 2) != 0) abort_input(sprintf("Nothing may be written to %s.", dirname(path)),
    "Choose another folder.")
}
