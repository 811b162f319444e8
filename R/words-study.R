#' @export
format.unsere_study <- function(x, ...) {
  book <- study_book(x)
  from <- study_file(x)
  decisions <- gather_decisions(study_provenance(x)$decisions)
  # Nothing is fetched only to be counted.
  missing <- if (holds_rows(x)) vapply(study_columns(x, study_names(x)), function(column) sum(is.na(column)), 0L)
  c(
    set_title(say("Study%s", if (is.null(from)) "" else paste(" from", from))),
    sprintf("  %s, %s", count_of(study_size(x), "case"), count_of(nrow(book), "variable")),
    if (length(decisions)) paste0("  ", decisions), "",
    set_table(c(list(
      variable = name_to_type(book, book$variable),
      label = ifelse(is.na(book$label), "", heading_of(book, book$variable)), level = say(book$level), role = say(book$role)
    ), if (!is.null(missing)) list(missing = format(missing))), left_aligned = 4L),
    lines_of_questions(book, book$variable)
  )
}

#' The whole questions of those variables that go by a short label
#' @noRd
lines_of_questions <- function(variables, names) {
  whole <- whole_questions(variables, names)
  if (length(whole)) c("", say("Questions in full"), set_questions(whole))
}

#' @export
print.unsere_study <- function(x, ...) {
  cat(format(x, ...), sep = "\n")
  invisible(x)
}

#' What data without a file are called
#' @param table `NULL`, or a list: `name`, and of several `databases` how many.
#' @noRd
table_title <- function(table) {
  if (is.null(table)) return(say("A data frame"))
  title <- say("Table %s", table$name)
  if (is.null(table$databases)) title else say("%s of %d databases", title, table$databases)
}

#' @export
format.unsere_decisions <- function(x, ...) stats::setNames(fill_templates(unclass(x)), names(x))

#' @export
as.character.unsere_decisions <- function(x, ...) fill_templates(unclass(x))

#' @export
print.unsere_decisions <- function(x, ...) {
  cat(format(x), sep = "\n")
  invisible(x)
}
