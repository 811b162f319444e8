# Results put out: to the terminal or to a file, in the form asked for.

check_output <- function(options, file) {
  if (!is.null(options$format)) one_of(options$format, output_arguments()$format$allowed, "--format")
  if (!is.null(options$out)) check_target(options$out, inputs_of(file, options))
}

put_result <- function(result, options, door) {
  if (identical(options$format, "json")) return(put_json(result, options, door))
  lines <- switch(or_default(options$format, "text"),
    text = format(result, door = door),
    csv = as_csv(csv_fields(result)),
    markdown = as_markdown(result)
  )
  if (is.null(options$out)) return(writeLines(enc2native(lines)))
  replace_file(lines, options$out)
  note(options, sprintf("Written to %s.", options$out))
}

put_json <- function(result, options, door) {
  threads <- sound_threads(options$threads)
  # Bytes go out as they are where R has a stream of bytes; standard output has one of text only.
  if (is.null(options$out)) {
    text <- function(piece) if (is.raw(piece)) rawToChar(piece) else enc2native(piece)
    return(stream_json(result, door, function(piece) cat(text(piece)), threads))
  }
  replace_by(options$out, function(draft) {
    write_bytes(raw(), draft)
    bytes <- function(piece) if (is.raw(piece)) piece else charToRaw(enc2utf8(piece))
    stream_json(result, door, function(piece) write_bytes(bytes(piece), draft, append = TRUE), threads)
  })
  note(options, sprintf("Written to %s.", options$out))
}

note <- function(options, text) if (!isTRUE(options$quiet)) message(text)

#' What is read to answer: the data, and the codebook named or lying beside them
#' @noRd
inputs_of <- function(file, options) {
  beside <- if (is.null(options$codebook)) file.path(dirname(file), "codebook.csv")
  c(data = file, codebook = options$codebook, codebook = beside)
}

#' @param inputs Paths of what is read, named by what each is.
#' @noRd
check_target <- function(path, inputs = character()) {
  same <- vapply(inputs, is_same_file, NA, path)
  if (any(same)) {
    abort_usage(problem("%s is the %s file; it is never written to.", path, names(inputs)[same][1]), "Give another name.")
  }
  if (!is_regular(path)) return(invisible())
  check_folder_of(path)
  if (dir.exists(path)) abort_input(problem("%s is a folder.", path), "Give the name of a file.")
  if (file.access(dirname(path), 2) != 0) {
    abort_input(problem("You have no permission to write to %s.", dirname(path)), "Choose another folder.")
  }
}
