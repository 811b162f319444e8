#' Make a study from a data frame
#'
#' A study is a table of cases and variables together with its codebook and where it came from. The data frame itself is
#' not changed.
#'
#' @param data A data frame: a row a case, a column a variable, every column named once.
#' @param codebook What is known of the variables: `NULL` (found from the data), a data frame, or the path of a CSV
#'   file, with a row a variable and the columns `variable`, and any of `label`, `unit`, `level` (`numeric`, `ordinal`,
#'   `binary`, `nominal`), `role` (`measure`, `case`, `time`, `group`), `missing_codes` (separated by semicolons),
#'   `source`, `values` (the order of words, lowest first: `Never < Rarely < Often`; found by itself where they tell
#'   it). See [codebook()].
#' @param missing_codes Values that stand for "no answer", for all variables; for example `c(-9, 99)`. Or a named list
#'   of such values, a name a variable.
#' @return A study (class `unsere_study`): a list of `data`, `codebook` and `provenance`. Of a study that is given, the same
#'   with what is told of its variables; columns with value labels bring their label, and two labelled values become their
#'   words.
#' @section Errors: `unsere_error_input` when the names are missing or repeat, or when the codebook cannot be used.
#' @seealso [read_study()] to bring in a file, [set_variable()] to say what a variable is.
#' @examples
#' tutors <- data.frame(tutor = c("Ada", "Ben", "Cleo", "Dan"), hours = c(4, 7, 2, -9))
#' study <- as_study(tutors, missing_codes = -9)
#' codebook(study)
#' @export
as_study <- function(data, codebook = NULL, missing_codes = NULL) {
  if (inherits(data, "unsere_study")) return(tell_more(data, codebook, missing_codes))
  if (!is.data.frame(data)) {
    abort_input(
      sprintf("A study is made from a data frame, not from %s.", class(data)[1]), "Try as.data.frame() first."
    )
  }
  build_study(as.data.frame(data), codebook, missing_codes, list(file = NULL, decimal_mark = "."))
}

#' A study of which more is known now than when it was made
#' @noRd
tell_more <- function(study, codebook, missing_codes) {
  if (!is.null(codebook)) {
    known <- read_codebook(codebook, study_names(study))
    for (k in seq_len(nrow(known))) {
      if (!is.na(known$values[k])) study <- with_values(study, known$variable[k], known$values[k])
      entry <- as.list(known[k, setdiff(codebook_columns, c("variable", "missing_codes", "values"))])
      study <- with_entry(study, known$variable[k], Filter(Negate(is.na), entry))
    }
  } else {
    known <- empty_codebook()
  }
  if (is.null(codebook) && is.null(missing_codes)) return(study)
  codes <- codes_by_variable(study_names(study), known, missing_codes)
  for (name in names(codes)[lengths(codes) > 0L]) study <- with_codes(study, name, codes[[name]])
  study
}

#' Columns in, study out: the one way in for files and data frames alike
#' @noRd
build_study <- function(data, codebook, missing_codes, provenance) {
  names(data) <- trimws(plain_text(names(data)))
  check_names(names(data), provenance$file)
  known <- read_codebook(codebook, names(data), provenance$file)
  codes <- codes_by_variable(names(data), known, missing_codes)
  decisions <- c(provenance$decisions, attr(known, "decisions"))
  coded <- NULL
  labels <- list()
  # A list, not a data frame: many small changes to data frames take long.
  columns <- as.list(data)
  nothing <- known[0, ]
  units <- rep(NA_character_, length(columns))
  for (k in seq_along(columns)) {
    name <- names(columns)[k]
    entry <- if (name %in% known$variable) known[known$variable == name, ] else nothing
    plain <- without_labels(columns[[k]])
    if (!is.null(plain$label)) labels[[name]] <- plain$label
    column <- plain$values
    read <- tidy_column(if (is.numeric(column)) column else blank_codes(column, codes[[k]]), entry, provenance$decimal_mark)
    if (length(codes[[k]])) {
      is_code <- matches_code(column, codes[[k]]) | matches_code(read$values, codes[[k]])
      if (any(is_code)) {
        coded[name] <- sum(is_code)
        read$values[is_code] <- NA
      }
    }
    columns[[k]] <- read$values
    if (!is.null(read$unit)) units[k] <- read$unit
    for (note in c(plain$note, read$note)) decisions <- c(decisions, column = sprintf("%s: %s", name, note))
  }
  names(units) <- names(columns)
  ordered <- order_words(columns, known, provenance$values)
  columns <- ordered$columns
  data <- list2DF(columns, nrow(data))
  book <- complete_codebook(data, known, codes, units, labels, ordered$values)
  decisions <- c(
    decisions, ordered$decisions,
    if (length(coded)) c(coded = paste("cells that held a missing code:", paste(names(coded), coded, collapse = ", "))),
    attr(book, "decisions"), suspicion_sentences(data, book), summary_row_sentence(data, provenance$rows),
    role_sentences(data, book), repeat_sentence(data, book, provenance$rows), text_sentences(data, book, provenance$rows)
  )
  attr(book, "decisions") <- NULL
  provenance$decisions <- decisions
  provenance$coded <- coded
  provenance$missing_codes <- missing_codes
  provenance$n_rows <- nrow(data)
  structure(
    list(data = data, codebook = book, provenance = provenance, converted = new.env(parent = emptyenv())),
    class = "unsere_study"
  )
}

#' A column without the value labels that some formats bring along
#'
#' @return A list: `values`, `label` (of the variable, or `NULL`), `note` (what was decided, or `NULL`).
#' @noRd
without_labels <- function(column) {
  label <- attr(column, "label", exact = TRUE)
  if (!is_word(label)) label <- NULL
  labels <- attr(column, "labels", exact = TRUE)
  if (is.null(labels) && !inherits(column, "labelled")) {
    if (!is.null(attr(column, "label"))) attr(column, "label") <- NULL
    return(list(values = column, label = label))
  }
  values <- as.vector(unclass(column))
  declared <- declared_missing(column, values)
  values[declared] <- NA
  shown <- labels[labels %in% values]
  note <- if (any(declared)) sprintf("%s declared as missing in the file", count_of(sum(declared), "cell"))
  if (length(shown) == 2L && !is.null(names(shown)) && all(is.na(values) | values %in% shown)) {
    words <- names(shown)[match(values, shown)]
    return(list(values = words, label = label, note = c(note, "its two values go by their labels")))
  }
  if (length(shown)) {
    told <- paste(sprintf("%s = %s", format(shown, trim = TRUE), names(shown)), collapse = ", ")
    note <- c(note, sprintf("codes with labels (%s)", told))
  }
  list(values = values, label = label, note = note)
}

declared_missing <- function(column, values) {
  ends <- attr(column, "na_range", exact = TRUE)
  named <- values %in% attr(column, "na_values", exact = TRUE)
  if (!is.numeric(values) || length(ends) != 2L) return(named & !is.na(values))
  !is.na(values) & (named | (values >= ends[1] & values <= ends[2]))
}

suspicion_sentences <- function(data, book) {
  measured <- book$variable[book$role == "measure" & book$level != "nominal"]
  found <- Filter(Negate(is.null), Map(suspicious_codes, as.list(data[measured]), measured))
  unlist(lapply(names(found), function(name) {
    found <- found[[name]]
    said <- sprintf(
      "%s: %s stands in %s, far outside the others (%s to %s). A missing code? It counts as a value until you say so",
      name, format(found$code, trim = TRUE), vapply(found$count, count_of, "", "cell"), format(found$low),
      format(found$high)
    )
    stats::setNames(said, rep("suspicious", length(said)))
  }))
}

repeat_sentence <- function(data, book, rows) {
  again <- repeated_rows(data, book)
  if (is.null(again)) return(NULL)
  at <- as.integer(if (is.null(rows)) again$rows else rows[again$rows])
  first <- as.integer(if (is.null(rows)) again$of else rows[again$of])
  c(repeated = sprintf(
    "%s an earlier one%s (row %d that of row %d%s); each counts as a case of its own",
    count_of(length(at), "row repeats", "rows repeat"), if (again$named) " in all but the case's name" else "", at[1],
    first[1], if (length(at) > 1L) ", ..." else ""
  ))
}

text_sentences <- function(data, book, rows) {
  spoilt <- book$variable[book$level == "numeric" & vapply(data[book$variable], is.character, NA)]
  said <- vapply(spoilt, function(name) text_cells(data[[name]], rows), "")
  said <- sprintf("%s: %s; no figures until they are corrected", spoilt, said)
  stats::setNames(said, rep("text", length(said)))
}

check_study <- function(study) {
  if (inherits(study, "unsere_study")) return(study)
  as_study(study)
}
