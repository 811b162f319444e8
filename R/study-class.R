#' Make a study from a data frame
#'
#' A study is a table of cases and variables together with its codebook and where it came from. The data frame itself is
#' not changed.
#'
#' @param data A data frame: a row a case, a column a variable, every column named once.
#' @param codebook What is known of the variables: `NULL` (found from the data), a data frame, or the path of a CSV
#'   file, with a row a variable and the columns `variable`, and any of `label`, `unit`, `level` (`numeric`, `ordinal`,
#'   `binary`, `nominal`), `role` (`measure`, `case`, `time`, `group`), `missing_codes` (separated by semicolons),
#'   `source`. See [codebook()].
#' @param missing_codes Values that stand for "no answer", for all variables; for example `c(-9, 99)`. Or a named list
#'   of such values, a name a variable.
#' @return A study (class `unsere_study`): a list of `data`, `codebook` and `provenance`.
#' @section Errors: `unsere_error_input` when the names are missing or repeat, or when the codebook cannot be used.
#' @seealso [read_study()] to bring in a file, [set_variable()] to say what a variable is.
#' @examples
#' tutors <- data.frame(tutor = c("Ada", "Ben", "Cleo", "Dan"), hours = c(4, 7, 2, -9))
#' study <- as_study(tutors, missing_codes = -9)
#' codebook(study)
#' @export
as_study <- function(data, codebook = NULL, missing_codes = NULL) {
  if (inherits(data, "unsere_study")) return(data)
  if (!is.data.frame(data)) {
    abort_input(sprintf("A study is made from a data frame, not from %s.", class(data)[1]),
      "Try as.data.frame() first.")
  }
  build_study(as.data.frame(data), codebook, missing_codes, list(file = NULL, decimal_mark = "."))
}

#' Columns in, study out: the one way in for files and data frames alike
#' @noRd
build_study <- function(data, codebook, missing_codes, provenance) {
  check_names(names(data), provenance$file)
  known <- read_codebook(codebook, names(data), provenance$file)
  codes <- codes_by_variable(names(data), known, missing_codes)
  decisions <- provenance$decisions
  units <- coded <- NULL
  for (name in names(data)) {
    entry <- known[known$variable == name, ]
    column <- data[[name]]
    if (!is.numeric(column)) column <- blank_codes(column, codes[[name]])
    read <- tidy_column(column, entry, provenance$decimal_mark)
    is_code <- matches_code(data[[name]], codes[[name]]) | matches_code(read$values, codes[[name]])
    if (any(is_code)) {
      coded[name] <- sum(is_code)
      read$values[is_code] <- NA
    }
    data[[name]] <- read$values
    units[name] <- if (is.null(read$unit)) NA_character_ else read$unit
    if (!is.null(read$note)) decisions <- c(decisions, sprintf("%s: %s", name, read$note))
  }
  book <- complete_codebook(data, known, codes, units)
  decisions <- c(
    decisions, if (length(coded)) paste("cells that held a missing code:", paste(names(coded), coded, collapse = ", ")),
    attr(book, "decisions"), suspicion_sentences(data, book), summary_row_sentence(data, provenance$rows),
    text_sentences(data, book, provenance$rows)
  )
  attr(book, "decisions") <- NULL
  provenance$decisions <- decisions
  provenance$coded <- coded
  provenance$missing_codes <- missing_codes
  provenance$n_rows <- nrow(data)
  structure(list(data = data, codebook = book, provenance = provenance), class = "unsere_study")
}

# A declared code among text is taken out before the rest is read as numbers.
blank_codes <- function(column, codes) {
  if (length(codes) && (is.character(column) || is.factor(column))) {
    column <- as.character(column)
    column[trimws(column) %in% codes] <- NA
  }
  column
}

suspicion_sentences <- function(data, book) {
  measured <- book$variable[book$role == "measure" & book$level != "nominal"]
  unlist(lapply(measured, function(name) {
    found <- suspicious_codes(data[[name]])
    if (is.null(found)) return(NULL)
    sprintf("%s: %s stands in %s, far outside the others (%s to %s). A missing code? It counts as a value until you say so",
      name, format(found$code, trim = TRUE), vapply(found$count, count_of, "", "cell"), format(found$low),
        format(found$high)
    )
  }))
}

#' Means or sums that stand in the last row, and would count as a case
#' @noRd
summary_row_sentence <- function(data, rows) {
  n <- nrow(data)
  numbers <- Filter(function(column) is.double(column) && !inherits(column, "Date") && !is.na(column[n]), data)
  if (n < 4L || n > 1e5 || length(numbers) < 2L) return(NULL)
  above <- lapply(numbers, function(column) column[-n][!is.na(column[-n])])
  last <- vapply(numbers, `[`, 0, n)
  if (any(lengths(above) < 3L)) return(NULL)
  decimals <- function(v) nchar(sub("^[^.]*[.]?", "", format(v, digits = 12, trim = TRUE, scientific = FALSE)))
  mean_like <- mapply(function(v, others) abs(v - mean(others)) <= 0.5001 * 10^-decimals(v), last, above)
  sum_like <- mapply(function(v, others) abs(v - sum(others)) < 1e-9 * sum(abs(others)) && v > max(others), last, above)
  # Averages have decimals that none of the values has.
  finer <- function(v, others) decimals(v) > max(vapply(unique(others), decimals, 0L))
  kind <- if (all(mean_like) && any(mapply(finer, last, above))) "means" else if (all(sum_like)) "sums"
  if (is.null(kind)) return(NULL)
  sprintf("row %d, the last, holds the %s of the rows above. It counts as a case until a copy of the file leaves it out",
    as.integer(if (is.null(rows)) n else rows[n]), kind)
}

text_sentences <- function(data, book, rows) {
  spoilt <- book$variable[book$level == "numeric" & vapply(data[book$variable], is.character, NA)]
  said <- vapply(spoilt, function(name) text_cells(data[[name]], rows), "")
  sprintf("%s: %s; no figures until they are corrected", spoilt, said)
}

check_names <- function(names, file) {
  where <- if (is.null(file)) "the data" else file_name(file)
  if (!length(names)) abort_input(sprintf("%s has no column.", where), "Give a table with columns.")
  empty <- which(is.na(names) | !nzchar(trimws(names)))
  if (length(empty)) {
    abort_input(sprintf("Column %d of %s has no name.", empty[1], where), "Give every column a heading.")
  }
  twice <- unique(names[duplicated(names)])
  if (length(twice)) {
    at <- which(names == twice[1])
    abort_input(
      sprintf("Columns %s of %s share the name \"%s\".", paste(at, collapse = " and "), where, twice[1]),
      "Give every column a name of its own."
    )
  }
}

file_name <- function(path) if (identical(path, "-")) "standard input" else basename(path)

codes_by_variable <- function(names, known, missing_codes) {
  for_all <- if (is.list(missing_codes)) NULL else missing_codes
  codes <- lapply(names, function(name) {
    declared <- known$missing_codes[known$variable == name]
    declared <- if (length(declared) && !is.na(declared)) trimws(strsplit(declared, ";", fixed = TRUE)[[1]])
    own <- if (is.list(missing_codes)) missing_codes[[name]]
    unique(c(declared, as.character(for_all), as.character(own)))
  })
  stats::setNames(codes, names)
}

matches_code <- function(column, codes) {
  if (!length(codes)) return(FALSE)
  if (is.numeric(column)) {
    numbers <- suppressWarnings(as.numeric(codes))
    !is.na(column) & column %in% numbers[!is.na(numbers)]
  } else {
    !is.na(column) & as.character(column) %in% codes
  }
}

check_study <- function(study) {
  if (inherits(study, "unsere_study")) return(study)
  as_study(study)
}
