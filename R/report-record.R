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
  told <- lapply(results[c("matrix", "rank")], function(result) result$variables$variable)
  c(unlist(brief_names(results$brief)[-(1:2)], use.names = FALSE), unlist(told, use.names = FALSE))
}

#' @return A list: `brief` (its lines), `columns` (for each its kind, and its levels where it has an order), `plausible`
#'   (the values of each score known by several), `codebook`, `aside` (cases left aside), `rows` (in the file).
#' @noRd
run_record <- function(results) {
  study <- results$study
  used <- used_variables(results)
  if (is_vast(study, used) || share_settings(results$brief)$rows != "all") {
    return(list(brief = as.list(results$lines), codebook = book_entries(study, used)))
  }
  list(
    brief = as.list(results$lines),
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
  columns <- lapply(record$columns, function(told) restore_column(cells[[told$variable]], told))
  names(columns) <- vapply(record$columns, `[[`, "", "variable")
  entries <- lapply(record$codebook, function(entry) lapply(entry, function(value) or_default(value, NA_character_)))
  book <- do.call(rbind, lapply(entries, as.data.frame))
  plausible <- or_default(record$plausible, brief$plausible)
  kept <- setdiff(names(columns), names(plausible)) # their scores are made again
  study <- as_study(list2DF(columns[kept]))
  study <- with_book(study, book[book$variable %in% kept, ], unlist(record$rows), record$aside)
  for (name in names(plausible)) {
    label <- book$label[book$variable == name]
    study <- with_plausible(study, name, unlist(plausible[[name]]), if (length(label) && !is.na(label)) label)
  }
  if (is.null(brief$design)) study else with_design(study, lapply(brief$design, unlist))
}

restore_column <- function(text, told) {
  if (is.null(text)) abort_input(sprintf("The rows lack %s.", told$variable), "The folder is not whole.")
  text[!nzchar(text)] <- NA
  switch(told$kind,
    numeric = as.numeric(text),
    ordered = factor(text, unlist(told$levels), ordered = TRUE),
    date = as.Date(text),
    moment = as.POSIXct(as.numeric(text), origin = "1970-01-01", tz = "UTC"),
    unguard_text(text)
  )
}

is_result_folder <- function(folder) {
  file <- file.path(folder, "results.json")
  file.exists(file) && any(grepl("\"kind\": \"results\"", readLines(file, 5L, warn = FALSE), fixed = TRUE))
}
