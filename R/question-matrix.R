#' Compute a correlation matrix
#'
#' Correlates every pair of variables, each with the coefficient that its levels of measurement call for,
#' its own n and interval, and p before and after adjustment for the number of tests.
#'
#' @param study A study, or a data frame; or moments from [gather_moments()].
#' @param ... The variables: bare names, strings, or tidyselect expressions. Default: all measures. Variables
#'   with unordered categories are excluded, and the result says so.
#' @param rows,columns For a rectangular matrix, such as outcomes by predictors: one name, or several as
#'   `c(a, b)`. Only pairs of a row with a column are computed.
#' @param by A grouping variable: a matrix for each group beside that of all cases. Default: none.
#' @param given Control variables: partial r of every pair. Default: none.
#' @eval help_arguments("matrix", c("by", "rows", "columns", "given"))
#' @return A matrix (class `unsere_matrix`), a list of:
#'   * `pairs`: a data frame, one row per pair, of `x`, `y`, `coefficient`, `r`, `n`, `ci_low`, `ci_high`, `p`,
#'     `p_adjusted`, `highlighted`, `log10_p`, `log10_p_adjusted` (exact even if p underflows); `NA` where
#'     r is not defined
#'   * `variables`: their codebook entries with `mean`, `sd` and `n`
#'   * `missing`, `multiplicity`, `confidence`, `expect`, `highlight`, `cases`
#'   * `rows`, `columns`: of a rectangular matrix, otherwise `NULL`
#'   * `left_out`: variables excluded, by reason
#'   * `checked`: the number of pairs checked for cautions; `cautions`: see [cautions()]
#'
#'   With `by`: matrices (class `unsere_matrices`), a list of `by`, `pooled` (the matrix of all cases), `groups`
#'   (a named list of matrices; `p_adjusted` allows for the tests in all groups) and `differences` (a data
#'   frame, one row per pair, of `x`, `y`, `groups` compared, `chi_squared`, `df`, `p`, `p_adjusted`: the test
#'   of equal correlations on Fisher's z; Hedges & Olkin 1985).
#' @section Errors: `unsere_error_input` for an unknown variable; `unsere_error_usage` for fewer than two
#'   variables or an invalid argument; `unsere_error_undefined` if `missing` is `"listwise"` and no case is
#'   complete.
#' @references Chan, T. F., Golub, G. H., & LeVeque, R. J. (1983). Algorithms for computing the sample variance. *The
#'   American Statistician*, 37, 242-247. Holm, S. (1979). A simple sequentially rejective multiple test procedure.
#'   *Scandinavian Journal of Statistics*, 6, 65-70. Benjamini, Y., & Hochberg, Y. (1995). Controlling the false
#'   discovery rate. *Journal of the Royal Statistical Society B*, 57, 289-300.
#' @examples
#' learners <- demo_study("learners")
#' found <- correlation_matrix(learners, practice_hours, speaking_score, confidence, study_partner)
#' found
#' above(found, 0.5)
#' correlation_matrix(learners, rows = speaking_score, columns = c(practice_hours, attendance_pct))
#' correlation_matrix(learners, commute_min, listening_score, by = centre)
#' @export
correlation_matrix <- function(study, ..., rows = NULL, columns = NULL, by = NULL, given = NULL, coefficient = "auto",
                               missing = "pairwise", multiplicity = "holm", highlight = 0.5, expect = "either",
                               confidence = 0.95, interval = "auto", strength = "cohen", threads = NULL) {
  options <- list(
    coefficient = coefficient, missing = missing, multiplicity = multiplicity, highlight = highlight, expect = expect,
    confidence = confidence, interval = interval, strength = strength, threads = threads
  )
  study <- check_source(study)
  options$given <- pick_side(study, rlang::enquo(given))
  options$names <- pick_several(study, rlang::enquos(...))
  options$rows <- pick_side(study, rlang::enquo(rows))
  options$columns <- pick_side(study, rlang::enquo(columns))
  options$by <- pick_optional(study, rlang::enquo(by), "by")
  answer_matrix(study, options)
}

question_matrix <- function() {
  new_question(
    "matrix", "correlation_matrix", "correlate all pairs of variables", "FILE", c(
      shared_arguments("coefficient"),
      list(
        missing = argument(
          "choice", "missing values: pairwise (complete cases of each pair) or listwise (cases without missing values)",
          default = "pairwise",
          value = "HOW", allowed = c("pairwise", "listwise"), brief = "missing"
        ),
        multiplicity = argument(
          "choice", "the adjustment of p for the number of tests: holm, benjamini-hochberg or none",
          default = "holm", value = "HOW",
          allowed = c("holm", "benjamini-hochberg", "none"), brief = "multiplicity"
        ),
        highlight = argument(
          "number", "the absolute r from which pairs are highlighted",
          default = 0.5, value = "R", from = 0, to = 1,
          brief = "highlight"
        )
      ),
      shared_arguments("expect", "confidence", "interval"),
      list(
        by = argument("variable", "a grouping variable", value = "VAR", brief = "by"),
        given = argument("variables", "control variables (partial correlations)", value = "A,B", brief = "given"),
        rows = argument("variables", "the row variables of a rectangular matrix", value = "A,B", brief = "rows"),
        columns = argument("variables", "the column variables of a rectangular matrix", value = "A,B", brief = "columns")
      ),
      shared_arguments("strength", "threads")
    ),
    answer_matrix, "matrix DEMO/learners.csv practice_hours speaking_score confidence",
    open = "names", usage = "matrix FILE [VAR ...]", place = 3, designed = TRUE, section = section_of_matrix()
  )
}

section_of_matrix <- function() {
  new_brief_section(
    "matrix", 2, function() closed(c(list(variables = strings_key()), question_keys(question_matrix()))),
    names = function(entry) entry[c("variables", "rows", "columns", "by")],
    about = function(entry) template("the matrix of %s", counted(length(unlist(entry$variables)), "variable", "variables")),
    answer = function(study, entry, brief, settings, known) {
      arguments <- section_arguments(question_matrix(), entry, settings)
      given <- c(arguments, list(names = as.character(unlist(entry$variables))))
      answer_matrix(study, given, lapply(known$pairs, `[[`, "relation"))
    }
  )
}

#' @param known Relations of the same study that are known already, whose cautions are not looked for again.
#' @noRd
answer_matrix <- function(study, given, known = list()) {
  options <- settle_arguments(question_matrix(), given)
  sides <- check_sides(options, options$names)
  if (!is.null(sides)) options$names <- unique(unlist(sides, use.names = FALSE))
  if (!gives_rows(study, options$names, sums_make_matrix(study, options))) return(matrix_by_sums(study, options, sides))
  if (!is.null(options$by)) return(matrices_by(study, options, sides))
  matrix_of_study(study, options, sides, known)
}

#' Select the strongest pairs of a matrix
#'
#' @param matrix A matrix from [correlation_matrix()].
#' @param size The least absolute r, between 0 and 1. Default: the matrix's own `highlight`.
#' @return A data frame as the matrix's `pairs`.
#' @section Errors: `unsere_error_usage` if `matrix` is not a matrix or `size` is not between 0 and 1.
#' @examples
#' above(correlation_matrix(demo_study("town_years")), 0.9)
#' @export
above <- function(matrix, size = NULL) {
  check_matrix(matrix)
  if (is.null(size)) size <- matrix$highlight
  check_number(size, question_matrix()$arguments$highlight, "size")
  pairs <- matrix$pairs[!is.na(matrix$pairs$r) & abs(matrix$pairs$r) >= size, ]
  pairs <- pairs[order(-abs(pairs$r)), ]
  rownames(pairs) <- NULL
  pairs
}
