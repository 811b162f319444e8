#' Each pair of a matrix on a line of its own, with its test and its sentence
#'
#' @param matrix A matrix from [correlation_matrix()].
#' @param strength The scale behind the word for the size of r, as for [relate()].
#' @return A data frame (class `unsere_pair_list`), a row a pair, strongest first: `x`, `y`, `coefficient`, `r`, `n`,
#'   `statistic` (its name), `value`, `df`, `p`, `p_adjusted`, `strength`, `sentence`.
#' @section Errors: `unsere_error_usage` if `matrix` is not a matrix or the scale is unknown.
#' @examples
#' learners <- demo_study("learners")
#' list_pairs(correlation_matrix(learners, practice_hours, speaking_score, confidence))
#' @export
list_pairs <- function(matrix, strength = "cohen") {
  check_matrix(matrix)
  scale <- strength_scale(strength)
  pairs <- above_zero(matrix$pairs)
  tested <- lapply(seq_len(nrow(pairs)), function(k) {
    of_groups <- c("F", "chi-squared")[coefficient_record(pairs$coefficient[k])$categories]
    statistic <- c(of_groups, or_default(pairs$statistic[k], "t"))[1]
    if (!is.na(or_default(pairs$df[k], NA))) return(data.frame(statistic = statistic, pairs[k, c("value", "df")]))
    unexplained <- (1 - abs(pairs$r[k])) * (1 + abs(pairs$r[k]))
    as.data.frame(coefficient_record(pairs$coefficient[k])$statistic(pairs$r[k], unexplained, pairs$n[k]))
  })
  out <- data.frame(
    pairs[c("x", "y", "coefficient", "r", "n")], do.call(rbind, tested), pairs[c("p", "p_adjusted")],
    strength = vapply(pairs$r, strength_word, "", scale = scale), row.names = NULL
  )
  out$sentence <- vapply(seq_len(nrow(out)), function(k) pair_sentence(matrix, pairs[k, ], out[k, ]), "")
  structure(out, class = c("unsere_pair_list", "data.frame"), matrix = matrix, scale = scale)
}

pair_sentence <- function(matrix, pair, tested) {
  fields <- c("x", "y", "coefficient", "r", "n", "ci_low", "ci_high", "p")
  result <- c(as.list(pair)[fields], as.list(tested[c("statistic", "value", "df")]), list(
    scheme = if (is.null(pair$df) || is.na(pair$df) || !is.null(pair$statistic)) "simple" else "design",
    ci_method = pair$ci_method, confidence = interval_confidence(matrix),
    tested_at = matrix$confidence, expect = matrix$expect, p_method = "analytic",
    direction = if (pair$r > 0) "positive" else "negative"
  ))
  named <- vapply(c(pair$x, pair$y), function(name) {
    one <- matrix$variables$one[match(name, matrix$variables$variable)]
    inside <- inside_of(matrix$variables, name)
    if (is.na(one)) inside else sprintf("%s (%s)", inside, one)
  }, "")
  if (takes_groups(result)) {
    figures <- c(r_label(result), sprintf("n = %s", format_count(result$n)), p_clause(result))
    return(begin(sprintf("%s, %s: %s.", named[1], named[2], paste(figures, collapse = ", ")), matrix$variables))
  }
  figures <- c(r_clause(result, 2), interval_clause(result, 2), statistic_clause(result), p_clause(result))
  begin(sprintf("%s, %s.", claim_of(result, named[1], named[2]), paste(figures, collapse = ", ")), matrix$variables)
}

#' @export
format.unsere_pair_list <- function(x, ...) {
  matrix <- attr(x, "matrix")
  cells <- list(
    x = shorten(label_of(matrix$variables, x$x), 18), y = shorten(label_of(matrix$variables, x$y), 18),
    r = format_r(x$r),
    df = ifelse(is.na(x$df), undefined_mark(), format_df(x$df)),
    test = paste(sub("chi-squared", "chi2", x$statistic), format_decimals(x$value, 2)),
    p = prose_p(x$p), strength = x$strength
  )
  if (all(is.na(x$df))) cells$df <- NULL
  c(
    set_table(cells, left_aligned = 2L), "", unlist(lapply(x$sentence, function(text) c(set_paragraph(text), ""))),
    set_paragraph(paste0(say("Strength by "), scale_clause(attr(x, "scale")), "."))
  )
}

#' @export
print.unsere_pair_list <- function(x, ...) {
  cat(format(x), sep = "\n")
  invisible(x)
}
