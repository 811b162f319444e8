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
  values <- study_numbers(study, name)$values
  present <- which(!is.na(values))
  found <- far_out(values[present])
  at <- present[found$far]
  distance <- found$distance[found$far]
  data.frame(
    variable = rep(name, length(at)), case = case_names(study, at), row = file_rows(study, at), value = values[at],
    side = ifelse(distance < 0, "low", "high"), distance = abs(distance)
  )
}
