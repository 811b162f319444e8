# What a folder of results holds so that all of it can be worked out again: the rows that were used, what was known of
# their variables, and the brief.

#' The variables that a report rests on
#' @noRd
used_variables <- function(results) {
  study <- results$study
  book <- study_book(study)
  roles <- c("case", "time", "group", "weight", "stratum", "cluster", "replicate")
  plausible <- unlist(study_plausible(study), use.names = FALSE)
  intersect(study_names(study), c(book$variable[book$role %in% roles], results$names, asked_variables(results), plausible))
}

# What is asked about without being told of one by one: answers of multiple choice, controls, candidates.
asked_variables <- function(results) {
  variables <- lapply(results[c("matrix", "rank")], function(result) result$variables$variable)
  c(unlist(brief_names(results$brief)[-(1:2)], use.names = FALSE), unlist(variables, use.names = FALSE))
}

#' A brief with the route of interval and test that an earlier run of it took, where it names none itself
#' @param record Of that run; those before the data were asked tell no route, and took the textbook's.
#' @noRd
as_before <- function(read, record) {
  attr(read$brief, "route") <- or_default(record$route, "analytic")
  read
}

#' @return A list: `brief` (its lines), `route`, `columns` (for each its kind, and its levels where it has an order),
#'   `plausible` (the values of each score known by several), `codebook`, `aside` (cases excluded), `rows` (in the file).
#' @noRd
run_record <- function(results) {
  study <- results$study
  used <- used_variables(results)
  route <- or_default(results$settings$interval, "auto")
  if (!gives_rows(study, used) || share_settings(results$brief)$rows != "all") {
    return(list(brief = as.list(results$lines), route = route, codebook = book_entries(study, used)))
  }
  list(
    brief = as.list(results$lines), route = route,
    columns = lapply(used, function(name) {
      column <- study_column(study, name)
      list(variable = name, kind = kind_of_column(column), levels = if (is.factor(column)) as.list(levels(column)))
    }),
    plausible = lapply(study_plausible(study), as.list), codebook = book_entries(study, used),
    aside = study_provenance(study)$aside, rows = as.list(file_rows(study))
  )
}

kind_of_column <- function(column) {
  if (is.ordered(column)) return("ordered")
  if (inherits(column, "Date")) return("date")
  if (inherits(column, "POSIXt")) return("moment")
  if (is.numeric(column)) "numeric" else "text"
}

#' The study that a record tells of
#' @param cells The rows used, every column as text.
#' @noRd
restore_study <- function(record, cells, brief) {
  columns <- lapply(record$columns, function(column_entry) restore_column(cells[[column_entry$variable]], column_entry))
  names(columns) <- vapply(record$columns, `[[`, "", "variable")
  entries <- lapply(record$codebook, function(entry) lapply(entry, function(value) or_default(value, NA_character_)))
  book <- do.call(rbind, lapply(entries, as.data.frame))
  plausible <- or_default(record$plausible, brief$plausible)
  plain <- setdiff(names(columns), names(plausible)) # their scores are made again
  study <- as_study(list2DF(columns[plain]))
  study <- with_book(study, book[book$variable %in% plain, ], unlist(record$rows), record$aside)
  for (name in names(plausible)) {
    label <- book$label[book$variable == name]
    study <- with_plausible(study, name, unlist(plausible[[name]]), if (length(label) && !is.na(label)) label)
  }
  if (!is.null(brief$imputed)) study <- as_imputed(study, book)
  if (is.null(brief$design)) study else with_design(study, lapply(brief$design, unlist))
}

restore_column <- function(text, entry) {
  if (is.null(text)) abort_input(problem("The rows lack %s.", entry$variable), "The folder is incomplete.")
  text[!nzchar(text)] <- NA
  switch(entry$kind,
    numeric = as.numeric(text),
    ordered = factor(text, unlist(entry$levels), ordered = TRUE),
    date = as.Date(text),
    moment = as.POSIXct(as.numeric(text), origin = "1970-01-01", tz = "UTC"),
    unguard_text(text)
  )
}

is_result_folder <- function(folder) {
  file <- file.path(folder, "results.json")
  file.exists(file) && any(grepl("\"kind\": \"results\"", readLines(file, 5L, warn = FALSE), fixed = TRUE))
}

#' What of a run cannot be worked out from its rows, from the record that it left: how the file was read, the cautions, when
#'   and by what it was written
#' @param results Worked out anew from the rows.
#' @noRd
with_recorded_parts <- function(results, record) {
  intake <- record$intake
  intake$decisions <- unlist(intake$decisions)
  results$intake <- intake
  results$made <- record$made
  if (!is.null(results$matrix) && length(record$left_out)) {
    places <- lapply(record$left_out, function(value) if (length(value)) unlist(value))
    results$matrix$left_out <- places
  }
  for (place in record$cautions) results <- put_cautions(results, place$place, place$rows)
  results
}

#' The cautions of all results, each table with its place among them
#' @return A list of lists: `place` (keys, one inside the other) and `rows`.
#' @noRd
placed_cautions <- function(value, place = character()) {
  out <- list()
  keys <- if (is.null(names(value))) seq_along(value) else names(value)
  for (k in seq_along(value)) {
    part <- value[[k]]
    here <- c(place, as.character(keys[k]))
    if (inherits(part, "unsere_cautions")) {
      rows <- lapply(seq_len(nrow(part)), function(row) {
        c(lapply(unclass(part), `[[`, row), list(labels = as.list(attr(part$figures[[row]], "labels"))))
      })
      out <- c(out, list(list(place = as.list(here), rows = rows)))
    } else if (is.list(part) && !is.data.frame(part) && length(here) < 5L) {
      out <- c(out, placed_cautions(part, here))
    }
  }
  out
}

put_cautions <- function(results, place, rows) {
  place <- lapply(unlist(place), function(key) if (grepl("^[0-9]+$", key)) as.integer(key) else key)
  there <- Reduce(
    function(value, key) if (!is.null(value) && (is.character(key) || key <= length(value))) value[[key]],
    place, results
  )
  if (!inherits(there, "unsere_cautions")) return(results)
  word <- function(row, name) if (is_word(row[[name]])) row[[name]] else NA_character_
  table <- list2DF(list(
    code = vapply(rows, word, "", "code"), severity = vapply(rows, word, "", "severity"),
    x = vapply(rows, word, "", "x"), y = vapply(rows, word, "", "y"),
    figures = lapply(rows, function(row) structure(plain_values(row$figures), labels = unlist(row$labels))),
    next_step = lapply(rows, function(row) if (is.list(row$next_step)) plain_values(row$next_step))
  ), nrow = length(rows))
  put_in(results, place, as_cautions(table))
}

put_in <- function(value, place, part) {
  if (!length(place)) return(part)
  former <- attributes(value)
  value <- unclass(value)
  value[[place[[1]]]] <- put_in(value[[place[[1]]]], place[-1], part)
  attributes(value) <- former
  value
}

# Arrays of JSON as the vectors that they were.
plain_values <- function(value) {
  if (!is.list(value)) return(value)
  if (!length(value)) return(list())
  is_single <- function(one) is.atomic(one) && length(one) == 1L
  if (is.null(names(value)) && all(vapply(value, is_single, NA))) return(unlist(value))
  lapply(value, plain_values)
}
