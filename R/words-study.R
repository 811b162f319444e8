#' @export
format.unsere_study <- function(x, ...) {
  from <- x$provenance$file
  book <- x$codebook
  c(
    set_title(sprintf("Study%s", if (is.null(from)) "" else paste(" from", file_name(from)))),
    sprintf("  %s, %s", count_of(nrow(x$data), "case"), count_of(ncol(x$data), "variable")),
    if (length(x$provenance$decisions)) paste0("  ", x$provenance$decisions),
    "",
    set_table(list(
      variable = book$variable, label = ifelse(is.na(book$label), "", heading_of(book, book$variable)),
      level = book$level, role = book$role,
      missing = format(vapply(x$data, function(column) sum(is.na(column)), 0L))
    ), left = 4L)
  )
}

#' @export
print.unsere_study <- function(x, ...) {
  cat(format(x, ...), sep = "\n")
  invisible(x)
}

#' @export
as.data.frame.unsere_study <- function(x, ...) x$data
