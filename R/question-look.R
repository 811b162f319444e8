overview_fields <- c(
  "variable", "label", "short", "unit", "level", "role", "n", "missing", "distinct", "mean", "sd", "min", "q1",
  "median", "q3",
  "max", "skewness", "outliers"
)

#' Describe the variables of a study
#'
#' Gives for each variable the number of values, its distribution and the number of outliers, and
#' reports how the file was read and what can be done next.
#'
#' @param study A study, or a data frame.
#' @return An overview (class `unsere_overview`), a list of:
#'   * `variables`: a data frame, one row per variable, of `variable`, `label`, `unit`, `level`, `role`, `n`
#'     (cases with a value), `missing`, `distinct`, `mean`, `sd`, `min`, `q1`, `median`, `q3`, `max` (in the
#'     unit of the variable; `NA` for text), `skewness` (Fisher's, from the k-statistics), `outliers` (see
#'     [find_outliers()])
#'   * `cases`, `complete` (cases without missing values), `pairs` (the smallest and largest number of complete
#'     pairs of two measures)
#'   * `counts`: for variables with up to seven values, or twelve groups, the `code`, `value` and `count` of
#'     each value
#'   * `provenance`, `time` (the time variable, declared or detected)
#'   * `answers`: cases with possibly careless answers, of `sign`, `count`, `detail`, `cases`
#' @section Errors: `unsere_error_input` if `study` is neither a study nor a data frame.
#' @references Tukey, J. W. (1977). *Exploratory data analysis*. Addison-Wesley. Fisher, R. A. (1929). Moments and
#'   product moments of sampling distributions. *Proceedings of the London Mathematical Society*, 30, 199-238.
#' @examples
#' overview(demo_study("learners"))
#' @export
overview <- function(study) answer_look(check_study(study), list())

question_look <- function() {
  new_question(
    "look", "overview", "describe the variables of a file and how it was read", "FILE", list(), answer_look,
    "look DEMO/learners.csv",
    place = 1
  )
}

answer_look <- function(study, given) {
  book <- study_book(study)
  if (!gives_rows(study, book$variable)) return(look_in_database(study))
  note_wanted(study, book$variable)
  measured <- names_with(study)
  entries <- book_entries(study, measured)
  steps <- vector("list", length(measured))
  for (k in which(entries$level == "ordinal")) {
    steps[k] <- list(steps_of(study_column(study, measured[k]), entries$values[k], measured[k]))
  }
  drawn <- design_of(study)
  grouped <- names_with(study, "group", "nominal")
  of <- c(measured, grouped)
  steps <- c(steps, vector("list", length(grouped)))
  counts <- Map(count_values, as.list(study_columns(study, of)), level_of(study, of), steps)
  time <- role_variable(with_likely_time(study), "time")
  variables <- summarise_variables(study, book$variable)
  measures <- varying_measures(variables, time)
  numeric <- measures_first(study, numeric_among(measures))
  new_result("overview", list(
    time = time, measures = measures$variable, numeric = numeric, waves = waves_among(numeric),
    trend = length(numeric) > 1L && !is.null(time) && has_series(study, numeric[1], numeric[2]),
    variables = variables, cases = study_size(study),
    complete = sum(stats::complete.cases(study_columns(study, study_names(study)))),
    pairs = complete_pairs(study_columns(study, measured)), counts = Filter(Negate(is.null), counts),
    provenance = study_provenance(study), answers = answer_signs(study), weight = drawn$weight
  ), c("variables", "cases", "complete"))
}

#' The rows of an overview's measures that vary and are no time, and which of them are numeric
#' @noRd
varying_measures <- function(variables, time) {
  variables[variables$role == "measure" & !variables$variable %in% time & !variables$distinct %in% 1L, ]
}

numeric_among <- function(rows) rows$variable[rows$level == "numeric" & !is.na(rows$mean)]

# What counts rows or names groups, units or trials comes after what was measured of them.
measures_first <- function(study, names) {
  may_count <- vapply(names, function(name) {
    column <- study_column(study, name)
    is_running(column) || names_units(column) && named_like(name, c(group_words, "trials?", "runs?", "items?", "orders?"))
  }, NA)
  later <- names %in% c(names[may_count], unit_columns(study))
  c(names[!later], names[later])
}

#' The first two measures that stand in a column for each of the same periods, two or more, as patterns: "Income *"
#' @noRd
waves_among <- function(names) {
  form <- "^(.*[^ _.-][ _.-]?)((?:19|20)[0-9]{2}|(?:t|w|wave|time|welle)[ _.-]?[0-9]{1,2})$"
  parts <- regmatches(names, regexec(form, names, ignore.case = TRUE, perl = TRUE))
  parts <- parts[lengths(parts) == 3L]
  stems <- vapply(parts, `[[`, "", 2L)
  periods <- split(vapply(parts, `[[`, "", 3L), factor(stems, unique(stems)))
  periods <- periods[lengths(periods) >= 2L]
  same <- Filter(function(stem) identical(periods[[stem]], periods[[1]]), names(periods))
  if (length(same) >= 2L) paste0(same[1:2], "*")
}

# Whether a trend of the two can be looked for.
has_series <- function(study, x, y) {
  tryCatch(sample_has_time(sample_pair(study, x, y)), unsere_error = function(e) FALSE)
}

#' The fewest and the most cases that two columns share; only columns with blanks need a look at their cases
#' @noRd
complete_pairs <- function(data) {
  if (ncol(data) < 2L) return(NULL)
  gaps <- Filter(any, lapply(data, is.na))
  whole <- ncol(data) - length(gaps)
  missing <- vapply(gaps, sum, 0L)
  lost <- c(if (whole > 1L) 0L, if (whole > 0L) missing)
  for (i in seq_along(gaps)) for (j in seq_len(i - 1L)) lost <- c(lost, sum(gaps[[i]] | gaps[[j]]))
  nrow(data) - rev(range(lost))
}

summarise_variable <- function(column, level) {
  given <- column[!is.na(column)]
  figures <- list(
    mean = NA_real_, sd = NA_real_, min = NA_real_, q1 = NA_real_, median = NA_real_, q3 = NA_real_, max = NA_real_,
    skewness = NA_real_, distinct = NULL, outliers = NA_integer_
  )
  if (length(given) && (is.numeric(column) || is.ordered(column)) && level != "nominal") {
    figures <- summary_figures(as.double(given))
    if (level != "numeric") figures$outliers <- NA_integer_
  }
  if (is.null(figures$distinct)) figures$distinct <- length(unique(given))
  c(list(n = length(given), missing = length(column) - length(given)), figures)
}

#' The figures of some variables, a row each, with what the codebook says of them
#' @noRd
summarise_variables <- function(study, names) {
  rows <- if (!gives_rows(study, names)) {
    summaries_in_database(study, names)
  } else {
    Map(summarise_variable, as.list(study_columns(study, names)), level_of(study, names))
  }
  fields <- stats::setNames(names(rows[[1]]), names(rows[[1]]))
  figures <- lapply(fields, function(field) unlist(lapply(rows, `[[`, field), use.names = FALSE))
  out <- list2DF(c(as.list(book_entries(study, names)[c("variable", "label", "short", "unit", "level", "role")]), figures))
  weighted_spreads(out, study, design_weight(study))[overview_fields]
}

#' Means and standard deviations weighted, where cases have weights
#' @param rows A data frame with `variable`, `mean` and `sd`.
#' @noRd
weighted_spreads <- function(rows, study, weight) {
  if (is.null(weight)) return(rows)
  for (k in which(!is.na(rows$mean) & !rows$role %in% c("weight", "replicate"))) {
    values <- code_values(study_column(study, rows$variable[k]))
    rows[k, c("mean", "sd")] <- as.list(spread_by_weight(values, weight))
  }
  rows
}

#' How many cases chose each value of a variable of few values
#' @noRd
#' @param steps Where the words of a scale stand, and what they say, or `NULL`.
#' @return A data frame: `code` (the number that counts for it, `NA` where there is none), `value`, `count`; or `NULL`.
#' @noRd
count_values <- function(column, level, steps = NULL) {
  most <- if (level == "nominal") 12L else 7L
  if (level == "numeric" || length(unique(utils::head(column, 1000L))) > most + 1L) return(NULL)
  given <- column[!is.na(column)]
  values <- if (level == "binary") sort_binary(unique(given)) else in_order(unique(given))
  if (!length(values) || length(values) > most) return(NULL)
  code <- if (is.ordered(values)) match(
    values,
    levels(column)
  ) else if (is.numeric(values)) as.double(values) else if (level == "binary") c(
    0,
    1
  )[seq_along(values)] else rep(NA_real_, length(values))
  word <- as.character(values)
  named <- match(code, steps$at)
  if (!is.ordered(values) && !all(is.na(named))) word <- ifelse(is.na(named), word, steps$labels[named])
  data.frame(code = as.double(code), value = word, count = vapply(values, function(value) sum(given == value), 0L))
}

#' What is in a table of so many cases: as far as counts and sums tell it
#' @noRd
look_in_database <- function(study) {
  book <- study_book(study)
  measured <- names_with(study)
  counts <- lapply(stats::setNames(measured, measured), function(name) {
    counted <- counts_known(study, name)
    if (is.null(counted)) return(NULL)
    entry <- book_entries(study, name)
    steps <- if (entry$level == "ordinal") steps_of(counted$value, entry$values, name)
    steps_told <- count_values(counted$value, entry$level, steps)
    if (!is.null(steps_told)) steps_told$count <- if (entry$level == "binary") {
      counted$n[match(sort_binary(counted$value), counted$value)]
    } else {
      counted$n
    }
    steps_told
  })
  provenance <- study_provenance(study)
  provenance$decisions[["elsewhere"]] <- template(paste(
    "the columns stay in the database, which counted and summed them; duplicate cases and straight-lining are not",
    "checked"
  ))
  variables <- summarise_variables(study, book$variable)
  measures <- varying_measures(variables, NULL)
  new_result("overview", list(
    variables = variables, measures = measures$variable, numeric = numeric_among(measures), cases = study_size(study),
    complete = complete_cases_in_database(study),
    pairs = NULL, counts = Filter(Negate(is.null), counts), provenance = provenance, answers = NULL,
    weight = NULL, vast = TRUE
  ), c("variables", "cases", "complete"))
}
