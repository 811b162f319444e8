# The forms that a report can take. Each stands in a file of its own, `write-NAME.R`, as a function `form_NAME()` that
# builds its record, and is found by that name.

#' @param name What a brief calls it, which is the ending of its file; `place` its place in lists.
#' @param write From a report and a path to a file; `needs` the packages it takes.
#' @param pictures Whether it holds figures as pictures, which are made first.
#' @param ready Gives what is lacking on this machine, a sentence, or `NULL`.
#' @noRd
new_form <- function(name, place, write, needs = character(), pictures = FALSE,
                     ready = function() NULL) {
  list(name = name, place = place, write = write, needs = needs, pictures = pictures, ready = ready)
}

output_forms <- function() collect_records("form")
