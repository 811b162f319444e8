# Cautions as R shows them by themselves.

#' @export
format.unsere_cautions <- function(x, ..., variables = NULL, door = door_r()) {
  if (!nrow(x)) return(say("No cautions."))
  if (is.null(variables)) variables <- no_variables()
  set_cautions(x, variables, door)[-(1:2)]
}

#' @export
print.unsere_cautions <- function(x, ...) {
  cat(format(x, ...), sep = "\n")
  invisible(x)
}

# Some of its columns are a plain table: what is not there cannot be said.
#' @export
`[.unsere_cautions` <- function(x, ...) {
  part <- NextMethod()
  if (is.data.frame(part) && !all(c("code", "severity", "x", "y", "figures", "next_step") %in% names(part))) {
    class(part) <- "data.frame"
  }
  part
}
