# The verbs of dplyr on a study, where it is installed: the codebook, the cases' names and their rows in the file stay with
# the cases and variables that stay.

#' @rawNamespace S3method(dplyr::filter, unsere_study)
filter.unsere_study <- function(.data, ...) keep_cases(.data, function(frame) dplyr::filter(frame, ...))

#' @rawNamespace S3method(dplyr::slice, unsere_study)
slice.unsere_study <- function(.data, ...) keep_cases(.data, function(frame) dplyr::slice(frame, ...))

#' @rawNamespace S3method(dplyr::arrange, unsere_study)
arrange.unsere_study <- function(.data, ...) keep_cases(.data, function(frame) dplyr::arrange(frame, ...))

#' @rawNamespace S3method(dplyr::select, unsere_study)
select.unsere_study <- function(.data, ...) keep_variables(.data, function(frame) dplyr::select(frame, ...))

#' @rawNamespace S3method(dplyr::relocate, unsere_study)
relocate.unsere_study <- function(.data, ...) keep_variables(.data, function(frame) dplyr::relocate(frame, ...))

#' @rawNamespace S3method(dplyr::rename, unsere_study)
rename.unsere_study <- function(.data, ...) keep_variables(.data, function(frame) dplyr::rename(frame, ...))

#' @rawNamespace S3method(dplyr::pull, unsere_study)
pull.unsere_study <- function(.data, ...) dplyr::pull(all_columns(.data), ...)

# A variable that is made anew is numeric, ordinal and so on by its values; one that only changes keeps its label and role.
#' @rawNamespace S3method(dplyr::mutate, unsere_study)
mutate.unsere_study <- function(.data, ...) {
  before <- all_columns(.data)
  after <- dplyr::mutate(before, ...)
  study <- .data
  for (name in setdiff(names(before), names(after))) study <- study[, setdiff(study_names(study), name)]
  for (name in names(after)) {
    if (!name %in% study_names(study)) {
      check_new_column(after[[name]], name)
      study <- with_column(study, name, after[[name]], "made by mutate()")
    } else if (!identical(after[[name]], before[[name]])) {
      check_new_column(after[[name]], name)
      study$data[[name]] <- after[[name]]
      level <- find_level(after[[name]])
      if (level != find_level(before[[name]])) study <- with_entry(study, name, list(level = level))
    }
  }
  study$converted <- new.env(parent = emptyenv())
  study[, names(after)]
}

check_new_column <- function(values, name) {
  if (!is.atomic(values) || !is.null(dim(values))) {
    abort_input(problem("%s is not a column of single values.", name), "Make each value a case.")
  }
}

all_columns <- function(study) study_columns(study, study_names(study))

keep_cases <- function(study, verb) {
  mark <- place_mark(study)
  frame <- all_columns(study)
  frame[[mark]] <- seq_len(nrow(frame))
  study[verb(frame)[[mark]], ]
}

keep_variables <- function(study, verb) {
  # What stays, under which name: each column holds the number of the variable that it is.
  frame <- all_columns(study)[0, , drop = FALSE]
  names <- names(frame)
  frame[] <- lapply(seq_along(frame), function(k) structure(frame[[k]], unsere_place = k))
  frame_kept <- verb(frame)
  from <- names[vapply(frame_kept, function(column) attr(column, "unsere_place"), 0L)]
  rename_variables(study[, from], from, names(frame_kept))
}

rename_variables <- function(study, from, to) {
  anew <- function(names) {
    at <- match(names, from)
    ifelse(is.na(at), names, to[at])
  }
  names(study$data) <- study$codebook$variable <- to
  if (!is.null(study$plausible)) {
    study$plausible <- lapply(study$plausible, anew)
    names(study$plausible) <- anew(names(study$plausible))
  }
  roles <- intersect(c("weight", "stratum", "cluster", "replicates"), names(study$design))
  study$design[roles] <- lapply(study$design[roles], anew)
  if (!is.null(study$provenance$coded)) names(study$provenance$coded) <- anew(names(study$provenance$coded))
  study$converted <- new.env(parent = emptyenv())
  study
}

# A name that no variable has.
place_mark <- function(study) utils::tail(make.unique(c(study_names(study), ".place")), 1)
