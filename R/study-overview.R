overview_fields <- c(
  "variable", "label", "unit", "level", "role", "n", "missing", "distinct", "mean", "sd", "min", "q1", "median", "q3",
  "max", "skewness", "outliers"
)

#' What is in a study
#'
#' A row a variable: how many cases have a value, where it lies and how it spreads, and how many cases stand far out;
#' together with how the file was read and what can be done next.
#'
#' @param study A study, or a data frame.
#' @return An overview (class `unsere_overview`), a list of `variables` (a data frame: `variable`, `label`, `unit`,
#'   `level`, `role`, `n` (cases with a value), `missing`, `distinct`, `mean`, `sd`, `min`, `q1`, `median`, `q3`, `max`
#'   (in the unit of the variable; `NA` for text), `skewness` (Fisher's, from the k-statistics), `outliers` (by
#'   [find_outliers()])), `cases`, `complete` (cases without any blank), `pairs` (the fewest and the most complete pairs
#'   that two measures share), `counts` (for variables with up to seven values: each value's count), `provenance`.
#' @section Errors: `unsere_error_input` when `study` is neither a study nor a data frame.
#' @references Tukey, J. W. (1977). *Exploratory data analysis*. Addison-Wesley. Fisher, R. A. (1929). Moments and
#'   product moments of sampling distributions. *Proceedings of the London Mathematical Society*, 30, 199-238.
#' @examples
#' overview(demo_study("learners"))
#' @export
overview <- function(study) {
  study <- check_study(study)
  rows <- lapply(study$codebook$variable, summarise_variable, study)
  measured <- study$codebook$variable[study$codebook$role == "measure"]
  counts <- lapply(stats::setNames(measured, measured), function(name) count_values(study, name))
  structure(
    list(
      variables = do.call(rbind, rows), cases = nrow(study$data), complete = sum(stats::complete.cases(study$data)),
      pairs = complete_pairs(study$data[measured]), counts = Filter(Negate(is.null), counts),
        provenance = study$provenance
    ),
    class = c("unsere_overview", "unsere_result")
  )
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

#' @export
as.data.frame.unsere_overview <- function(x, ...) x$variables

summarise_variable <- function(name, study) {
  entry <- study$codebook[study$codebook$variable == name, ]
  column <- study$data[[name]]
  given <- column[!is.na(column)]
  figures <- stats::setNames(as.list(rep(NA_real_, 8)), c("mean", "sd", "min", "q1", "median", "q3", "max", "skewness"))
  outliers <- NA_integer_
  if (length(given) && (is.numeric(column) || is.ordered(column)) && entry$level != "nominal") {
    values <- as.double(given)
    figures <- summary_figures(values)
    if (entry$level == "numeric") outliers <- sum(far_out(values)$far)
  }
  data.frame(entry[c("variable", "label", "unit", "level", "role")], n = length(given), missing = sum(is.na(column)),
    distinct = length(unique(given)), figures, outliers = outliers, row.names = NULL
  )[overview_fields]
}

summary_figures <- function(values) {
  n <- length(values)
  spread <- if (n > 1) measure_spread(values) else list(mean = values[1], sd = NA_real_)
  quarters <- stats::quantile(values, c(0, .25, .5, .75, 1), names = FALSE)
  skewness <- if (n > 2 && spread$sd > 0) skewness_k(power_sums(values), n) else NA_real_
  list(
    mean = spread$mean, sd = spread$sd, min = quarters[1], q1 = quarters[2], median = quarters[3], q3 = quarters[4],
    max = quarters[5], skewness = skewness
  )
}

count_values <- function(study, name) {
  column <- study$data[[name]]
  level <- study$codebook$level[study$codebook$variable == name]
  given <- column[!is.na(column)]
  values <- if (level == "binary") sort_binary(unique(given)) else sort(unique(given))
  if (!length(values) || length(values) > 7L || level == "numeric") return(NULL)
  data.frame(value = as.character(values), count = vapply(values, function(value) sum(given == value), 0L))
}

#' Cases that lie far from the others
#'
#' A value counts as far out when it lies more than one and a half times the distance between the quartiles below the
#' first or above the third (Tukey 1977). It is a reason to look the case up, not to leave it out.
#'
#' @param study A study, or a data frame.
#' @param ... The variables: bare names or strings; all numeric ones when none is given.
#' @return A data frame, a row a value, the farthest first: `variable`, `case`, `row` (in the file), `value` (in the
#'   unit of the variable), `side` (`low` or `high`), `distance` (how many times the distance between the quartiles it
#'   lies beyond the nearer quartile).
#' @section Errors: `unsere_error_input` for an unknown variable or for text where numbers are wanted.
#' @references Tukey, J. W. (1977). *Exploratory data analysis*. Addison-Wesley.
#' @examples
#' find_outliers(demo_study("learners"))
#' find_outliers(demo_study("learners"), attendance_pct)
#' @export
find_outliers <- function(study, ...) {
  study <- check_study(study)
  chosen <- pick_or_numeric(study, rlang::enquos(...))
  if (!length(chosen)) abort_input("There is no numeric variable to look through.", "Name the variables.")
  found <- do.call(rbind, lapply(chosen, function(name) outliers_of(study, name)))
  found <- found[order(-found$distance), ]
  rownames(found) <- NULL
  found
}

outliers_of <- function(study, name) {
  values <- numbers_of(study, name)$values
  present <- which(!is.na(values))
  found <- far_out(values[present])
  at <- present[found$far]
  data.frame(
    variable = rep(name, length(at)), case = case_names(study)[at], row = row_in_file(study, at), value = values[at],
    side = ifelse(found$distance[found$far] < 0, "low", "high"), distance = abs(found$distance[found$far])
  )
}

#' @return A list: `far` (logical), `distance` (signed, in distances between the quartiles beyond the nearer one).
#' @noRd
far_out <- function(values) {
  if (length(values) < 4L) return(list(far = logical(length(values)), distance = numeric(length(values))))
  quarters <- stats::quantile(values, c(.25, .75), names = FALSE)
  width <- diff(quarters)
  beyond <- pmax(values - quarters[2], 0) + pmin(values - quarters[1], 0)
  distance <- if (width > 0) beyond / width else ifelse(beyond == 0, 0, sign(beyond) * Inf)
  list(far = abs(distance) > 1.5, distance = distance)
}
