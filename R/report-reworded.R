# A brief over another file, such as next month's export: a question that was reworded there is still the same question.

#' A study whose reworded variables have the names that the brief knows
#'
#' A name that the file lacks is taken for one of its variables where that one is new to the brief and reads alike: but for
#' marks and what stands in brackets, or with a few words more, or with a letter in five changed; and where no other does.
#' @return The study; what was taken for what is among its decisions.
#' @noRd
with_reworded_names <- function(read, study) {
  known <- unique(unlist(brief_names(patterns_in_brief(read$brief, study_names(study)))))
  made <- c(names(read$brief$derive), names(read$brief$plausible), names(read$brief$scores))
  lacking <- Filter(function(name) !grepl("*", name, fixed = TRUE), setdiff(known, c(study_names(study), made)))
  new <- setdiff(study_names(study), known)
  if (!length(lacking) || !length(new)) return(study)
  alike <- outer(lacking, new, Vectorize(reads_alike))
  for (k in which(rowSums(alike) == 1L)) {
    at <- which(alike[k, ])
    if (sum(alike[, at]) != 1L) next
    names <- study_names(study)
    study <- rename_variables(study, names, replace(names, names == new[at], lacking[k]))
    note <- template("\"%s\" is taken for \"%s\" of the brief, which it rewords", new[at], lacking[k])
    study <- with_decision(study, "reworded", about(note, lacking[k]))
  }
  study
}

reads_alike <- function(old, new) {
  bare <- function(text) trimws(gsub("[^[:alnum:]]+", " ", gsub("[(\\[][^)\\]]*[)\\]]", "", tolower(text), perl = TRUE)))
  a <- bare(old)
  b <- bare(new)
  if (nchar(a) < 4L || nchar(b) < 4L) return(FALSE)
  if (a == b) return(TRUE)
  if (min(nchar(a), nchar(b)) >= 12L && (startsWith(a, b) || startsWith(b, a))) return(TRUE)
  min(nchar(a), nchar(b)) >= 12L && utils::adist(a, b)[1] <= max(nchar(a), nchar(b)) / 5
}
