# Cautions as R shows them by themselves.

#' @export
format.unsere_cautions <- function(x, ..., variables = NULL, door = door_r()) {
  if (!nrow(x)) return(say("No caution."))
  if (is.null(variables)) variables <- data.frame(variable = character(), label = character(), unit = character())
  set_cautions(x, variables, door)[-(1:2)]
}

#' @export
print.unsere_cautions <- function(x, ...) {
  cat(format(x, ...), sep = "\n")
  invisible(x)
}
