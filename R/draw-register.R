# The register of figures: each is declared in the file that draws it, by a function `drawing_NAME()`, and is found by that
# name; the command reads there what it takes, and with which options.

#' A figure as it is declared
#'
#' @param name What the command calls it; `place` its place in lists.
#' @param least,most How many variables it takes; `of` what it is of, `"study"` or `"folder"` (of results).
#' @param draw From the study, the names of the variables, the settled options and the texts to a figure.
#' @param arguments Its options beyond those that every figure has; `at` the type of the values that it predicts at.
#' @param width,height In inches, from the number of variables.
#' @noRd
new_drawing <- function(name, place, least, most, draw, arguments = list(), at = NULL, of = "study", width = function(n) 8,
                        height = function(n) if (n > 4) 7 else 5) {
  as.list(environment())
}

all_drawings <- function() collect_records("drawing")

#' "scatter, residuals, ..., history (FILE is then a folder of results)"
#' @noRd
names_of_drawings <- function() {
  of_folder <- vapply(all_drawings(), function(drawing) drawing$of == "folder", NA)
  toString(paste0(names(of_folder), ifelse(of_folder, " (FILE is then a folder of results)", "")))
}

#' The options of all figures, each once
#' @noRd
all_drawing_arguments <- function() {
  own <- do.call(c, lapply(unname(all_drawings()), `[[`, "arguments"))
  c(own[!duplicated(names(own))], shared_drawing_arguments())
}

# Those that every figure takes.
shared_drawing_arguments <- function() {
  inches <- function(help) argument("number", help, value = "INCHES", from = 1, to = 60)
  c(
    shared_arguments("confidence"), list(
      title = argument("text", "the title of the figure", value = "TEXT"),
      plain = argument("flag", "omit title, subtitle and caption", default = FALSE),
      width = inches("the width of the figure, in inches"), height = inches("the height of the figure, in inches")
    )
  )
}

shape_argument <- function() {
  argument("choice", "the shape of the line", default = "linear", value = "S", allowed = line_shapes)
}

at_argument <- function() {
  argument("text", "values at which Y is predicted (predictors: name=value,name=value)", value = "A,B")
}

compare_log_argument <- function() {
  list(compare_log = argument("flag", "add the natural logarithm", default = FALSE))
}
