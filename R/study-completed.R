# A study with imputed data or plausible values as the several studies that it stands for.

#' @param names The variables that a question asks for.
#' @return A list of studies, each with one value in the place of each such variable; the study alone where none has several.
#' @noRd
completed_studies <- function(study, names) {
  versions <- plausible_versions(study, names)
  if (length(versions) < 2L) return(list(study))
  lapply(versions, function(columns) {
    one <- study
    for (k in which(columns != names)) {
      one$data[[names[k]]] <- study$data[[columns[k]]]
      one$codebook[one$codebook$variable == names[k], c("level", "values")] <-
        study$codebook[study$codebook$variable == columns[k], c("level", "values")]
    }
    one$plausible <- one$plausible[setdiff(base::names(one$plausible), names)]
    one$imputed <- NULL
    one$converted <- new.env(parent = emptyenv())
    one
  })
}

#' What a result tells of how many sets it was pooled over, and of which kind
#' @noRd
told_sets <- function(study, sets) {
  if (length(sets) > 1L) list(sets = length(sets), imputed = !is.null(study$imputed))
}
