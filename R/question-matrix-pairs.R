# The matrix of one set of cases.

matrix_of_study <- function(study, asked, sides, known = list()) {
  chosen <- matrix_sample(study, asked$names, asked$given)
  check_memory(length(chosen$sample$names))
  sample <- if (asked$missing == "listwise") whole_sample(chosen$sample) else chosen$sample
  kinds <- keep_sides(pair_kinds(sample$variables$level, asked$coefficient), sample$names, sides)
  possible <- kinds[upper.tri(kinds)]
  if (all(is.na(possible))) {
    abort_usage(sprintf("No pair of these variables suits %s.", asked$coefficient), "Use coefficient = \"auto\".")
  }
  threads <- sound_threads(asked$threads)
  pair_at <- function(pairs, k) narrow_sample(sample, sample$names[pairs$i[k]], sample$names[pairs$j[k]])
  estimates <- if (!is.null(asked$given)) {
    estimate_pairs_given(kinds, asked, function(pairs, k) hold_constant(pair_at(pairs, k), study, asked$given))
  } else if (is.null(sample$more$design)) {
    estimate_pairs(sample$columns, kinds, asked$expect, asked$confidence, threads, pair_at, progress_teller("pairs"))
  } else {
    estimate_pairs_by_design(sample$columns, kinds, asked, sample_design(sample), threads, pair_at)
  }
  spreads <- attr(estimates, "spreads")
  estimates <- with_plausible_pairs(estimates, study, sample, asked)
  chosen$left_out$unsuited <- if (is.null(sides)) sum(is.na(possible)) else 0L
  if (is.null(spreads)) spreads <- core_spreads(unname(sample$columns), threads)
  clear_away(length(estimates$r))
  if (!is.null(asked$given) && !is.null(sample$more$design)) {
    weighted <- vapply(sample$columns, spread_by_weight, c(0, 0), sample_design(sample)$weight)
    spreads[c("mean", "sd")] <- list(weighted[1, ], weighted[2, ])
  }
  spreads <- spread_of_values(spreads, study, sample$names)
  result <- matrix_result(estimates, with_spreads(sample, spreads), sides, asked, chosen$left_out, study_size(study))
  result$intake <- sample_intake(sample)
  result$design <- sample$more$design$design
  result$given <- asked$given
  result$given_labels <- if (!is.null(asked$given)) label_of_variables(study, asked$given)
  rm(estimates, kinds, possible)
  clear_away(nrow(result$pairs))
  # What is left when others are held is looked at pair by pair, by relate().
  if (!is.null(asked$given)) return(result)
  with_matrix_cautions(result, sample, asked, chosen$spoilt, known = known)
}

with_spreads <- function(sample, spreads) {
  one <- vapply(sample$coding, function(coding) if (is.null(coding$one)) NA_character_ else coding$one, "")
  cbind(sample$variables, mean = spreads$mean, sd = spreads$sd, n = as.integer(spreads$n), one = unname(one))
}

matrix_result <- function(estimates, variables, sides, asked, left_out, cases) {
  names <- variables$variable
  log10_p_adjusted <- adjust_log10_p(estimates$log10_p, asked$multiplicity)
  pairs <- list2DF(list(
    x = names[estimates$i], y = names[estimates$j], coefficient = estimates$coefficient, r = estimates$r,
    n = as.integer(estimates$n), ci_low = estimates$ci_low, ci_high = estimates$ci_high, p = estimates$p,
    p_adjusted = if (asked$multiplicity == "none") estimates$p else 10^log10_p_adjusted,
    highlighted = !is.na(estimates$r) & abs(estimates$r) >= asked$highlight, log10_p = estimates$log10_p,
    log10_p_adjusted = log10_p_adjusted
  ))
  if (!is.null(sides)) pairs <- rows_first(pairs, sides)
  rownames(pairs) <- NULL
  new_matrix(
    pairs = pairs, variables = variables, missing = asked$missing, multiplicity = asked$multiplicity,
    confidence = asked$confidence, expect = asked$expect, highlight = asked$highlight, rows = sides$rows,
    columns = sides$columns, cases = as.integer(cases), left_out = left_out, checked = NULL, cautions = new_cautions()
  )
}

# Looking closer at a pair takes a while, so that it is done for the largest ones alone; the result says for how many.
most_checked <- 40L

with_matrix_cautions <- function(result, sample, asked, further = list(), by_rows = TRUE, known = list()) {
  clear <- pairs_to_check(result$pairs, alpha_of(asked$confidence))
  checked <- utils::head(clear, most_checked)
  result$checked <- list(clear = length(clear), checked = length(checked))
  settings <- list(
    multiplicity = asked$multiplicity, confidence = asked$confidence, scale = asked$strength, cases = result$cases,
    known = known
  )
  pair_at <- if (by_rows) function(k) narrow_sample(sample, result$pairs$x[k], result$pairs$y[k])
  found <- find_matrix_cautions(sample, result$pairs, checked, settings, pair_at)
  result$cautions <- bind_cautions(new_cautions(further), found)
  result
}

#' All pairs with variables held constant, pair by pair
#' @return As from [estimate_pairs()].
#' @noRd
estimate_pairs_given <- function(kinds, asked, pair_at) {
  pairs <- pair_places(kinds)
  relation_asked <- settle_arguments(question_relate(), asked[c("expect", "confidence")])
  rows <- lapply(seq_along(pairs$i), function(k) {
    of_pair <- utils::modifyList(relation_asked, list(coefficient = pairs$coefficient[k], strength = asked$strength))
    of_pair$undoubted <- TRUE # a matrix tells none of them
    relation <- tryCatch(relate_sample(pair_at(pairs, k), of_pair), unsere_error_undefined = function(e) NULL)
    fields <- c("r", "n", "ci_low", "ci_high", "p", "log10_p")
    if (is.null(relation)) return(stats::setNames(rep(list(NA_real_), 6L), fields))
    relation[fields]
  })
  found <- lapply(
    stats::setNames(nm = names(rows[[1]])),
    function(field) vapply(rows, function(row) as.double(row[[field]]), 0)
  )
  found$n[is.na(found$n)] <- 0
  left <- (1 - found$r) * (1 + found$r)
  list2DF(c(pairs[c("i", "j", "coefficient")], list(unexplained = left), found))
}

#' The pairs of a matrix one or both of whose variables have plausible values: combined as [relate_plausible()] does
#'
#' @param estimates From [estimate_pairs()] and its like, of the means of the values.
#' @param sample The matrix's; of it the rows are taken where cases are complete (`listwise`).
#' @return The same with r, interval, p and n of these pairs worked out of each value.
#' @noRd
with_plausible_pairs <- function(estimates, study, sample, asked) {
  several <- names(study_plausible(study))
  at <- which(sample$names[estimates$i] %in% several | sample$names[estimates$j] %in% several)
  if (!length(at)) return(estimates)
  if (asked$missing == "listwise") study <- study[sample$row, ]
  of_pair <- settle_arguments(question_relate(), asked[c("expect", "confidence", "strength")])
  of_pair$given <- asked$given
  for (k in at) {
    of_pair$coefficient <- estimates$coefficient[k]
    found <- tryCatch(
      relate_plausible(study, sample$names[estimates$i[k]], sample$names[estimates$j[k]], of_pair),
      unsere_error_undefined = function(e) NULL
    )
    for (field in c("r", "n", "ci_low", "ci_high", "p", "log10_p")) {
      estimates[[field]][k] <- if (is.null(found)) NA else found[[field]]
    }
    estimates$unexplained[k] <- (1 - estimates$r[k]) * (1 + estimates$r[k])
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
