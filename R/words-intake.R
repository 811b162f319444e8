# How the data of a result were read, in a line: sheet, marks, what was left out, the codebook; and what counts as 1.

intake_of <- function(result) {
  if (!is.null(result$intake)) return(result$intake)
  of <- if (is.null(result$originals)) result else result$originals[[1]]
  sample <- if (is.null(of$sample)) of$relation$sample else of$sample
  if (!is.null(sample)) sample_intake(sample)
}

#' "learners.xlsx: sheet ...; headings found in row 3", or `NULL` where nothing had to be decided
#' @noRd
intake_clause <- function(result) {
  intake <- intake_of(result)
  if (!length(intake$texts)) return(NULL)
  paste0(if (!is.null(intake$file)) paste0(intake$file, ": "), paste(fill_templates(intake$texts), collapse = "; "))
}

#' "\"yes\" of Retired counts as 1; ..."
#' @noRd
coding_clause <- function(result, variables) {
  coding <- intake_of(result)$coding
  if (is.null(coding) || !nrow(coding)) return(NULL)
  shown <- utils::head(coding, 12)
  more <- if (nrow(coding) > 12L) say("; and of %d more the one named in JSON", nrow(coding) - 12L) else ""
  clause <- say("\"%s\" of %s counts as 1", shown$one, label_of(variables, shown$variable))
  paste0(paste(clause, collapse = "; "), more)
}

#' Both as entries under a result of several pairs
#' @noRd
set_intake <- function(result, variables) {
  set_entries(list(coding = coding_clause(result, variables), read = intake_clause(result)))
}

intake_fields <- function(result) {
  intake <- intake_of(result)
  if (is.null(intake)) return(NULL)
  list(intake = list(
    file = intake$file, sheet = intake$sheet, decisions = as.list(fill_templates(intake$decisions)), coding = intake$coding,
    steps = or_default(intake$steps, list())
  ))
}
