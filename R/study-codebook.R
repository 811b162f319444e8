#' The codebook of a study
#'
#' @param study A study, or a data frame.
#' @return A data frame, a row a variable: `variable` (its name in the data), `label`, `short` (what sentences, titles,
#'   axes and tables call it where the label is a whole question or longer than 32 characters), `unit`, `level` (`numeric`,
#'   `ordinal`, `binary`, `nominal`), `role` (`measure`, `case`, `time`, `group`, `about`), `missing_codes` (separated by
#'   semicolons), `source` (where the figures came from), `values` (the order of an
#'   ordinal variable's words), `range` (the least and the largest value that can occur, `0 to 100`). What is not known
#'   is `NA`.
#' @section Errors: `unsere_error_input` when `study` is neither a study nor a data frame.
#' @section Levels: Numbers are numeric, whichever they are: a count of 0 to 4 absences is one. Whole numbers are ordinal
#'   only where something says so: the codebook; the heading, by the ends of a scale ("(1 to 5)", "on a scale from 0 to 10")
#'   or by words for its values ("0 = not at all"); value labels whose words have an order; or a battery, that is three items
#'   or more that use one scale and have names alike but for a number or a letter, or stand side by side and all go from 1 to
#'   the same end. The same column therefore keeps its level when another value turns up. Columns of two values are binary,
#'   words with an order ordinal, other words nominal.
#' @seealso [set_variable()] to change an entry.
#' @examples
#' codebook(demo_study("dial"))
#' @export
codebook <- function(study) study_book(check_study(study))

#' Say what a variable is
#'
#' Labels and units then stand on every axis and in every table. The data are not touched, except that values declared
#' as missing codes become missing.
#'
#' @param study A study, or a data frame.
#' @param name The variable: a bare name or a string.
#' @param label A readable name; one string.
#' @param unit The unit of measurement, such as `"h"`; one string.
#' @param level One of `"numeric"`, `"ordinal"`, `"binary"`, `"nominal"`. Words that are made ordinal take the order of the
#'   codes that they had in the file, of words that are known, of grades (F to A) or of the numbers in them; see `values`.
#' @param role One of `"measure"`, `"case"` (names the cases), `"time"`, `"group"`, `"about"` (of the
#'   response, not of the person).
#' @param missing_codes Values that stand for "no answer".
#' @param source Where the figures came from; one string.
#' @param values The order of its words, lowest first: `"Never < Rarely < Often"`, or `c("Never", "Rarely", "Often")`; with
#'   codes `"1 = Never < 2 = Rarely"`; words that are no answer after a semicolon. The variable is ordinal then.
#' @param short What sentences, titles, axes and tables call it; one string of at most about 30 characters. Proposed where
#'   the label is a whole question.
#' @param range The least and the largest value that can occur: `"0 to 100"` or `c(0, 100)`. Values beyond it are told,
#'   and so is a relation over a small part of it.
#' @return The study, with the new entry.
#' @section Errors: `unsere_error_input` when there is no such variable; `unsere_error_usage` when `level` or `role` is
#'   not one of those above; `unsere_error_input` for an order that its words do not fit, or a range that is none.
#' @examples
#' study <- set_variable(demo_study("dial"), level_db, label = "Sound level", unit = "dB")
#' codebook(study)
#' @export
set_variable <- function(study, name, label = NULL, unit = NULL, level = NULL, role = NULL, missing_codes = NULL,
                         source = NULL, values = NULL, range = NULL, short = NULL) {
  study <- check_study(study)
  name <- pick_one(study, rlang::enquo(name))
  for (text in Filter(Negate(is.null), list(label, short, unit, source))) {
    if (!is_word(text)) {
      abort_usage("`label`, `short`, `unit` and `source` are one string each.", "For example unit = \"h\".")
    }
  }
  if (!is.null(level)) one_of(level, level_names, "level")
  if (!is.null(role)) one_of(role, role_names, "role")
  if (!is.null(missing_codes)) study <- with_codes(study, name, missing_codes)
  if (length(values) > 1L) values <- paste(spell_words(values), collapse = " < ")
  if (!is.null(values)) study <- with_values(study, name, values)
  if (!is.null(range)) range <- range_text(parse_range(paste(range, collapse = " to "), name))
  with_entry(study, name, list(
    label = label, short = short, unit = unit, level = level, role = role, source = source, range = range
  ))
}
