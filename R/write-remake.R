# A folder of results made anew, beside it: each of its files is then compared with its like.

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
    kept <- lapply(record$left_out, function(value) if (length(value)) unlist(value))
    results$matrix$left_out <- kept
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

cautioned_parts <- c("pairs", "matrix", "rank", "items", "flags", "levels")

put_cautions <- function(results, place, rows) {
  place <- lapply(unlist(place), function(key) if (grepl("^[0-9]+$", key)) as.integer(key) else key)
  there <- Reduce(function(value, key) if (!is.null(value) && (is.character(key) || key <= length(value))) value[[key]],
    place, results
  )
  if (!inherits(there, "unsere_cautions")) return(results)
  word <- function(row, name) if (is_word(row[[name]])) row[[name]] else NA_character_
  told <- list2DF(list(
    code = vapply(rows, word, "", "code"), severity = vapply(rows, word, "", "severity"),
    x = vapply(rows, word, "", "x"), y = vapply(rows, word, "", "y"),
    figures = lapply(rows, function(row) structure(plain_values(row$figures), labels = unlist(row$labels))),
    next_step = lapply(rows, function(row) if (is.list(row$next_step)) plain_values(row$next_step))
  ), nrow = length(rows))
  put_in(results, place, as_cautions(told))
}

put_in <- function(value, place, part) {
  if (!length(place)) return(part)
  kept <- attributes(value)
  value <- unclass(value)
  value[[place[[1]]]] <- put_in(value[[place[[1]]]], place[-1], part)
  attributes(value) <- kept
  value
}

# Arrays of JSON as the vectors that they were.
plain_values <- function(value) {
  if (!is.list(value)) return(value)
  if (!length(value)) return(list())
  if (is.null(names(value)) && all(vapply(value, function(one) is.atomic(one) && length(one) == 1L, NA))) return(unlist(value))
  lapply(value, plain_values)
}

#' The files of a run made anew in a folder of their own
#' @return The folder.
#' @noRd
remake_folder <- function(results) {
  folder <- tempfile("unsere-anew-")
  dir.create(folder)
  worker <- open_aside()
  on.exit(worker$stop())
  asked <- as.character(unlist(or_default(results$brief$report$formats, list("html"))))
  forms <- suppressMessages(possible_forms(setdiff(asked, "pdf")))
  forms <- forms[names(forms) %in% asked]
  suppressMessages(write_results(new_report(results), results_document(results), forms, folder, NULL, function(text) NULL, worker))
  folder
}
