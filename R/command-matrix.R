command_matrix <- function(words, options) {
  check_output(options, words[1])
  if (!is.null(options$table)) check_target(options$table, words[1])
  if (!is.null(options$chunk_rows)) return(put_matrix(chunked_matrix(words, options), options))
  study <- study_option(words[1], options)
  checked <- function(names) {
    if (!is.null(names)) {
    unique(vapply(names, function(name) check_variable(study, name), "", USE.NAMES = FALSE))
  }
  }
  sides <- list(rows = checked(words_option(options, "rows")), columns = checked(words_option(options, "columns")))
  result <- matrix_names(study, checked(words[-1]), sides, checked(options$by), matrix_plan(options))
  put_matrix(result, options)
}

matrix_plan <- function(options) {
  list(
    coefficient = options$coefficient, missing = options$missing, multiplicity = options$multiplicity,
    highlight = number_option(options, "highlight"), expect = options$expect,
    confidence = number_option(options, "confidence"), threads = number_option(options, "threads")
  )
}

#' A file read chunk after chunk, for data larger than memory
#' @noRd
chunked_matrix <- function(words, options) {
  unfit <- intersect(c("by", "rows", "columns", "sheet", "list"), names(options))
  if (length(unfit)) abort_usage(sprintf("--%s does not go with --chunk-rows.", unfit[1]), "Leave one of them out.")
  moments <- do.call(gather_moments, c(list(words[1]), as.list(words[-1]), list(
    chunk_rows = number_option(options, "chunk_rows"), missing_codes = words_option(options, "missing_codes"),
    decimal = or_default(options$decimal, "."), threads = number_option(options, "threads")
  )))
  matrix_from_moments(moments, matrix_plan(options))
}

put_matrix <- function(result, options) {
  if (!is.null(options$table)) {
    write_tables(result, options$table, stars = isTRUE(options$stars), intervals = isTRUE(options$intervals))
    note(options, sprintf("Table written to %s.", options$table))
  }
  put_result(if (isTRUE(options$list)) list_pairs(result, strength_option(options)) else result, options)
}
