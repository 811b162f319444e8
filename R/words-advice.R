#' @export
format.unsere_advice <- function(x, ...) {
  variables <- x$variables
  named <- sprintf("%s (%s)", label_of(variables, c(x$x, x$y)), say(x$levels))
  c(
    set_title(paste(named, collapse = say(" and "))), "",
    set_entries(list(
      coefficient = if (is.na(x$coefficient)) say("none") else coefficient_label(x$coefficient),
      why = capital(paste0(say(x$reason), "."))
    )),
    "", say("See also"),
    unlist(lapply(say(x$also), function(text) strwrap(text, text_width() + 1L, indent = 2, exdent = 4)))
  )
}
