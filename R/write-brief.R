#' Write a starter brief
#'
#' Writes a brief for a study, with comments, that can be run as it is: the first pairs of measures, a matrix, predictors of
#' the last measure, and a trend check if there is a time variable.
#'
#' @param study A study from [read_study()], so that the brief can name its file.
#' @param path The file to write; a name that ends in `.yml` or `.yaml`. An existing file is left unchanged.
#' @return The path, invisibly.
#' @section Errors: `unsere_error_usage` for another ending or a study without a file; `unsere_error_input` if the
#'   folder does not exist or the file does already.
#' @examples
#' brief <- tempfile(fileext = ".yml")
#' write_brief(demo_study("dial"), brief)
#' cat(readLines(brief), sep = "\n")
#' @export
write_brief <- function(study, path) {
  study <- check_study(study)
  if (!is.character(path) || length(path) != 1L || !grepl("[.]ya?ml$", path, ignore.case = TRUE)) {
    abort_usage("A brief needs a name that ends in .yml.", "For example brief.yml.")
  }
  if (is.null(study_file(study))) {
    abort_usage("The study has no file that a brief could name.", "Read it with read_study().")
  }
  check_folder_of(path)
  if (file.exists(path)) {
    abort_input(problem("%s is there already and is left alone.", path), "Give the brief another name.")
  }
  replace_file(brief_lines(with_likely_time(study), path), path)
  invisible(path)
}

brief_lines <- function(study, path) {
  book <- study_book(study)
  measures <- Filter(function(name) is_usable(study, name), ordered_measures(study))
  numeric <- intersect(names_with(study, "measure", "numeric"), measures)
  time <- book$variable[book$role == "time"]
  variables <- if (length(numeric) >= 2L) numeric else measures
  if (length(variables) < 2L) {
    abort_input(
      problem("%s has fewer than two variables that can be related.", study_file(study)),
      "Text needs an order or two values: say the levels with set_variable() or a codebook."
    )
  }
  y <- variables[length(variables)]
  first <- variables[1]
  origin <- study_provenance(study)
  here <- yaml_words
  declared <- if (!is.list(origin$missing_codes)) as.character(origin$missing_codes)
  c(
    "# What is asked, of which data, and in which form. Run it with: unsere run THIS_FILE",
    paste("title:", yaml_word(sprintf("%s and %s", label_of(book, first), inside_of(book, y)))),
    paste("question:", yaml_word(sprintf("Are %s and %s correlated?", inside_of(book, first), inside_of(book, y)))),
    data_line(origin, dirname(path)),
    "variables:  # level: numeric, ordinal, binary, nominal; role: measure, case, time, group",
    vapply(seq_len(nrow(book)), function(k) variable_line(book[k, ], declared), ""), plausible_lines(study),
    design_line(study),
    "pairs:  # shape: linear, log, quadratic; add predict_at: [5, 10] for predictions",
    sprintf("  - {x: %s, y: %s}", yaml_word(first), yaml_word(y)),
    if (length(measures) > 12L) left_out_lines(measures[-(1:12)]),
    if (length(measures) > 2L) {
      sprintf("matrix: {variables: %s, highlight: 0.5, multiplicity: holm}", here(utils::head(measures, 12)))
    },
    if (length(numeric) > 2L) {
      sprintf("rank: {outcome: %s, predictors: %s}", yaml_word(y), here(utils::head(setdiff(numeric, y), 4)))
    },
    if (length(time) && has_series(study, first, y)) {
      sprintf("spurious: {time: %s, pairs: [[%s, %s]]}", yaml_word(time[1]), yaml_word(first), yaml_word(y))
    },
    "settings: {confidence: 0.95, strength: cohen, interval: auto}  # language: de writes the report in German",
    "report: {formats: [html], folder: results}  # html, docx, pptx, pdf",
    "# What may be handed on. names: own, numbers, none; rows: all, moments (n, means and products of pairs), none;",
    "# least: the smallest group that is told of.",
    "share: {names: numbers, rows: moments, least: 5}"
  )
}

# Whether a variable varies enough to be asked about.
is_usable <- function(study, name) {
  values <- tryCatch(study_numbers(study, name)$values, unsere_error = function(e) numeric())
  sum(!is.na(values)) >= 3L && length(unique(values[!is.na(values)])) >= 2L
}

#' Where the data are and how they are read, as far as it is not detected
#' @noRd
data_line <- function(origin, folder) {
  codes <- if (!is.list(origin$missing_codes)) origin$missing_codes
  parts <- c(
    paste("file:", yaml_word(relative_to(origin$file, folder))),
    if (!is.null(origin$sheet) && !is.na(origin$sheet)) paste("sheet:", yaml_word(origin$sheet)),
    if (!is.null(origin$where)) paste("where:", yaml_word(origin$where)),
    if (isTRUE(origin$header_row > 1)) paste("header_row:", origin$header_row),
    if (length(codes)) sprintf("missing_codes: [%s]", paste(vapply(codes, code_word, ""), collapse = ", ")),
    if (identical(origin$decimal_mark, ",")) "decimal: \",\"",
    if (!is.null(origin$delimiter) && origin$delimiter != ",") {
      sprintf("delimiter: \"%s\"", if (origin$delimiter == "\t") "tab" else origin$delimiter)
    },
    if (!is.null(origin$encoding) && origin$encoding != "UTF-8") paste("encoding:", yaml_word(origin$encoding)),
    if (!is.null(origin$turn)) paste("turn:", origin$turn),
    if (!is.null(origin$summary_rows)) paste("summary_rows:", origin$summary_rows),
    if (!is.null(origin$hidden_rows)) paste("hidden_rows:", origin$hidden_rows)
  )
  sprintf("data: {%s}  # relative to this file", paste(parts, collapse = ", "))
}

# What the starter does not ask about is said where it would stand.
left_out_lines <- function(names) {
  paste("# The matrix starts with 12 variables; further ones:", paste(vapply(names, yaml_word, ""), collapse = ", "))
}

plausible_lines <- function(study) {
  several <- study_plausible(study)
  if (!length(several)) return(NULL)
  c("plausible:", sprintf("  %s: %s", vapply(names(several), yaml_word, ""), vapply(several, yaml_words, "")))
}

# A design that was set; one that roles tell stands with the variables.
design_line <- function(study) {
  design <- declared_design(study)[c("weight", "stratum", "cluster", "replicates", "method", "factor", "df")]
  design <- Filter(length, design)
  if (!length(design)) return(NULL)
  parts <- vapply(names(design), function(key) {
    value <- design[[key]]
    text <- if (is.numeric(value)) format(value, digits = 15) else vapply(value, yaml_word, "")
    sprintf("%s: %s", key, if (length(text) > 1L) sprintf("[%s]", paste(text, collapse = ", ")) else text)
  }, "")
  sprintf("design: {%s}", paste(parts, collapse = ", "))
}

#' @param declared Missing codes of the whole file, which stand with the data.
#' @noRd
variable_line <- function(entry, declared = NULL) {
  codes <- setdiff(strsplit(or_default(entry$missing_codes, NA_character_), ";", fixed = TRUE)[[1]], c(NA, declared))
  parts <- c(
    if (!is.na(entry$label)) paste("label:", yaml_word(entry$label)),
    if (!is.na(entry$short)) paste("short:", yaml_word(entry$short)),
    if (!is.na(entry$unit)) paste("unit:", yaml_word(entry$unit)),
    paste("level:", entry$level), if (!is.na(entry$values)) paste("values:", yaml_word(entry$values)),
    if (!is.na(entry$range)) paste("range:", yaml_word(entry$range)),
    if (length(codes)) sprintf("missing_codes: [%s]", paste(vapply(codes, code_word, ""), collapse = ", ")),
    if (entry$role != "measure") paste("role:", entry$role)
  )
  sprintf("  %s: {%s}", yaml_word(entry$variable), paste(parts, collapse = ", "))
}

code_word <- function(code) if (grepl("^-?[0-9.]+$", code)) as.character(code) else yaml_word(code)

yaml_words <- function(texts) paste0("[", paste(vapply(texts, yaml_word, ""), collapse = ", "), "]")

# Plain where that is safe, else in double quotes.
yaml_word <- function(text) {
  if (grepl("^[A-Za-z][A-Za-z0-9_./ -]*[A-Za-z0-9_]$|^[A-Za-z]$", text) &&
    !tolower(text) %in% c("yes", "no", "y", "n", "true", "false", "on", "off", "null")) return(text)
  paste0("\"", gsub("([\"\\\\])", "\\\\\\1", text), "\"")
}

relative_to <- function(file, folder) {
  file <- normalizePath(file, mustWork = FALSE)
  folder <- normalizePath(folder, mustWork = FALSE)
  if (startsWith(file, paste0(folder, "/"))) substring(file, nchar(folder) + 2L) else file
}
