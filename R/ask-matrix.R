#' All pairs of some variables
#'
#' Every pair once, each with the coefficient that suits the levels of its two variables, its own n and interval, and p
#' before and after allowing for the number of tests.
#'
#' @param study A study, or a data frame.
#' @param ... The variables: bare names, strings, or what tidyselect understands; all measures when none is given.
#'   Variables with groups without an order are left out, and it is said.
#' @param coefficient `"auto"` (by the levels of each pair; see [advise()]), or one for all: `"pearson"` or `"spearman"`.
#' @param missing `"pairwise"` (each pair on its own complete cases) or `"listwise"` (all on the cases that have every
#'   value).
#' @param multiplicity What many tests do to p: `"holm"`, `"benjamini-hochberg"` or `"none"`, over the pairs shown.
#' @param highlight The size of r from which on a pair stands out, between 0 and 1.
#' @param expect The direction predicted beforehand for all pairs: `"either"`, `"positive"` or `"negative"`.
#' @param confidence The coverage of the intervals, between 0 and 1.
#' @param threads How many threads compute; the option `unsere.threads` or 2 when `NULL`. It never changes a digit.
#' @return A matrix (class `unsere_matrix`), a list of `pairs` (a data frame, a row a pair: `x`, `y`, `coefficient`, `r`,
#'   `n`, `ci_low`, `ci_high`, `p`, `p_adjusted`, `highlighted`; `NA` where r is not defined), `variables` (their entries in
#'   the codebook, with `mean` and `sd`), `missing`, `multiplicity`, `confidence`, `expect`, `highlight`, `notes` (what was
#'   left out, and how n varies).
#' @section Errors: `unsere_error_input` for an unknown variable; `unsere_error_usage` for fewer than two variables or an
#'   argument outside what is allowed; `unsere_error_undefined` when no case has every value and `missing` is `"listwise"`.
#' @references Chan, T. F., Golub, G. H., & LeVeque, R. J. (1983). Algorithms for computing the sample variance. *The
#'   American Statistician*, 37, 242-247. Holm, S. (1979). A simple sequentially rejective multiple test procedure.
#'   *Scandinavian Journal of Statistics*, 6, 65-70. Benjamini, Y., & Hochberg, Y. (1995). Controlling the false discovery
#'   rate. *Journal of the Royal Statistical Society B*, 57, 289-300.
#' @examples
#' learners <- demo_study("learners")
#' found <- correlation_matrix(learners, practice_hours, speaking_score, confidence, study_partner)
#' found
#' above(found, 0.5)
#' @export
correlation_matrix <- function(study, ..., coefficient = "auto", missing = "pairwise", multiplicity = "holm",
  highlight = 0.5,
                               expect = "either", confidence = 0.95, threads = NULL) {
  study <- check_study(study)
  matrix_names(study, pick_several(study, rlang::enquos(...)), coefficient, missing, multiplicity, highlight, expect,
    confidence,
    threads
  )
}

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
  if (!inherits(matrix, "unsere_matrix")) abort_usage("`matrix` must come from correlation_matrix().",
    "Compute it first.")
  if (is.null(size)) size <- matrix$highlight
  check_highlight(size, "size")
  pairs <- matrix$pairs[!is.na(matrix$pairs$r) & abs(matrix$pairs$r) >= size, ]
  pairs <- pairs[order(-abs(pairs$r)), ]
  rownames(pairs) <- NULL
  pairs
}

matrix_names <- function(study, names, coefficient = "auto", missing = "pairwise", multiplicity = "holm",
  highlight = 0.5,
                         expect = "either", confidence = 0.95, threads = NULL) {
  one_of(coefficient, c("auto", "pearson", "spearman"), "coefficient")
  one_of(missing, c("pairwise", "listwise"), "missing")
  one_of(multiplicity, c("holm", "benjamini-hochberg", "none"), "multiplicity")
  check_expect(expect)
  check_confidence(confidence)
  check_highlight(highlight, "highlight")
  chosen <- choose_columns(study, names)
  columns <- chosen$columns
  if (missing == "listwise") columns <- whole_cases(columns)
  kinds <- pair_kinds(study$codebook$level[match(names(columns), study$codebook$variable)], coefficient)
  found <- measure_matrix(columns, kinds, expect, confidence, sound_threads(threads))
  pairs <- data.frame(
    x = names(columns)[found$i], y = names(columns)[found$j], coefficient = found$coefficient, r = found$r,
    n = as.integer(found$n), ci_low = found$ci_low, ci_high = found$ci_high, p = found$p,
    p_adjusted = adjust_p(found$p, multiplicity), highlighted = !is.na(found$r) & abs(found$r) >= highlight
  )
  spread <- lapply(columns, function(column) measure_spread(column[!is.na(column)]))
  variables <- study$codebook[match(names(columns), study$codebook$variable), ]
  variables$mean <- vapply(spread, `[[`, 0, "mean")
  variables$sd <- vapply(spread, `[[`, 0, "sd")
  rownames(variables) <- NULL
  new_matrix(
    pairs = pairs, variables = variables, missing = missing, multiplicity = multiplicity, confidence = confidence,
    expect = expect, highlight = highlight, notes = c(chosen$notes, matrix_notes(pairs, columns, missing, study))
  )
}

check_highlight <- function(size, argument) {
  if (is.numeric(size) && length(size) == 1L && isTRUE(size >= 0 && size <= 1)) return(invisible())
  abort_usage(sprintf("`%s` must be one number from 0 to 1.", argument), "For example 0.5.")
}

#' The variables as numbers; those without an order or without values are left out and named
#' @noRd
choose_columns <- function(study, names) {
  book <- study$codebook
  if (!length(names)) names <- book$variable[book$role == "measure"]
  level <- book$level[match(names, book$variable)]
  empty <- vapply(study$data[names], function(column) all(is.na(column)), NA)
  out <- level == "nominal" | empty
  kept <- names[!out]
  if (length(kept) < 2L) {
    abort_usage(
      sprintf("A matrix takes two variables or more with an order; %s.",
        if (length(kept)) paste("here is one:", kept) else "here is none"),
      "Name more variables; groups without an order are left out."
    )
  }
  list(
    columns = lapply(stats::setNames(kept, kept), function(name) numbers_of(study, name)$values),
    notes = c(
      if (any(level == "nominal")) sprintf("Left out, groups without an order: %s.",
        paste(names[level == "nominal"], collapse = ", ")),
      if (any(empty)) sprintf("Left out, no value at all: %s.", paste(names[empty], collapse = ", "))
    )
  )
}

whole_cases <- function(columns) {
  kept <- Reduce(`&`, lapply(columns, function(column) !is.na(column)))
  if (sum(kept) < 3L) {
    abort_undefined(
      sprintf("Only %s every value.", if (sum(kept) == 1) "one case has" else paste(sum(kept), "cases have")),
      "Use missing = \"pairwise\", or fewer variables."
    )
  }
  lapply(columns, function(column) column[kept])
}

pair_kinds <- function(levels, coefficient) {
  p <- length(levels)
  if (coefficient != "auto") return(matrix(coefficient, p, p))
  kinds <- matrix("pearson", p, p)
  binary <- levels == "binary"
  kinds[binary, ] <- kinds[, binary] <- "point-biserial"
  kinds[binary, binary] <- "phi"
  kinds[levels == "ordinal", ] <- kinds[, levels == "ordinal"] <- "spearman"
  kinds
}

matrix_notes <- function(pairs, columns, missing, study) {
  constant <- names(columns)[vapply(columns, function(v) length(unique(v[!is.na(v)])) < 2L, NA)]
  undefined <- pairs[is.na(pairs$r) & !pairs$x %in% constant & !pairs$y %in% constant, ]
  ends <- range(pairs$n)
  c(
    if (missing == "listwise") {
      sprintf("All pairs on the %d of %d cases that have every value.", ends[1], nrow(study$data))
    } else if (ends[1] == ends[2]) {
      sprintf("n = %d for every pair.", ends[1])
    } else {
      sprintf("n from %d to %d: each pair on its own complete cases.", ends[1], ends[2])
    },
    if (missing == "pairwise" && ends[1] < 0.8 * ends[2]) {
      "The pairs rest on very different cases; compare them with missing = \"listwise\"."
    },
    if (length(constant)) sprintf("No r, as the values do not vary: %s.", paste(constant, collapse = ", ")),
    if (nrow(undefined)) {
      sprintf("No r for %s with too few complete cases: %s.", count_of(nrow(undefined), "pair"),
        paste(utils::head(paste(undefined$x, "with", undefined$y), 3), collapse = "; ")
      )
    }
  )
}
