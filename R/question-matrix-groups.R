# A matrix for each group beside that of all cases.

matrices_by <- function(study, options, sides) {
  by <- options$by
  if (!length(options$names)) options$names <- matrix_sample(study, NULL)$sample$names
  options$names <- setdiff(options$names, by)
  values <- as.character(study_column(study, by))
  kinds <- sort(unique(values[!is.na(values)]))
  if (length(kinds) < 2L) {
    abort_usage(
      problem("%s has %s only.", by, count_in_english(length(kinds), "group")), "Choose a grouping variable."
    )
  }
  if (length(kinds) > 30L) {
    abort_usage(
      problem("%s has %d values; at most 30 groups are possible.", by, length(kinds)), "Choose a variable with fewer groups."
    )
  }
  groups <- lapply(stats::setNames(kinds, kinds), function(kind) matrix_of_study(study[values %in% kind, ], options, sides))
  pooled <- matrix_of_study(study, options, sides)
  new_matrices(
    by = by, by_label = label_of_variables(study, by), pooled = pooled, groups = adjust_over_groups(groups, options),
    differences = differences_of_groups(pooled, groups, options)
  )
}

#' Groups whose p allow for the tests of all groups together
#' @noRd
adjust_over_groups <- function(groups, options) {
  sizes <- vapply(groups, function(group) nrow(group$pairs), 0L)
  all <- adjust_log10_p(unlist(lapply(groups, function(group) group$pairs$log10_p)), options$multiplicity)
  adjusted <- split(all, factor(rep(seq_along(groups), sizes), seq_along(groups)))
  Map(function(group, log10_p) {
    group$pairs$log10_p_adjusted <- log10_p
    if (options$multiplicity != "none") group$pairs$p_adjusted <- 10^log10_p
    group
  }, groups, adjusted)
}

#' For each pair whether r differs between the groups, the p adjusted over the pairs
#' @noRd
differences_of_groups <- function(pooled, groups, options) {
  pairs <- pooled$pairs
  key <- pair_key(pairs$x, pairs$y)
  of_groups <- lapply(groups, function(group) group$pairs[match(key, pair_key(group$pairs$x, group$pairs$y)), ])
  tests <- lapply(seq_along(key), function(k) {
    rows <- do.call(rbind, lapply(of_groups, function(group) {
      data.frame(group[k, c("coefficient", "r", "n")], z_variance = or_default(group$z_variance[k], NA_real_))
    }))
    rows <- rows[rows$coefficient %in% pairs$coefficient[k], ]
    usual <- coefficient_record(pairs$coefficient[k])$z_variance(rows$r, rows$n)
    as.data.frame(test_several_samples(rows$r, ifelse(is.na(rows$z_variance), usual, rows$z_variance)))
  })
  tests <- do.call(rbind, tests)
  data.frame(
    x = pairs$x, y = pairs$y, groups = tests$groups, chi_squared = tests$value, df = tests$df, p = tests$p,
    p_adjusted = 10^adjust_log10_p(log10(tests$p), options$multiplicity)
  )
}
