# r corrected for a restricted range: as it would be in the population that the cases were selected from; beside r, never
# instead of it.

#' A relation with r corrected for restriction of range, where that is asked
#'
#' @param options Settled arguments; `correct_range` is one `name=sd`: the variable by which cases were selected and its
#'   standard deviation in the population; `restriction` `"direct"`, or `"indirect"` for a selection by something that
#'   goes with the variable, for which `correct_for` gives its reliability.
#' @noRd
with_unrestricted <- function(study, relation, options) {
  if (is.null(options$correct_range)) return(relation)
  if (relation$coefficient != straight_record()$name || relation$scheme != "simple") {
    abort_usage(
      "Only Pearson's r of independent cases is corrected for restriction of range.",
      "Without control variables, design or plausible values."
    )
  }
  restriction <- parse_restriction(study, options$correct_range)
  check_restriction(restriction$name, relation, options)
  sample <- relation$sample
  side <- match(restriction$name, c(relation$x, relation$y))
  third <- if (is.na(side)) selecting_column(study, restriction$name, sample)
  value <- if (!is.na(side)) list(relation$estimate$x, relation$estimate$y)[[side]] else third
  here <- stats::sd(value, na.rm = TRUE)
  ratio <- restriction$sd / here
  corrected <- if (!is.null(third)) {
    range_by_third(relation, third, restriction$sd)
  } else if (options$restriction == "indirect") {
    range_by_indirect(relation, value, restriction, options)
  } else {
    c(unrestrict_direct(relation$r, ratio), unrestrict_direct(c(relation$ci_low, relation$ci_high), ratio))
  }
  if (is.na(corrected[1])) {
    abort_undefined(
      problem("With this reliability and SD of %s r cannot be corrected.", restriction$name), "Check both."
    )
  }
  relation$unrestricted <- list(
    name = restriction$name, restriction = if (!is.null(third)) "third" else options$restriction, sd = here,
    population_sd = restriction$sd, r = corrected[[1]], ci_low = corrected[[2]], ci_high = corrected[[3]]
  )
  relation
}

parse_restriction <- function(study, declared) {
  named <- if (is.null(names(declared))) NULL else names(declared)[1]
  one <- as.character(declared[[1]])
  parts <- if (is.null(named)) trimws(strsplit(one, "=", fixed = TRUE)[[1]]) else c(named, one)
  sd <- suppressWarnings(as.numeric(parts[2]))
  if (length(declared) != 1L || length(parts) != 2L || !isTRUE(is.finite(sd) && sd > 0)) {
    abort_usage(
      "`correct_range` is one variable with its standard deviation in the population.", "For example practice_hours=4.2."
    )
  }
  list(name = check_variable(study, parts[1]), sd = sd)
}

check_restriction <- function(name, relation, options) {
  if (options$restriction == "direct") return(invisible())
  if (!name %in% c(relation$x, relation$y)) {
    abort_usage(problem("%s is not one of the pair, so its restriction is not indirect.", name), "Leave out `restriction`.")
  }
  if (!name %in% names(relation$reliability)) {
    abort_usage(
      problem("An indirect restriction needs the reliability of %s.", name),
      problem("Give it with correct_for, as %s=0.8.", name)
    )
  }
}

# The variable that cases were selected by.
selecting_column <- function(study, name, sample) {
  values <- study_numbers(study, name)$values[sample$row]
  known <- values[!is.na(values)]
  if (length(known) < 5L || min(known) == max(known)) {
    abort_undefined(problem("%s does not vary among the cases of the pair.", name), "Name the variable of selection.")
  }
  values
}

range_by_third <- function(relation, third, sd) {
  # All three correlations are those of the cases that have the third variable.
  known <- !is.na(third)
  x <- relation$estimate$x[known]
  y <- relation$estimate$y[known]
  third <- third[known]
  r_with <- function(v) measure_pearson(v, third, c("", ""))$r
  whole <- unrestrict_third(measure_pearson(x, y, c("", ""))$r, r_with(x), r_with(y), sd / stats::sd(third))
  replicates_of <- function(a, b) leave_one_out(a, b, FALSE, 2L)
  without <- unrestrict_third(replicates_of(x, y), replicates_of(x, third), replicates_of(y, third), sd / sd_without(third))
  c(whole, limits_of_unrestricted(whole, without, relation$confidence))
}

range_by_indirect <- function(relation, value, restriction, options) {
  reliability <- relation$reliability[[restriction$name]]
  whole <- unrestrict_indirect(relation$r, restriction$sd / stats::sd(value), reliability)
  replicates <- leave_one_out(relation$estimate$x, relation$estimate$y, FALSE, 2L)
  without <- unrestrict_indirect(replicates, restriction$sd / sd_without(value), reliability)
  c(whole, limits_of_unrestricted(whole, without, relation$confidence))
}
