# The matrix of one set of cases.

matrix_of_study <- function(study, options, sides, known = list()) {
  chosen <- matrix_sample(study, options$names, options$given, record_of_groups(options))
  check_memory(length(chosen$sample$names))
  sample <- if (options$missing == "listwise") whole_sample(chosen$sample) else chosen$sample
  kinds <- keep_sides(pair_kinds(sample$variables$level, options$coefficient), sample$names, sides)
  possible <- kinds[upper.tri(kinds)]
  if (all(is.na(possible))) {
    abort_usage(problem("No pair of these variables suits %s.", options$coefficient), "Use coefficient = \"auto\".")
  }
  threads <- sound_threads(options$threads)
  estimates <- estimate_matrix(study, sample, kinds, options, threads)
  spreads <- attr(estimates, "spreads")
  chosen$left_out$unsuited <- if (is.null(sides)) sum(is.na(possible)) else 0L
  clear_away(length(estimates$r))
  spreads <- spread_of_values(spreads, study, sample$names)
  result <- matrix_result(estimates, with_spreads(sample, spreads), sides, options, chosen$left_out, study_size(study))
  result$intake <- sample_intake(sample)
  result$design <- sample$more$design$design
  result$given <- options$given
  result$given_labels <- if (!is.null(options$given)) label_of_variables(study, options$given)
  rm(estimates, kinds, possible)
  clear_away(nrow(result$pairs))
  # What is left when others are held is looked at pair by pair, by relate(); so are groups.
  if (!is.null(options$given) || asks_for_groups(options)) return(result)
  if (options$interval == "auto" && is.null(result$design)) {
    several <- names(study_plausible(study))
    simple <- which(!result$pairs$x %in% several & !result$pairs$y %in% several)
    result$pairs <- pairs_over_classes(result$pairs, simple, sample, options)
  }
  with_matrix_cautions(result, sample, options, chosen$spoilt, known = known)
}

with_spreads <- function(sample, spreads) {
  one <- vapply(sample$coding, function(coding) if (is.null(coding$one)) NA_character_ else coding$one, "")
  # The numbers of groups without an order are names.
  named <- sample$variables$level == "nominal"
  spreads[c("mean", "sd")] <- lapply(spreads[c("mean", "sd")], replace, named, NA_real_)
  cbind(sample$variables, mean = spreads$mean, sd = spreads$sd, n = as.integer(spreads$n), one = unname(one))
}

matrix_result <- function(estimates, variables, sides, options, left_out, cases) {
  names <- variables$variable
  pairs <- list2DF(list(
    x = names[estimates$i], y = names[estimates$j], coefficient = estimates$coefficient, r = estimates$r,
    n = as.integer(estimates$n), ci_low = estimates$ci_low, ci_high = estimates$ci_high, p = estimates$p,
    p_adjusted = estimates$p, highlighted = !is.na(estimates$r) & abs(estimates$r) >= options$highlight,
    log10_p = estimates$log10_p
  ))
  pairs <- with_adjusted_p(pairs, options$multiplicity)
  further <- intersect(c("z_variance", "statistic", "value", "df", "ci_method"), names(estimates))
  for (field in further) pairs[[field]] <- estimates[[field]]
  if (!is.null(sides)) pairs <- rows_first(pairs, sides)
  rownames(pairs) <- NULL
  new_matrix(
    pairs = pairs, variables = variables, missing = options$missing, multiplicity = options$multiplicity,
    confidence = options$confidence, expect = options$expect, highlight = options$highlight, rows = sides$rows,
    columns = sides$columns, cases = as.integer(cases), left_out = left_out, checked = NULL, cautions = new_cautions()
  )
}

# Looking closer at a pair takes a while, so that it is done for the largest ones alone; the result says for how many.
most_checked <- 40L

with_matrix_cautions <- function(result, sample, options, further = list(), by_rows = TRUE, known = list()) {
  clear <- pairs_to_check(result$pairs, alpha_of(options$confidence))
  checked <- utils::head(clear, most_checked)
  result$checked <- list(clear = length(clear), checked = length(checked))
  settings <- list(
    multiplicity = options$multiplicity, confidence = options$confidence, scale = options$strength, cases = result$cases,
    known = known
  )
  pair_at <- if (by_rows) function(k) narrow_sample(sample, result$pairs$x[k], result$pairs$y[k])
  cautions <- find_matrix_cautions(sample, result$pairs, checked, settings, pair_at)
  result$cautions <- bind_cautions(new_cautions(further), cautions)
  result
}

# Seeking classes takes a while, too; so it is done for so many pairs, the largest.
most_sought <- 1000L

#' Pairs whose cases are clustered in classes that nobody declared, with the interval and test over them
#' @param which Places of those whose cases are a simple sample.
#' @noRd
pairs_over_classes <- function(pairs, which, sample, options) {
  moments <- vapply(coefficient_records()[unique(pairs$coefficient)], `[[`, NA, "moments")
  which <- which[!is.na(pairs$r[which]) & moments[pairs$coefficient[which]]]
  which <- pairs_alike_in_classes(pairs, which, sample)
  changed <- FALSE
  for (k in utils::head(which_largest(pairs, which), most_sought)) {
    of_pair <- narrow_sample(sample, pairs$x[k], pairs$y[k])
    record <- coefficient_record(pairs$coefficient[k])
    estimate <- estimate_of_pair(of_pair, pairs[k, ])
    found <- clusters_of_sample(of_pair, list(
      record = record, estimate = estimate, r = estimate$r, alpha = alpha_of(options$confidence)
    ))
    told <- told_over_classes(found, options$expect)
    if (is.null(told)) next
    pairs <- with_own_interval(pairs, k, told)
    changed <- TRUE
  }
  if (changed) with_adjusted_p(pairs, options$multiplicity) else pairs
}

# Pairs both of whose variables are alike within some classes, as far as each alone shows.
pairs_alike_in_classes <- function(pairs, which, sample) {
  names <- unique(c(pairs$x[which], pairs$y[which]))
  scores <- lapply(coefficient_records()[unique(pairs$coefficient[which])], `[[`, "scores")
  alike <- lapply(sample_classes(sample), function(classes) {
    Filter(function(name) {
      column <- sample$columns[[name]]
      known <- !is.na(column)
      any(vapply(scores, function(of) isTRUE(group_likeness(of(column[known]), classes$group[known])$p < 0.05), NA))
    }, names)
  })
  of_both <- function(k) any(vapply(alike, function(names) all(c(pairs$x[k], pairs$y[k]) %in% names), NA))
  which[vapply(which, of_both, NA)]
}

#' p adjusted for the number of tests
#' @noRd
with_adjusted_p <- function(pairs, multiplicity) {
  pairs$log10_p_adjusted <- adjust_log10_p(pairs$log10_p, multiplicity)
  pairs$p_adjusted <- if (multiplicity == "none") pairs$p else 10^pairs$log10_p_adjusted
  pairs
}

#' Whether a coefficient of groups without an order is asked for by name; nothing else brings them into a matrix
#' @noRd
asks_for_groups <- function(options) !is.null(record_of_groups(options))

record_of_groups <- function(options) {
  record <- if (options$coefficient != "auto") coefficient_record(options$coefficient)
  if (isTRUE(record$categories > 0L)) record
}

#' All pairs under the scheme of the cases: many at once where the scheme has a way, else one by one
#'
#' @return As from [estimate_pairs()]; under other schemes than the simple one with `z_variance`, `value` (t) and `df`.
#' @noRd
estimate_matrix <- function(study, sample, kinds, options, threads) {
  of_pair <- relation_options(options)
  design <- sample_design(sample)
  several <- names(study_plausible(study))
  schemes <- c(
    if (!is.null(design)) "design", if (length(options$given)) "controlled",
    if (any(sample$names %in% several)) "plausible"
  )
  for (scheme in schemes) {
    for (name in setdiff(kinds, NA)) check_offered(find_scheme(scheme), coefficient_record(name), of_pair)
  }
  pair_at <- function(pairs, k) narrow_sample(sample, sample$names[pairs$i[k]], sample$names[pairs$j[k]])
  estimates <- if (asks_for_groups(options)) {
    estimate_pairs_singly(kinds, of_pair, pair_at)
  } else if (length(options$given)) {
    estimate_pairs_singly(kinds, of_pair, function(pairs, k) hold_constant(pair_at(pairs, k), study, options$given))
  } else if (is.null(design)) {
    estimate_pairs(
      sample$columns, kinds, options$expect, options$confidence, threads, pair_at, progress_teller("pairs"),
      options$interval
    )
  } else {
    estimate_pairs_by_design(sample$columns, kinds, options, design, threads, pair_at)
  }
  if (!length(setdiff(schemes, "plausible")) && options$interval == "auto" && !asks_for_groups(options)) {
    estimates <- with_dependent_pairs(estimates, sample, options$expect, options$confidence, pair_at)
  }
  if ("plausible" %in% schemes) estimates <- with_plausible_pairs(estimates, study, sample, of_pair, options$missing)
  if (is.null(attr(estimates, "spreads"))) {
    attr(estimates, "spreads") <- if (is.null(design)) {
      core_spreads(unname(sample$columns), threads)
    } else {
      spreads_by_weight(sample$columns, design$weight)
    }
  }
  estimates
}

#' The options of a relation that other questions ask pairs by
#' @noRd
relation_options <- function(options) {
  shared <- intersect(names(options), c("coefficient", "expect", "confidence", "interval", "strength", "given"))
  utils::modifyList(settle_arguments(question_relate(), list()), options[shared])
}

estimate_pairs_singly <- function(kinds, options, pair_at) {
  pairs <- pair_places(kinds)
  rows <- lapply(seq_along(pairs$i), function(k) {
    options$coefficient <- pairs$coefficient[k]
    sample <- pair_at(pairs, k)
    evidence_row(tryCatch(evidence_of_sample(sample, options), unsere_error_undefined = function(e) NULL), sample)
  })
  list2DF(c(pairs[c("i", "j", "coefficient")], do.call(rbind, rows)))
}

#' The evidence about a pair as a row of a matrix
#' @noRd
evidence_row <- function(evidence, sample) {
  if (is.null(evidence)) {
    none <- NA_real_
    return(data.frame(
      r = none, unexplained = none, n = sample_size(sample), ci_low = none, ci_high = none, p = none, log10_p = none,
      z_variance = none, value = none, df = none
    ))
  }
  data.frame(
    evidence[c("r", "unexplained", "n")], evidence$interval[c("ci_low", "ci_high")], evidence$test[c("p", "log10_p")],
    z_variance = or_default(evidence$z_variance, NA_real_), evidence$test[c("value", "df")]
  )
}

#' The pairs one or both of whose variables have plausible values: the evidence of each value combined
#'
#' @param estimates From [estimate_pairs()] and its like, of the means of the values.
#' @param sample The matrix's; of it the rows are taken where cases are complete (`listwise`).
#' @noRd
with_plausible_pairs <- function(estimates, study, sample, options, missing) {
  several <- names(study_plausible(study))
  if (missing == "listwise") study <- study[sample$row, ]
  for (k in which(sample$names[estimates$i] %in% several | sample$names[estimates$j] %in% several)) {
    options$coefficient <- estimates$coefficient[k]
    samples <- samples_of_pair(study, sample$names[estimates$i[k]], sample$names[estimates$j[k]], options$given)
    row <- evidence_row(
      tryCatch(evidence_of_pair(samples, options), unsere_error_undefined = function(e) NULL), samples$shown
    )
    for (field in names(row)) {
      if (is.null(estimates[[field]])) estimates[[field]] <- NA_real_
      estimates[[field]][k] <- row[[field]]
    }
  }
  estimates
}

# The SD of a score is the mean of its values' SDs, not that of their means.
spread_of_values <- function(spreads, study, names) {
  for (name in intersect(names, names(study_plausible(study)))) {
    values <- lapply(study_plausible(study)[[name]], function(value) study_numbers(study, value)$values)
    spreads$sd[match(name, names)] <- mean(vapply(values, stats::sd, 0, na.rm = TRUE))
  }
  spreads
}
