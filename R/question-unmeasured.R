# Whether a significant correlation would survive a confounder that nobody measured.

#' A relation with how strong an unmeasured confounder would have to be, where r is significant
#' @noRd
with_unmeasured <- function(relation, options) {
  record <- coefficient_record(relation$coefficient)
  if (!record$products) {
    abort_usage(
      problem("For %s the strength of an unmeasured confounder is not computed.", record$name), "Use pearson or spearman."
    )
  }
  relation$unmeasured <- unmeasured_of(relation, alpha_of(options$confidence))
  relation
}

#' @return `NULL` where r is not significant; else what [measure_unmeasured()] gives, with `cases` to be replaced, `measured`
#'   (how many variables were compared), `stronger` (how many reach the threshold), `strongest` and `strongest_impact`.
#' @noRd
unmeasured_of <- function(relation, alpha) {
  record <- coefficient_record(relation$coefficient)
  if (!record$products || !isTRUE(relation$p < alpha) || abs(relation$r) >= 1) return(NULL)
  usual <- relation$scheme %in% c("simple", "controlled") && !takes_own_spread(relation) && !is.null(relation$n)
  controls <- if (is.null(relation$given)) 0L else relation$n - 2L - round(or_default(relation$df_of_r, relation$df))
  unmeasured <- measure_unmeasured(
    relation$r, relation$n, if (usual) controls else 0L, alpha, relation$expect == "either",
    variance = if (!usual) relation$z_variance, df = if (!usual) or_default(relation$df, relation$n - 2)
  )
  if (is.null(unmeasured)) return(NULL)
  c(unmeasured, list(cases = ceiling(unmeasured$replaced * relation$n)), compare_measured(relation, unmeasured$impact))
}

#' The same of the changes of two series, which no trend deceives; what else was measured is not compared
#' @noRd
unmeasured_of_changes <- function(changes, alpha) {
  n <- round(or_default(changes$n_effective, changes$n))
  if (!isTRUE(changes$p < alpha) || !isTRUE(n > 4) || abs(changes$r) >= 1) return(NULL)
  unmeasured <- measure_unmeasured(changes$r, n, 0L, alpha, TRUE)
  if (is.null(unmeasured)) return(NULL)
  c(unmeasured, list(
    cases = ceiling(unmeasured$replaced * n), measured = 0L, stronger = 0L, strongest = NA_character_,
    strongest_impact = NA_real_
  ))
}

compare_measured <- function(relation, impact, most = 60L, cases = 20000L) {
  sample <- relation$sample
  record <- coefficient_record(relation$coefficient)
  none <- list(measured = 0L, stronger = 0L, strongest = NA_character_, strongest_impact = NA_real_)
  if (is.null(sample$more$numbers_at)) return(none)
  at <- utils::head(seq_along(sample$row), cases)
  columns <- measured_columns(sample, record, at, most)
  controls <- if (length(sample$given$names)) held_columns(sample, record)[at, , drop = FALSE]
  each <- impact_of_measured(record$scores(sample$x[at]), record$scores(sample$y[at]), columns, controls)
  each <- each[!is.na(each)]
  if (!length(each)) return(none)
  list(
    measured = length(each), stronger = sum(each >= impact), strongest = names(each)[which.max(each)],
    strongest_impact = max(each)
  )
}

# The other measures as numbers, and groups as columns of noughts and ones.
measured_columns <- function(sample, record, at, most) {
  row <- sample$row[at]
  names <- utils::head(setdiff(sample$more$measured, c(sample$names, sample$given$names)), most)
  numbers <- lapply(sample$more$numbers_at(names, row), function(v) {
    score <- v
    score[!is.na(v)] <- record$scores(v[!is.na(v)])
    cbind(score)
  })
  names(numbers) <- names
  splits <- Filter(function(split) !split$name %in% c(names, sample$names, sample$given$names), sample_splits(sample))
  groups <- lapply(splits, function(split) {
    words <- split$values[at]
    kinds <- unique(words[!is.na(words)])
    if (length(kinds) < 2L || length(kinds) > min(30L, length(at) / 5)) return(NULL)
    outer(words, kinds[-1], `==`) + 0
  })
  names(groups) <- vapply(splits, `[[`, "", "name")
  Filter(function(v) !is.null(v) && any(is.finite(v)), c(numbers, groups))
}
