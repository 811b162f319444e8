# Items that are meant as one scale, and what the answers to them tell of how they were given.

#' Sets of variables that are meant as one scale: with one set of words, or of one scale and one beginning of their names
#' @return A list of names, four or more in each.
#' @noRd
find_batteries <- function(study, least = 4L) {
  book <- book_entries(study, names_with(study, "measure", "ordinal"))
  if (nrow(book) < least) return(list())
  columns <- study_columns(study, book$variable)
  ends <- vapply(columns, function(column) paste(range(as.double(column), na.rm = TRUE), collapse = " "), "")
  # Items without words belong together where their names begin alike: m1, m2; q3_a, q3_b.
  stem <- sub("[_. ]?([0-9]+|[a-z])$", "", question_of(book$variable))
  key <- ifelse(is.na(book$values), paste(stem, ends), book$values)
  Filter(function(items) length(items) >= least, unname(split(book$variable, factor(key, unique(key)))))
}

#' Cases whose answers may have been given without care
#'
#' Straight-lined: one and the same answer to all items of a battery of five or more. Fast: less than a third of the median
#' time, where a duration is there. Few answers: less than half of the measures. Repeated: as an earlier row in all but the
#' name.
#' @return A data frame: `sign`, `count`, `cases` (a list of names), `detail`.
#' @noRd
answer_signs <- function(study) {
  signs <- list(
    straight = straight_lined(study), fast = fast_ones(study), few = few_answers(study),
    repeated = study_repeats(study)$rows
  )
  signs <- signs[lengths(signs) > 0L]
  out <- data.frame(sign = names(signs), count = lengths(signs), row.names = NULL)
  out$cases <- lapply(unname(signs), function(at) case_names(study, at))
  out
}

straight_lined <- function(study, least = 5L) {
  straight <- lapply(find_batteries(study, least), function(items) {
    columns <- lapply(study_columns(study, items), as.double)
    same <- !is.na(columns[[1]])
    for (column in columns[-1]) same <- same & !is.na(column) & column == columns[[1]]
    # Where many answer alike the items are alike, not the answers careless.
    if (mean(same) > 0.3) integer() else which(same)
  })
  sort(unique(unlist(straight)))
}

fast_ones <- function(study) {
  book <- study_book(study)
  lasting <- book$variable[book$role == "about" & book$level != "nominal"]
  lasting <- Filter(function(name) about_kind(name, book$label[book$variable == name]) == 3L, lasting)
  times <- Find(is.numeric, as.list(study_columns(study, lasting)))
  if (is.null(times)) return(NULL)
  which(times < stats::median(times, na.rm = TRUE) / 3)
}

few_answers <- function(study) {
  measured <- study_columns(study, names_with(study))
  if (length(measured) < 4L) return(NULL)
  blank <- Reduce(`+`, lapply(measured, is.na))
  which(blank > length(measured) / 2)
}
