command_look <- function(words, options) {
  check_output(options, words[1])
  study <- study_option(words[1], options)
  put_result(overview(study), options)
}

#' @export
json_fields.unsere_overview <- function(result) {
  origin <- result$provenance[c("file", "kind", "sheet", "header_row", "digest", "decisions")]
  origin$decisions <- as.list(origin$decisions)
  c(json_head("overview"), list(
    cases = result$cases, complete = result$complete, variables = result$variables,
    provenance = Filter(Negate(is.null), origin[!is.na(names(origin))])
  ))
}

#' @export
as_markdown.unsere_overview <- function(result) {
  rows <- result$variables
  cells <- lapply(rows[setdiff(names(rows), c("role", "distinct", "q1", "q3"))], function(column) {
    if (is.double(column)) format_number(column, 4) else ifelse(is.na(column), undefined_mark(), as.character(column))
  })
  markdown_table(cells, left = 4L)
}
