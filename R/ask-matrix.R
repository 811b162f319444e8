#' All pairs of some variables
#'
#' Every pair once, each with the coefficient that suits the levels of its two variables, its own n and interval, and p
#' before and after allowing for the number of tests.
#'
#' @param study A study, or a data frame.
#' @param ... The variables: bare names, strings, or what tidyselect understands; all measures when none is given.
#'   Variables with groups without an order are left out, and it is said. Or, instead, moments from [gather_moments()].
#' @param rows,columns For a rectangle, such as outcomes by predictors: the variables down and across, each one name, or
#'   several as `c(a, b)`. Only pairs of the one with the other are then computed.
#' @param by A variable that splits the cases into groups: a matrix for each group beside that of all cases.
#' @param coefficient `"auto"` (by the levels of each pair; see [advise()]), or one for all: `"pearson"`, `"spearman"`,
#'   `"point-biserial"` or `"phi"`; pairs that the last two do not suit are left out.
#' @param missing `"pairwise"` (each pair on its own complete cases) or `"listwise"` (all on the cases that have every
#'   value).
#' @param multiplicity What many tests do to p: `"holm"`, `"benjamini-hochberg"` or `"none"`, over the pairs shown.
#' @param highlight The size of r from which on a pair stands out, between 0 and 1.
#' @param expect The direction predicted beforehand for all pairs: `"either"`, `"positive"` or `"negative"`.
#' @param confidence The coverage of the intervals, between 0 and 1.
#' @param threads How many threads compute; the option `unsere.threads` or 2 when `NULL`. It never changes a digit.
#' @return A matrix (class `unsere_matrix`), a list of `pairs` (a data frame, a row a pair: `x`, `y`, `coefficient`,
#'   `r`, `n`, `ci_low`, `ci_high`, `p`, `p_adjusted`, `highlighted`, `log10_p`, `log10_p_adjusted` (exact where p is
#'   too small for a double); `NA` where r is not defined), `variables` (their entries in the codebook, with `mean`,
#'   `sd` and `n`), `missing`, `multiplicity`, `confidence`, `expect`, `highlight`, `rows`, `columns` (of a rectangle,
#'   else `NULL`), `notes` (what was left out, and how n varies). With `by`: matrices (class `unsere_matrices`), a list
#'   of `by`, `pooled` (the matrix of all cases) and `groups` (a named list, a matrix a group).
#' @section Errors: `unsere_error_input` for an unknown variable; `unsere_error_usage` for fewer than two variables or
#'   an argument outside what is allowed; `unsere_error_undefined` when no case has every value and `missing` is
#'   `"listwise"`.
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
correlation_matrix <- function(study, ..., rows = NULL, columns = NULL, by = NULL, coefficient = "auto",
                               missing = "pairwise", multiplicity = "holm", highlight = 0.5, expect = "either",
                               confidence = 0.95, threads = NULL) {
  plan <- list(coefficient = coefficient, missing = missing, multiplicity = multiplicity, highlight = highlight,
    expect = expect, confidence = confidence, threads = threads
  )
  if (inherits(study, "unsere_moments")) return(matrix_from_moments(study, plan))
  study <- check_study(study)
  by <- rlang::enquo(by)
  sides <- list(rows = pick_side(study, rlang::enquo(rows)), columns = pick_side(study, rlang::enquo(columns)))
  matrix_names(study, pick_several(study, rlang::enquos(...)), sides, if (!rlang::quo_is_null(by)) pick_one(study, by,
    "by"),
    plan
  )
}

pick_side <- function(study, quo) if (!rlang::quo_is_null(quo)) pick_several(study, list(quo))

#' The pairs of a matrix at or above a size, strongest first
#'
#' @param matrix A matrix from [correlation_matrix()].
#' @param size The size of r, between 0 and 1; the matrix's own highlight when `NULL`.
#' @return A data frame as the matrix's `pairs`.
#' @section Errors: `unsere_error_usage` when `matrix` is no matrix or `size` is not between 0 and 1.
#' @examples
#' above(correlation_matrix(demo_study("town_years")), 0.9)
#' @export
above <- function(matrix, size = NULL) {
  check_matrix(matrix)
  if (is.null(size)) size <- matrix$highlight
  check_highlight(size, "size")
  pairs <- matrix$pairs[!is.na(matrix$pairs$r) & abs(matrix$pairs$r) >= size, ]
  pairs <- pairs[order(-abs(pairs$r)), ]
  rownames(pairs) <- NULL
  pairs
}

#' The same for names in strings
#'
#' @param sides A list of `rows` and `columns`, names or `NULL`.
#' @param plan A list of the arguments that say how, from `coefficient` to `threads`; those that are absent are the
#'   usual.
#' @noRd
matrix_names <- function(study, names = character(), sides = NULL, by = NULL, plan = list()) {
  plan <- check_matrix_plan(plan)
  sides <- check_sides(sides, names)
  names <- if (is.null(sides)) names else unique(c(sides$rows, sides$columns))
  if (!is.null(by)) return(matrices_by(study, names, sides, by, plan))
  chosen <- choose_columns(study, names)
  columns <- chosen$columns
  check_memory(length(columns))
  if (plan$missing == "listwise") columns <- whole_cases(columns)
  kinds <- pair_kinds(study$codebook$level[match(names(columns), study$codebook$variable)], plan$coefficient)
  kinds <- keep_sides(kinds, names(columns), sides)
  if (!any(!is.na(kinds[upper.tri(kinds)]))) {
    abort_usage(sprintf("No pair of these variables suits %s.", plan$coefficient), "Use coefficient = \"auto\".")
  }
  threads <- sound_threads(plan$threads)
  found <- measure_matrix(columns, kinds, plan$expect, plan$confidence, threads, progress_teller("pairs"))
  variables <- study$codebook[match(names(columns), study$codebook$variable), ]
  spread <- .Call(unsere_spreads, unname(columns), threads)
  variables[c("mean", "sd", "n")] <- list(spread$mean, spread$sd, as.integer(spread$n))
  variables$one <- chosen$ones
  result <- matrix_result(found, variables, sides, plan, c(chosen$notes, left_out_note(kinds, sides, plan)),
    nrow(study$data))
  result$cautions <- matrix_cautions(result, study)
  result
}

#' From what was measured to the result
#' @noRd
matrix_result <- function(found, variables, sides, plan, notes, cases) {
  rownames(variables) <- NULL
  names <- variables$variable
  log10_p_adjusted <- adjust_log10_p(found$log10_p, plan$multiplicity)
  pairs <- list2DF(list(
    x = names[found$i], y = names[found$j], coefficient = found$coefficient, r = found$r, n = as.integer(found$n),
    ci_low = found$ci_low, ci_high = found$ci_high, p = found$p,
    p_adjusted = if (plan$multiplicity == "none") found$p else 10^log10_p_adjusted,
    highlighted = !is.na(found$r) & abs(found$r) >= plan$highlight, log10_p = found$log10_p,
    log10_p_adjusted = log10_p_adjusted
  ))
  if (!is.null(sides)) pairs <- rows_first(pairs, sides)
  new_matrix(
    pairs = pairs, variables = variables, missing = plan$missing, multiplicity = plan$multiplicity,
    confidence = plan$confidence, expect = plan$expect, highlight = plan$highlight, rows = sides$rows,
    columns = sides$columns, cautions = new_cautions(), notes = c(notes, matrix_notes(pairs, variables, plan$missing,
      cases))
  )
}

check_matrix_plan <- function(plan) {
  usual <- list(coefficient = "auto", missing = "pairwise", multiplicity = "holm", highlight = 0.5, expect = "either",
    confidence = 0.95)
  plan <- utils::modifyList(usual, Filter(Negate(is.null), plan))
  one_of(plan$coefficient, c("auto", coefficient_names), "coefficient")
  one_of(plan$missing, c("pairwise", "listwise"), "missing")
  one_of(plan$multiplicity, c("holm", "benjamini-hochberg", "none"), "multiplicity")
  check_expect(plan$expect)
  check_confidence(plan$confidence)
  check_highlight(plan$highlight, "highlight")
  plan
}

check_highlight <- function(size, argument) {
  if (is.numeric(size) && length(size) == 1L && isTRUE(size >= 0 && size <= 1)) return(invisible())
  abort_usage(sprintf("`%s` must be one number from 0 to 1.", argument), "For example 0.5.")
}
