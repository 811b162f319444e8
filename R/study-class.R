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
  build_study(as.data.frame(data), codebook, missing_codes, list(file = NULL, first_row = 1L))
}

#' Columns in, study out: the one way in for files and data frames alike
#' @noRd
build_study <- function(data, codebook, missing_codes, provenance) {
  check_names(names(data), provenance$file)
  known <- read_codebook(codebook, names(data), provenance$file)
  codes <- codes_by_variable(names(data), known, missing_codes)
  decisions <- character()
  coded <- integer()
  for (name in names(data)) {
    column <- tidy_column(data[[name]], known[known$variable == name, ])
    is_code <- matches_code(column, codes[[name]])
    if (any(is_code)) coded[name] <- sum(is_code)
    column[is_code] <- NA
    data[[name]] <- column
  }
  if (length(coded)) {
    decisions <- c(decisions, sprintf("%s: %d cells held a missing code", names(coded), coded))
  }
  book <- complete_codebook(data, known, codes)
  provenance$decisions <- decisions
  provenance$coded <- coded
  provenance$n_rows <- nrow(data)
  structure(list(data = data, codebook = book, provenance = provenance), class = "unsere_study")
}

check_names <- function(names, file) {
  where <- if (is.null(file)) "the data" else file_name(file)
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
  if (!length(codes)) return(logical(length(column)))
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
