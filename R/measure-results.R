# The constructors of result objects. Each checks that the fields of the contract are there, in their order.

relation_fields <- c(
  "x", "y", "coefficient", "r", "r_squared", "n", "n_dropped", "confidence", "ci_low", "ci_high", "ci_method",
  "statistic", "value", "df", "p", "log10_p", "p_method", "expect", "direction", "strength", "strength_scale"
)

line_fields <- c(
  "x", "y", "shape", "n", "n_dropped", "confidence", "r", "r_squared", "adj_r_squared", "residual_sd", "terms",
  "variance", "predictions", "solutions"
)

matrix_fields <- c(
  "pairs", "variables", "missing", "multiplicity", "confidence", "expect", "highlight", "rows", "columns", "cases",
  "left_out", "checked", "cautions"
)

predictors_fields <- c(
  "outcome", "predictors", "comparisons", "predictions", "n_dropped", "confidence", "cautions"
)

flags_fields <- c(
  "x", "y", "time", "verdict", "levels", "changes", "detrended", "prewhitened", "durbin_watson", "cautions"
)

#' A result: a list whose class says which, with the fields of its kind first
#' @noRd
new_result <- function(kind, fields, needed) {
  lacking <- setdiff(needed, names(fields))
  if (length(lacking)) rlang::abort(sprintf("a %s lacks %s", kind, paste(lacking, collapse = ", ")))
  structure(fields[c(needed, setdiff(names(fields), needed))], class = c(paste0("unsere_", kind), "unsere_result"))
}

new_relation <- function(...) new_result("relation", list(...), c(relation_fields, "cautions", "sample", "estimate"))

# One of groups without an order, whose words and figure are others.
new_group_relation <- function(...) {
  relation <- new_relation(...)
  structure(relation, class = c("unsere_group_relation", class(relation)))
}

plan_fields <- c(
  "coefficient", "r", "n", "power", "half_width", "alpha", "expect", "design_effect", "n_to_draw", "classes", "class_size",
  "class_cv", "strata", "df"
)

verification_fields <- c("figures", "same", "different", "digest_same")

new_verification <- function(...) new_result("verification", list(...), verification_fields)

levels_fields <- c("x", "y", "group", "groups", "n", "n_dropped", "confidence", "levels", "likeness")

new_levels <- function(...) new_result("levels", list(...), levels_fields)

new_plan <- function(...) new_result("plan", list(...), plan_fields)

new_line <- function(...) new_result("line", list(...), c(line_fields, "cautions", "sample", "basis"))

new_matrix <- function(...) new_result("matrix", list(...), matrix_fields)

new_matrices <- function(...) new_result("matrices", list(...), c("by", "by_label", "pooled", "groups", "differences"))

new_predictors <- function(...) new_result("predictors", list(...), predictors_fields)

new_flags <- function(...) new_result("flags", list(...), flags_fields)

check_matrix <- function(matrix) {
  if (inherits(matrix, "unsere_matrix")) return(invisible())
  abort_usage("`matrix` must come from correlation_matrix().", "Compute it first.")
}

check_line <- function(line) {
  if (inherits(line, "unsere_line")) return(line)
  abort_usage("`line` must be a line.", "Make it with fit_line().")
}

#' Rows without the line that they came from
#' @noRd
plain_rows <- function(data) structure(data, class = "data.frame", line = NULL, confidence = NULL)

#' The records of one kind, in their order: each made by a function of its own, which is found by its name
#'
#' @param kind The beginning of the functions' names.
#' @return A list by name.
#' @noRd
collect_records <- function(kind) {
  if (is.null(known_records[[kind]])) {
    house <- topenv()
    names <- names(house)
    makers <- mget(sort(names[startsWith(names, paste0(kind, "_"))], method = "radix"), house)
    makers <- Filter(function(maker) is.function(maker) && !length(formals(maker)), makers)
    records <- lapply(unname(makers), function(maker) maker())
    records <- records[order(vapply(records, `[[`, 0, "place"))]
    known_records[[kind]] <- stats::setNames(records, vapply(records, `[[`, "", "name"))
  }
  known_records[[kind]]
}

known_records <- new.env(parent = emptyenv())

pooled_fields <- c(
  "x", "y", "by", "coefficient", "k", "n", "n_dropped", "confidence", "r", "ci_low", "ci_high", "value", "df", "p", "tau",
  "tau_low", "tau_high", "q", "q_df", "q_p", "i_squared", "prediction_low", "prediction_high", "textbook", "groups",
  "excluded", "moderator", "asymmetry", "variance_factor", "shared_cases", "reliability"
)

new_pooled <- function(...) new_result("pooled", list(...), pooled_fields)

choices_fields <- c(
  "x", "y", "confidence", "k", "choices", "median", "lowest", "highest", "positive", "negative", "significant", "decisions",
  "p", "permutations", "seed", "influential"
)

new_choices <- function(...) new_result("choices", list(...), choices_fields)

waves_fields <- c(
  "x", "y", "waves", "persons", "confidence", "coefficient", "relations", "differences", "attrition", "lost",
  "lost_difference"
)

new_waves <- function(...) new_result("waves", list(...), waves_fields)
