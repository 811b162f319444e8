# The constructors of result objects. Each checks that the fields of the contract are there, in their order.

relation_fields <- c(
  "x", "y", "coefficient", "r", "r_squared", "n", "n_dropped", "confidence", "ci_low", "ci_high", "ci_method",
  "statistic", "value", "df", "p", "log10_p", "p_method", "expect", "direction", "strength", "strength_scale"
)

line_fields <- c(
  "x", "y", "shape", "n", "n_dropped", "confidence", "r", "r_squared", "adj_r_squared", "residual_sd", "equation",
  "terms", "variance", "predictions", "solutions", "cautions"
)

new_result <- function(kind, fields, needed) {
  lacking <- setdiff(needed, names(fields))
  if (length(lacking)) rlang::abort(sprintf("a %s lacks %s", kind, paste(lacking, collapse = ", ")))
  structure(fields[c(needed, setdiff(names(fields), needed))], class = c(paste0("unsere_", kind), "unsere_result"))
}

#' @param pair The pair the relation was found for, kept for pictures and sentences.
#' @noRd
new_relation <- function(...) new_result("relation", list(...), c(relation_fields, "cautions", "pair"))

matrix_fields <- c("pairs", "variables", "missing", "multiplicity", "confidence", "expect", "highlight", "rows",
  "columns", "cautions", "notes")

new_matrix <- function(...) new_result("matrix", list(...), matrix_fields)

new_matrices <- function(...) new_result("matrices", list(...), c("by", "by_label", "pooled", "groups"))

#' @export
as.data.frame.unsere_matrices <- function(x, ...) {
  all <- c(list(x$pooled), x$groups)
  labels <- c(NA_character_, names(x$groups))
  rows <- Map(function(matrix, label) data.frame(group = label, matrix$pairs), all, labels)
  stats::setNames(do.call(rbind, unname(rows)), c(x$by, names(x$pooled$pairs)))
}

#' @export
as.data.frame.unsere_matrix <- function(x, ...) x$pairs

new_predictors <- function(...) {
  new_result("predictors", list(...), c("outcome", "predictors", "comparisons", "predictions", "n_dropped",
    "confidence",
    "cautions"))
}

#' @export
as.data.frame.unsere_predictors <- function(x, ...) x$predictors

new_line <- function(...) new_result("line", list(...), c(line_fields, "pair"))

#' @export
as.data.frame.unsere_relation <- function(x, ...) as.data.frame(unclass(x)[relation_fields], stringsAsFactors = FALSE)

#' @export
as.data.frame.unsere_line <- function(x, ...) x$terms

#' @rawNamespace S3method(stats::coef, unsere_line)
coef.unsere_line <- function(object, ...) stats::setNames(object$terms$estimate, object$terms$term)

#' @rawNamespace S3method(stats::residuals, unsere_line)
residuals.unsere_line <- function(object, ...) stats::setNames(object$residuals, object$pair$case)

#' @rawNamespace S3method(stats::nobs, unsere_line)
nobs.unsere_line <- function(object, ...) object$n

#' @rawNamespace S3method(stats::nobs, unsere_relation)
nobs.unsere_relation <- function(object, ...) object$n

#' Rows without the line that they came from
#' @noRd
unclass_rows <- function(data) structure(data, class = "data.frame", line = NULL, confidence = NULL)

check_matrix <- function(matrix) {
  if (inherits(matrix, "unsere_matrix")) return(invisible())
  abort_usage("`matrix` must come from correlation_matrix().", "Compute it first.")
}
