# Two documents of results, figure by figure.

# What names a run, is not a figure, or tells how the file was read.
apart_always <- c("kind", "version", "brief", "brief_digest", "data", "files", "record", "intake", "cases", "notes", "seed")

#' Two documents, figure by figure
#' @return A list: `figures`, how many were compared; `different`, a data frame of `where`, `before`, `now`.
#' @noRd
compare_figures <- function(before, now, apart) {
  old <- leaves_of(before, apart)
  new <- leaves_of(now, apart)
  where <- union(names(old), names(new))
  texts <- function(leaves) vapply(where, function(one) if (is.null(leaves[[one]])) "" else format_leaf(leaves[[one]]), "")
  same <- vapply(where, function(one) is_same_figure(old[[one]], new[[one]]), NA)
  different <- data.frame(where = where, before = texts(old), now = texts(new), row.names = NULL)[!same, ]
  rownames(different) <- NULL
  list(figures = length(where), different = different)
}

# Each figure or word of a document by its place, such as "pairs 1, relation, r".
leaves_of <- function(value, apart, place = character()) {
  if (!is.list(value)) return(stats::setNames(list(value), paste(place, collapse = ", ")))
  if (!length(value)) return(NULL)
  keys <- names(value)
  if (is.null(keys)) {
    last <- length(place)
    keys <- paste0(if (last) place[last], " ", seq_along(value))
    place <- place[-last]
  }
  compared <- which(!keys %in% apart)
  unlist(lapply(compared, function(k) leaves_of(value[[k]], apart, c(place, keys[k]))), recursive = FALSE)
}

format_leaf <- function(value) if (is.numeric(value)) sprintf("%.15g", value) else as.character(value)

is_same_figure <- function(before, now) {
  if (is.numeric(before) && is.numeric(now)) return(is_near(before, now))
  identical(before, now)
}

# To twelve digits.
is_near <- function(a, b) abs(a - b) <= 1e-12 * pmax(abs(a), abs(b)) + 1e-300

file_fault <- function(where, before, now) {
  data.frame(where = where, before = shorten(before, 60L), now = shorten(now, 60L))
}

no_fault <- function() file_fault(character(), character(), character())
