# What the command of a matrix can do beside asking: a list of pairs, a table for a paper, chunks of a file larger than
# memory.

matrix_arguments <- function() {
  list(
    list = argument("flag", "list each pair with its test and its sentence"),
    table = argument(
      "path", "also write a table for publication: .docx, .xlsx, .html, .md, .tex, .typ or .csv",
      value = "PATH"
    ),
    stars = argument("flag", "mark p below .05, .01 and .001 with stars in that table"),
    intervals = argument("flag", "add the interval below each r in that table"),
    chunk_rows = argument(
      "whole", "the number of lines read at a time, for files larger than memory (Pearson's r only)",
      value = "N", from = 1,
      to = 1e9
    )
  )
}

ask_matrix <- function(question, words, options, door) {
  # Of a database --table names its table, as for the other commands; a path to write to has an ending.
  if (is_database(words[1]) && is.null(options$sheet) && !is.null(options$table) && !grepl("[.][a-z]+$", options$table)) {
    options[c("sheet", "table")] <- list(options$table, NULL)
  }
  check_output(options, words[1])
  # A table to write is no part of how the data are read, as other commands are told it.
  if (!is.null(options$table)) {
    check_target(options$table, inputs_of(words[1], options))
    door$options$table <- NULL
  }
  result <- if (is.null(options$chunk_rows)) {
    # Here a table is one to write; that of a database is given as a sheet.
    study <- command_study(words[1], options[names(options) != "table"])
    question$answer(study, question_given(question, study, words[-1], options))
  } else {
    chunked_matrix(question, words, options)
  }
  if (!is.null(options$table)) {
    write_tables(result, options$table, stars = isTRUE(options$stars), intervals = isTRUE(options$intervals))
    note(options, sprintf("Table written to %s.", options$table))
  }
  if (isTRUE(options$list)) {
    if (!inherits(result, "unsere_matrix")) abort_usage("--list cannot be combined with --by.", "Leave one of them out.")
    result <- list_pairs(result, or_default(options$strength, "cohen"))
  }
  put_result(result, options, door)
}

chunked_matrix <- function(question, words, options) {
  unfit <- intersect(c("by", "rows", "columns", "sheet", "list", "given", names(design_arguments())), names(options))
  if (length(unfit)) {
    abort_usage(problem("%s cannot be combined with --chunk-rows.", option_name(unfit[1])), "Leave one of them out.")
  }
  check_argument(options$chunk_rows, matrix_arguments()$chunk_rows, "chunk_rows")
  chunking <- options[intersect(names(options), names(formals(gather_moments)))]
  moments <- do.call(gather_moments, c(list(words[1]), as.list(words[-1]), chunking))
  settings <- options[intersect(names(options), names(question$arguments))]
  question$answer(moments, c(list(names = moments$variables), settings))
}
