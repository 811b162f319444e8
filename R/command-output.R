# Results put out: to the terminal or to a file, in the form asked for.

check_output <- function(options, file) {
  if (!is.null(options$format)) one_of(options$format, output_arguments()$format$allowed, "--format")
  if (!is.null(options$out)) check_target(options$out, file)
}

put_result <- function(result, options, door) {
  lines <- switch(or_default(options$format, "text"),
    text = format(result, door = door),
    json = as_json(result, door),
    csv = as_csv(csv_fields(result)),
    markdown = as_markdown(result)
  )
  if (is.null(options$out)) return(writeLines(enc2native(lines)))
  replace_file(lines, options$out)
  note(options, sprintf("Written to %s.", options$out))
}

note <- function(options, text) if (!isTRUE(options$quiet)) message(text)

check_target <- function(path, file = NULL) {
  same <- function(a, b) identical(normalizePath(a, mustWork = FALSE), normalizePath(b, mustWork = FALSE))
  if (!is.null(file) && file.exists(path) && same(path, file)) {
    abort_usage(sprintf("%s is the data file; it is never written to.", path), "Give --out another name.")
  }
  check_folder_of(path)
  if (dir.exists(path)) abort_input(sprintf("%s is a folder.", path), "Give the name of a file.")
  if (file.access(dirname(path), 2) != 0) {
    abort_input(sprintf("Nothing may be written to %s.", dirname(path)), "Choose another folder.")
  }
}
