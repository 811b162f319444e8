# The correlation of each group of a study, with the variance of its z, to be pooled.

#' The groups of a study with their correlations
#' @return A list: `groups` as from [rows_of_table()], `likeness` of their errors (`NULL` where they share no persons),
#'   `factor`, `n_dropped`, `coefficient`, `cautions` and what a result tells of its variables.
#' @noRd
pool_groups <- function(study, options) {
  by <- or_default(options$by, or_default(role_variable(study, "cluster"), role_variable(study, "group")))
  if (is.null(by)) abort_usage("There is no grouping variable.", "Name it with `by`.")
  if (by %in% c(options$x, options$y, options$given)) {
    abort_usage(problem("%s is one of the pair.", by), "Name another for the groups.")
  }
  whole <- sample_pair(study, options$x, options$y)
  record <- settle_coefficient(options$coefficient, whole)
  if (!record$signed) abort_usage(
    problem("%s has no sign, so it is not pooled.", capital(record$name)), "Choose variables with an order."
  )
  words <- plain_text(as.character(study_column(study, by)))
  kinds <- sort_groups(study_column(study, by), words)
  if (length(kinds) > 2000L) {
    abort_usage(problem("%s has %d values; at most 2,000 groups are possible.", by, length(kinds)))
  }
  settings <- settle_arguments(question_relate(), list(
    x = options$x, y = options$y, given = options$given, coefficient = record$name, confidence = options$confidence
  ))
  relations <- lapply(kinds, function(kind) relation_of_group(study, which(words %in% kind), settings, length(kinds) <= 40L))
  rows <- do.call(rbind, Map(function(kind, one) data.frame(name = kind, source = "cases", one$row), kinds, relations))
  factor <- factor_of_errors(study, whole, words, rows, record, options)
  usual <- usual_variance(rows, record, options)
  rows$variance <- ifelse(is.na(rows$variance), NA, usual * factor)
  rows$moderator <- I(lapply(kinds, function(kind) group_moderator(study, options$moderator, which(words %in% kind))))
  list(
    groups = rows, likeness = likeness_of_groups(study, whole, words, rows, record), factor = factor,
    n_dropped = study_size(study) - sum(rows$n[!is.na(rows$variance)]), coefficient = record$name, x = options$x,
    y = options$y, by = by, cautions = cautions_of_groups(kinds, relations),
    variables = book_entries(study, c(options$x, options$y, by, options$moderator)), intake = sample_intake(whole)
  )
}

relation_of_group <- function(study, rows, settings, doubted) {
  settings$undoubted <- !doubted
  relation <- tryCatch(
    relate_study(study[rows, ], settings$x, settings$y, settings),
    unsere_error_undefined = function(error) NULL, unsere_error_input = function(error) NULL
  )
  if (is.null(relation)) {
    empty <- data.frame(n = length(rows), r = NA, variance = NA_real_, reason = "no variation")
    return(list(row = empty))
  }
  usable <- relation$n > 3L + length(settings$given) && abs(relation$r) < 1
  list(
    row = data.frame(
      n = relation$n, r = relation$r, variance = if (usable) or_default(relation$z_variance, NA_real_) else NA_real_,
      reason = if (relation$n > 3L) "points on a line" else "fewer than four cases"
    ),
    cautions = relation$cautions
  )
}

#' What the textbook makes the variance of each z
#' @noRd
usual_variance <- function(rows, record, options) {
  number_of_controls <- length(options$given)
  if (number_of_controls || is.null(record$z_variance)) return(1 / pmax(rows$n - 3 - number_of_controls, 0.5))
  record$z_variance(rows$r, rows$n)
}

#' By how much the errors of z exceed the textbook's, one figure for all groups: of each group it would rest on few
#' cases
#'
#' Under a design it is the mean of the groups' design effects; else that of all cases, standardised within groups.
#' @noRd
factor_of_errors <- function(study, whole, words, rows, record, options) {
  known <- !is.na(rows$variance)
  if (!any(known)) return(1)
  versions <- length(plausible_versions(study, c(options$x, options$y))) > 1L
  if (length(options$given) || has_design(study) || versions || !record$products) {
    ratio <- rows$variance[known] / usual_variance(rows[known, ], record, options)
    return(sum(ratio * rows$n[known]) / sum(rows$n[known]))
  }
  scores <- group_scores(whole, words, rows$name[known], record)
  pooled <- list(x = unlist(lapply(scores, `[[`, "x")), y = unlist(lapply(scores, `[[`, "y")))
  estimate <- straight_record()$estimate(list(x = pooled$x, y = pooled$y, names = whole$names))
  spread <- spread_of_estimate(estimate)
  if (speaks_against(spread, estimate$n)) spread$variance * (estimate$n - 3) else 1
}

#' The scores of each group's cases, standardised within it
#' @noRd
group_scores <- function(whole, words, kinds, record, person = NULL) {
  of_case <- words[whole$row]
  lapply(kinds, function(kind) {
    at <- which(of_case %in% kind)
    standard <- function(v) {
      v <- record$scores(v[at])
      (v - mean(v)) / stats::sd(v)
    }
    list(x = standard(whole$x), y = standard(whole$y), person = person[at])
  })
}

#' How alike the errors of groups are that share persons; `NULL` where they share none
#' @noRd
likeness_of_groups <- function(study, whole, words, rows, record) {
  case <- repeated_units(study, whole, words)
  known <- rows$name[!is.na(rows$variance)]
  if (is.null(case) || !record$products || length(known) > 200L) return(NULL)
  person <- as.character(study_column(study, case))[whole$row]
  group <- words[whole$row]
  apart <- unique(data.frame(person, group))
  if (!anyDuplicated(apart$person[!is.na(apart$person) & apart$group %in% known])) return(NULL)
  person[is.na(person)] <- sprintf("row %d", whole$row[is.na(person)])
  likeness_of_errors(group_scores(whole, words, known, record, person))
}

# The column that names what comes in several groups: the cases, else the units of which each period has one row.
repeated_units <- function(study, whole, words) {
  case <- role_variable(study, "case")
  if (!is.null(case) && anyDuplicated(study_column(study, case))) return(case)
  time <- or_default(whole$more$time_name, whole$more$likely$time)
  if (is.null(time) || !identical(plain_text(as.character(study_column(study, time))), words)) return(case)
  or_default(or_default(whole$more$likely$unit, whole$more$group_name), case)
}

group_moderator <- function(study, name, rows) {
  if (is.null(name)) return(NA)
  values <- moderator_values(study, name)[rows]
  values <- values[!is.na(values)]
  if (!length(values)) return(NA)
  if (is.numeric(values)) return(mean(values))
  if (length(unique(values)) > 1L) {
    abort_input(
      problem("%s has several values within one group.", name), "A moderator with words must be constant in each group."
    )
  }
  values[1]
}

#' Which cautions were raised in which groups, the gravest first
#' @noRd
cautions_of_groups <- function(kinds, relations) {
  rows <- do.call(rbind, Map(function(kind, one) {
    raised <- one$cautions
    if (is.null(raised) || !nrow(raised)) return(NULL)
    raised <- raised[raised$severity != "note", ]
    if (nrow(raised)) data.frame(group = kind, code = raised$code, severity = raised$severity)
  }, kinds, relations))
  if (is.null(rows)) return(NULL)
  codes <- unique(rows$code[gravest_first(rows$severity)])
  list2DF(list(code = codes, groups = lapply(codes, function(code) unique(rows$group[rows$code == code]))))
}

#' The pooled result of groups
#' @noRd
finish_pooled <- function(groups, excluded, gathered, options) {
  corrected <- correct_groups(groups, options, c(gathered$x, gathered$y))
  groups <- corrected$groups
  z <- atanh(groups$r)
  errors <- errors_of_groups(groups, gathered$likeness)
  confidence <- options$confidence
  fit <- fit_pooled(z, errors, confidence)
  mean <- pooled_mean(fit, confidence)
  expected <- expected_in_new(z, errors, confidence)
  limits <- interval_from_z(groups$r, (1 - groups$r) * (1 + groups$r), groups$variance, confidence)
  without <- pooled_without(z, errors, confidence)
  new_pooled(
    x = gathered$x, y = gathered$y, by = or_default(gathered$by, NA_character_), coefficient = gathered$coefficient,
    k = nrow(groups), n = sum(groups$n), n_dropped = as.integer(gathered$n_dropped), confidence = confidence, r = mean$r,
    ci_low = mean$ci_low, ci_high = mean$ci_high, value = mean$value, df = mean$df, p = mean$p, tau = sqrt(fit$tau2),
    tau_low = sqrt(fit$tau2_low), tau_high = sqrt(fit$tau2_high), q = fit$q, q_df = fit$q_df, q_p = fit$q_p,
    i_squared = fit$i_squared, prediction_low = expected[1], prediction_high = expected[2], textbook = mean$textbook,
    groups = data.frame(
      groups[c("name", "source", "n", "r")],
      ci_low = limits$ci_low, ci_high = limits$ci_high, weight = fit$weights,
      r_without = without$r, tau_without = without$tau
    ),
    excluded = excluded, moderator = moderator_of_groups(z, errors, groups, options),
    asymmetry = pooled_asymmetry(z, groups$variance, confidence), variance_factor = gathered$factor,
    shared_cases = !is.null(gathered$likeness), reliability = corrected$reliability, given = options$given,
    p_without = without$p, cautions = gathered$cautions, of_table = !is.null(options$r),
    variables = gathered$variables, intake = gathered$intake
  )
}

# Errors that depend on one another are those of the study's own groups; what was published elsewhere stands apart.
errors_of_groups <- function(groups, likeness) {
  if (is.null(likeness)) return(groups$variance)
  whole <- diag(nrow(groups))
  whole[seq_len(nrow(likeness)), seq_len(nrow(likeness))] <- likeness
  size <- sqrt(groups$variance)
  whole * outer(size, size)
}

correct_groups <- function(groups, options, names) {
  if (is.null(options$correct_for)) return(list(groups = groups))
  reliabilities <- parse_reliabilities(options$correct_for, names)
  open <- names(reliabilities)[vapply(reliabilities, is.null, NA)]
  if (length(open)) {
    abort_usage(problem("The reliability of %s is not known.", open[1]), problem("Give it, as %s=0.8.", open[1]))
  }
  share <- sqrt(prod(unlist(reliabilities)))
  beyond <- which(abs(groups$r) >= share)
  if (length(beyond)) abort_undefined(
    problem("Corrected for attenuation, r of %s would exceed 1.", groups$name[beyond[1]]), "Check the reliabilities."
  )
  corrected <- groups$r / share
  # The error of r moves with r, that of z with the slope of z there.
  groups$variance <- groups$variance * ((1 - groups$r^2) / share / (1 - corrected^2))^2
  groups$r <- corrected
  list(groups = groups, reliability = unlist(reliabilities))
}

moderator_of_groups <- function(z, errors, groups, options) {
  if (is.null(options$moderator)) return(NULL)
  values <- unlist(groups$moderator)
  known <- !is.na(values)
  if (is.matrix(errors)) errors <- errors[known, known] else errors <- errors[known]
  moderated <- pooled_moderator(z[known], errors, values[known], options$confidence)
  if (is.null(moderated)) {
    abort_undefined(
      problem("r cannot be related to %s over %s.", options$moderator, count_in_english(sum(known), "group")),
      "It must vary, and there must be more groups than it has values."
    )
  }
  c(list(name = options$moderator, k = sum(known)), moderated)
}
