#' The table of a study with labels and codes on its columns, as R's other packages know them
#' @noRd
labelled_columns <- function(study) {
  book <- study_book(study)
  out <- study_columns(study, study_names(study))
  for (k in seq_len(nrow(book))) {
    column <- out[[k]]
    values <- if (!is.na(book$values[k])) parse_order(book$values[k], book$variable[k])
    if (is.ordered(column)) attr(column, "words") <- NULL
    if (is.numeric(column) && !is.null(values$codes)) {
      named <- values$order != format_code(values$codes)
      attr(column, "labels") <- stats::setNames(values$codes[named], values$order[named])
    }
    codes <- if (!is.na(book$missing_codes[k])) suppressWarnings(as.numeric(code_entry(book$missing_codes[k])))
    if (is.numeric(column) && any(!is.na(codes))) attr(column, "na_values") <- codes[!is.na(codes)]
    if (!is.na(book$label[k])) attr(column, "label") <- book$label[k]
    out[[k]] <- column
  }
  out
}
