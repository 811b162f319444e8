#' Declare imputed data
#'
#' Turns several completed data sets (multiple imputation) into one study. Variables that differ between the
#' sets are known by one value per set; each analysis is carried out for every set and the results are
#' pooled by Rubin's (1987) rules, with the degrees of freedom of Barnard and Rubin (1999).
#'
#' @param study The completed data sets: in long form (a study or a data frame in which `number` says which
#'   set a row belongs to), or a list of data frames, or the path of a folder with one file per set.
#' @param number The variable with the number of the set (long form only); 0, or a missing number, marks the
#'   original data, which are not used. Cases are matched by the variable with the role case, otherwise by
#'   their order.
#' @return The study, one row per case. `relate()` and the other functions give `imputed` (number of sets),
#'   `share_between` (proportion of the variance that lies between sets) and `missing_information` (fraction
#'   of missing information).
#' @section Errors: `unsere_error_input` if the sets do not hold the same cases or variables;
#'   `unsere_error_usage` for fewer than two sets.
#' @references Rubin, D. B. (1987). *Multiple imputation for nonresponse in surveys*. Wiley. Barnard, J., &
#'   Rubin, D. B. (1999). Small-sample degrees of freedom with multiple imputation. *Biometrika*, 86,
#'   948-955.
#' @examples
#' learners <- as.data.frame(demo_study("learners"))[c("practice_hours", "speaking_score")]
#' set.seed(3)
#' sets <- lapply(1:5, function(k) {
#'   gaps <- is.na(learners$speaking_score)
#'   seen <- learners$speaking_score[!gaps]
#'   learners$speaking_score[gaps] <- sample(seen, sum(gaps), replace = TRUE)
#'   learners
#' })
#' relate(set_imputed(sets), practice_hours, speaking_score)
#' @export
set_imputed <- function(study, number = NULL) {
  if (is_word(study) && dir.exists(study)) study <- read_sets(study)
  if (is.list(study) && !is.data.frame(study) && !inherits(study, "unsere_study")) return(study_of_sets(study))
  study <- check_study(study)
  name <- pick_optional(study, rlang::enquo(number), "number")
  if (is.null(name)) abort_usage("`number` is missing.", "Name the variable with the number of the completed data set.")
  with_imputed(study, name)
}

read_sets <- function(folder) {
  files <- sort(list.files(folder, full.names = TRUE))
  files <- files[!dir.exists(files)]
  if (length(files) < 2L) {
    abort_input(problem("%s has fewer than two files.", folder), "Put one file per completed set in it.")
  }
  lapply(files, function(file) as.data.frame(read_study(file)))
}

study_of_sets <- function(sets) {
  sets <- lapply(sets, function(set) as.data.frame(check_study(set)))
  names <- names(sets[[1]])
  same <- vapply(sets, function(set) setequal(names(set), names) && nrow(set) == nrow(sets[[1]]), NA)
  if (!all(same)) abort_input(
    problem("Data set %d has other variables or another number of cases than the first.", which(!same)[1]),
    "Completed data sets hold the same cases and variables."
  )
  number <- "completed_set"
  while (number %in% names) number <- paste0(number, "_")
  rows <- do.call(rbind, lapply(sets, function(set) set[names]))
  rows[[number]] <- rep(seq_along(sets), each = nrow(sets[[1]]))
  with_imputed(as_study(rows), number)
}

#' A long study of completed data sets as one row a case
#' @noRd
with_imputed <- function(study, number) {
  check_variable(study, number)
  if (length(study$plausible)) {
    abort_usage("Imputed data and plausible values are not combined.", "Declare one of them.")
  }
  set <- study_numbers(study, number)$values
  kinds <- sort(unique(set[!is.na(set) & set != 0]))
  if (length(kinds) < 2L) {
    abort_usage(problem("%s has fewer than two completed data sets.", number), "Name the variable with their number.")
  }
  places <- matched_rows(study, lapply(kinds, function(kind) which(set %in% kind)), number)
  columns <- setdiff(study_names(study), number)
  differ <- Filter(function(name) {
    column <- study$data[[name]]
    any(vapply(places[-1], function(rows) !identical(column[rows], column[places[[1]]]), NA))
  }, columns)
  if (!length(differ)) abort_input("No variable differs between the completed data sets.", "Nothing was imputed.")
  one <- study[places[[1]], ]
  one$data[[number]] <- NULL
  one$codebook <- one$codebook[one$codebook$variable != number, ]
  for (name in differ) one <- with_imputed_column(one, study, name, places)
  one$imputed <- length(kinds)
  one$converted <- new.env(parent = emptyenv())
  one$provenance$decisions <- c(one$provenance$decisions, list(template(
    "imputed data: %d completed data sets of %d cases; imputed: %s", length(kinds), length(places[[1]]), toString(differ)
  )))
  one
}

#' A study whose sets stand side by side already, as a record of results has them
#' @noRd
as_imputed <- function(study, book) {
  study$imputed <- length(study$plausible[[1]])
  for (name in names(study$plausible)) {
    study <- with_entry(study, name, list(role = or_default(book$role[book$variable == name], "measure")))
  }
  study
}

# The rows of each set in one order: that of the cases' names, where there are any.
matched_rows <- function(study, rows, number) {
  sizes <- lengths(rows)
  naming <- role_variable(study, "case")
  if (length(unique(sizes)) > 1L) {
    odd <- which(sizes != sizes[1])[1]
    abort_input(
      problem("Completed data set %d has %d cases, the first has %d.", odd, sizes[odd], sizes[1]),
      "Completed data sets hold the same cases."
    )
  }
  if (is.null(naming)) return(rows)
  words <- as.character(study$data[[naming]])
  first <- words[rows[[1]]]
  if (anyNA(first) || anyDuplicated(first)) {
    abort_input(problem("%s does not name each case of a completed data set once.", naming), "Correct its role.")
  }
  lapply(rows, function(at) {
    order <- match(first, words[at])
    if (anyNA(order)) abort_input(
      problem("%s \"%s\" is not in every completed data set.", naming, first[is.na(order)][1]),
      "Completed data sets hold the same cases."
    )
    at[order]
  })
}

with_imputed_column <- function(one, study, name, places) {
  entry <- one$codebook[one$codebook$variable == name, ]
  values <- sprintf("%s_set%d", name, seq_along(places))
  for (k in seq_along(places)) {
    one$data[[values[k]]] <- study$data[[name]][places[[k]]]
    added <- entry
    added[c("variable", "role", "source")] <- list(values[k], "about", paste("completed data set", k))
    one$codebook <- rbind(one$codebook, added)
  }
  rownames(one$codebook) <- NULL
  if (entry$level == "nominal") return(one)
  numbers <- lapply(values, function(value) study_numbers(one, value)$values)
  one$data[[name]] <- rowMeans(do.call(cbind, numbers))
  at <- one$codebook$variable == name
  one$codebook[at, c("level", "values")] <- list("numeric", NA_character_)
  one$plausible[[name]] <- values
  one
}
