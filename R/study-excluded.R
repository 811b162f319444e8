#' Exclude cases, with a reason
#'
#' Excluded cases remain in the file but are not used in any result or figure. Each result and the report state how
#' many were excluded, which ones and why.
#'
#' @param study A study, or a data frame.
#' @param cases The cases: their names, as results print them (`"L137"`, or `"row 12"` if no variable names them), or
#'   their numbers in the study.
#' @param reason The reason; one string, or one for each case.
#' @return The study without these cases; `provenance$aside` is a data frame of `case`, `row` (in the file), `reason`.
#' @section Errors: `unsere_error_input` if there is no such case, or a name is that of several; `unsere_error_usage`
#'   without a reason.
#' @examples
#' learners <- leave_out(demo_study("learners"), "L137", "attendance mistyped")
#' relate(learners, practice_hours, attendance_pct)
#' @export
leave_out <- function(study, cases, reason) {
  study <- check_study(study)
  if (missing(reason) || !is.character(reason) || !length(reason) || !all(nzchar(trimws(reason))) || anyNA(reason)) {
    abort_usage("A case is excluded with a reason.", "For example leave_out(study, \"L137\", \"attendance mistyped\").")
  }
  if (!length(reason) %in% c(1L, length(cases))) {
    abort_usage("There must be one `reason`, or one for each case.", "Give as many as cases.")
  }
  at <- places_of_cases(study, cases)
  exclusions <- data.frame(
    case = case_names(study, at), row = file_rows(study, at), reason = rep_len(plain_text(trimws(reason)), length(at))
  )
  exclusions <- exclusions[!duplicated(at), ]
  at <- unique(at)
  if (length(at) >= study_size(study)) abort_input("No case would be left.", "Exclude fewer.")
  out <- study[-at, ]
  out$provenance$aside <- rbind(study$provenance$aside, exclusions)
  with_excluded_told(out)
}

places_of_cases <- function(study, cases) {
  if (is.numeric(cases)) {
    wrong <- cases[!cases %in% seq_len(study_size(study))]
    if (!length(wrong)) return(as.integer(cases))
    abort_input(problem("There is no case %s.", format(wrong[1])), problem("The data have %d.", study_size(study)))
  }
  names <- case_names(study)
  at <- match_cases(names, cases)
  if (anyNA(at)) {
    wrong <- as.character(cases)[is.na(at)][1]
    abort_input(problem("No case is named \"%s\".", wrong), suggest_names(wrong, names, "cases"))
  }
  twice <- cases[cases %in% names[duplicated(names)]]
  if (length(twice)) {
    abort_input(problem("Several cases are named \"%s\".", twice[1]), "Give its number, counted from the first case.")
  }
  at
}

# By name, or by number where a folder that was handed on calls them so.
match_cases <- function(names, cases) {
  at <- match(as.character(cases), names)
  numbered <- is.na(at) & grepl("^case [0-9]+$", cases)
  number <- as.integer(sub("^case ", "", cases[numbered]))
  at[numbered] <- ifelse(number >= 1L & number <= length(names), number, NA)
  at
}

no_cases <- function(study, cases) cases[is.na(match_cases(case_names(study), cases))]

# Said with every result, beside how the file was read.
with_excluded_told <- function(study) {
  aside <- study$provenance$aside
  shown <- utils::head(aside, 6L)
  more <- if (nrow(aside) > 6L) template("; and %d more", nrow(aside) - 6L) else ""
  note <- template("excluded: %s%s", paste(sprintf("%s (%s)", shown$case, shown$reason), collapse = "; "), more)
  decisions <- study$provenance$decisions
  study$provenance$decisions <- c(decisions[!names(or_default(decisions, "")) %in% "aside"], aside = note)
  study
}
