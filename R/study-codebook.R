#' Get the codebook of a study
#'
#' @param study A study, or a data frame.
#' @return A data frame, one row per variable; what is not known is `NA`:
#'   * `variable`: its name in the data
#'   * `label`, `unit`
#'   * `short`: the name used in sentences, titles, axes and tables if the label is a whole question or longer than
#'     32 characters
#'   * `level`: `numeric`, `ordinal`, `binary`, `nominal`
#'   * `role`: `measure`, `case`, `time`, `group`, `about`
#'   * `missing_codes`: separated by semicolons
#'   * `source`: where the data came from
#'   * `values`: the category order of an ordinal variable
#'   * `range`: the least and largest possible value, such as `0 to 100`
#' @section Errors: `unsere_error_input` if `study` is neither a study nor a data frame.
#' @section Levels: Numbers are numeric, including counts such as 0 to 4 absences. Whole numbers are ordinal only if
#'   there is evidence for it: the codebook; a heading that names the ends of a scale ("(1 to 5)", "on a scale from
#'   0 to 10") or describes its values ("0 = not at all"); value labels with an order; or a battery, that is three
#'   or more items on one scale whose names differ only in a number or letter, or that are adjacent and all range
#'   from 1 to the same end. A column therefore keeps its level if another value occurs. Columns of two values are
#'   binary, ordered words ordinal, other words nominal.
#' @seealso [set_variable()] to change an entry.
#' @examples
#' codebook(demo_study("dial"))
#' @export
codebook <- function(study) study_book(check_study(study))

#' Describe a variable
#'
#' Sets the label, unit, level and other entries of a variable in the codebook. They are used on axes, in tables and
#' in sentences. The data are not changed, except that values declared as missing-value codes become missing.
#'
#' @param study A study, or a data frame.
#' @param name The variable: a bare name or a string.
#' @param label A readable name; one string.
#' @param unit The unit of measurement, such as `"h"`; one string.
#' @param level One of `"numeric"`, `"ordinal"`, `"binary"`, `"nominal"`. Words made ordinal take the order of their
#'   codes in the file, of known answer scales, of grades (F to A) or of the numbers in them; see `values`.
#' @param role One of `"measure"`, `"case"` (names the cases), `"time"`, `"group"`, `"about"` (describes the response
#'   rather than the person).
#' @param missing_codes Missing-value codes.
#' @param source Where the data came from; one string.
#' @param values The category order, lowest first: `"Never < Rarely < Often"`, or `c("Never", "Rarely", "Often")`;
#'   with codes `"1 = Never < 2 = Rarely"`; non-answers after a semicolon. The variable becomes ordinal.
#' @param short The name used in sentences, titles, axes and tables; one string of at most about 30 characters.
#'   Default: proposed if the label is a whole question.
#' @param range The least and largest possible value: `"0 to 100"` or `c(0, 100)`. Values outside it are reported,
#'   and so is a relation that covers only a small part of it.
#' @return The study, with the new entry.
#' @section Errors: `unsere_error_input` for an unknown variable, for a category order that does not match the words, or
#'   for an invalid range; `unsere_error_usage` if `level` or `role` is not one of those above.
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
