#' Find outliers
#'
#' A value is an outlier if it lies more than one and a half interquartile ranges below the first or above the
#' third quartile (Tukey 1977). This is a reason to check the case, not to exclude it.
#'
#' @param study A study, or a data frame.
#' @param ... The variables: bare names or strings. Default: all numeric ones.
#' @return A data frame, one row per outlier, the most extreme first: `variable`, `case`, `row` (in the file),
#'   `value` (in the unit of the variable), `side` (`low` or `high`), `distance` (from the nearer quartile, in
#'   interquartile ranges).
#' @section Errors: `unsere_error_input` for an unknown variable, or for text where numbers are needed.
#' @references Tukey, J. W. (1977). *Exploratory data analysis*. Addison-Wesley.
#' @examples
#' find_outliers(demo_study("learners"))
#' find_outliers(demo_study("learners"), attendance_pct)
#' @export
find_outliers <- function(study, ...) {
  study <- check_study(study)
  chosen <- pick_or_numeric(study, rlang::enquos(...))
  if (!length(chosen)) abort_input("There is no numeric variable to search.", "Name the variables.")
  outliers <- do.call(rbind, lapply(chosen, function(name) outliers_of(study, name)))
  outliers <- outliers[order(-outliers$distance), ]
  rownames(outliers) <- NULL
  outliers
}

outliers_of <- function(study, name) {
  values <- study_numbers(study, name)$values
  present <- which(!is.na(values))
  outlying <- far_out(values[present])
  at <- present[outlying$far]
  distance <- outlying$distance[outlying$far]
  data.frame(
    variable = rep(name, length(at)), case = case_names(study, at), row = file_rows(study, at), value = values[at],
    side = ifelse(distance < 0, "low", "high"), distance = abs(distance)
  )
}
