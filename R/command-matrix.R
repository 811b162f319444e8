command_matrix <- function(words, options) {
  check_output(options, words[1])
  study <- study_option(words[1], options)
  names <- vapply(words[-1], function(name) check_variable(study, name), "", USE.NAMES = FALSE)
  result <- matrix_names(study, unique(names),
    coefficient = or_default(options$coefficient, "auto"), missing = or_default(options$missing, "pairwise"),
    multiplicity = or_default(options$multiplicity, "holm"), highlight = number_option(options, "highlight", 0.5),
    expect = or_default(options$expect, "either"), confidence = number_option(options, "confidence", 0.95),
    threads = number_option(options, "threads")
  )
  put_result(result, options)
}

#' @export
json_fields.unsere_matrix <- function(result) {
  c(json_head("matrix"), list(
    variables = result$variables$variable, missing = result$missing, multiplicity = result$multiplicity,
    confidence = result$confidence, expect = result$expect, highlight = result$highlight, pairs = result$pairs,
    notes = as.list(result$notes), sentence = in_words(result)
  ))
}

#' @export
as_markdown.unsere_matrix <- function(result) {
  c(markdown_table(matrix_cells(result), left = 3L), "", in_words(result), "", result$notes)
}
